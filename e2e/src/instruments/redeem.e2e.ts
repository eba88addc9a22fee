import { atField, confirm, expect, expectAccessible, logIn, rowWith, test } from '../coffer.ts';

test('a bond is composed in full, with what is wrong said at its field', async ({ page }) => {
  await logIn(page);
  await page.getByRole('link', { name: 'New instrument' }).click();
  const field = (label: string): ReturnType<typeof page.getByRole> =>
    page.getByRole('textbox', { name: label, exact: true });
  await page.getByRole('button', { name: 'Begin from' }).click();
  await page.getByRole('menuitem', { name: /^Serial bonds/ }).click();
  await field('Name').fill('Kiln street bonds');
  await field('Face, EUR').fill('500,000');
  await field('Issued').fill('15 jun 26');
  await field('Matures').fill('1 mar 30');
  await field('Coupon rate, %').fill('6');
  await field('Price, percent of face').fill('0');
  await expect(atField(page, 'a price must be above 0 and at most 1000 percent')).toBeVisible();
  await field('Price, percent of face').fill('100');
  // Counted back from 1 March 2030, 15 June 2026 is no coupon date: it is said where the dates are.
  await expect(atField(page, '15 Jun 2026 is not on a coupon date')).toBeVisible();
  await page.getByRole('checkbox', { name: 'Sold between coupon dates' }).check();
  await field('Coupon runs from').fill('1 jul 26');
  await expect(atField(page, 'after the issue on 15 Jun 2026')).toBeVisible();
  await field('Coupon runs from').fill('1 mar 26');
  const instalments = page.locator('coffer-event-fields');
  const of = (at: number, label: string): ReturnType<typeof page.getByRole> =>
    instalments.nth(at).getByRole('textbox', { name: label });
  await of(0, 'On').fill('1 mar 28');
  await of(0, 'Face').fill('200,000');
  await of(1, 'On').fill('1 may 29');
  await of(1, 'Face').fill('100,000');
  await expect(atField(page, 'The next is 1 Mar 2030')).toBeVisible();
  await of(1, 'On').fill('1 mar 29');
  // Common practice: 500,000 at 6 % for 104 of 360 days is 8,666.67 of coupon sold with the bonds, at 30/360.
  await expect(rowWith(page, 'Interest payable')).toContainText('8,666.67');
  await expect(page.getByText('7 of 7 proofs hold')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take on' }).click();
  await confirm(page, 'in a month that is closed');
  await expect(page.getByRole('heading', { name: 'Kiln street bonds' })).toBeVisible();
});

test('a redemption is tried, refused above what is outstanding, and recorded with its reason', async ({
  page,
}) => {
  await logIn(page);
  await rowWith(page, 'Kiln street bonds').getByText('Kiln street bonds').click();
  await page.getByRole('tab', { name: 'Try a redemption' }).click();
  const field = (label: string): ReturnType<typeof page.getByRole> =>
    page.getByRole('textbox', { name: label, exact: true });
  await field('Face').fill('600,000');
  await expect(page.getByText('500,000.00 of face is outstanding')).toBeVisible();
  await expect(page.getByText('This is the last redemption that could be worked out')).toBeVisible();
  await field('Face').fill('100,000');
  await field('Redeemed on').fill('1 sep 27');
  await field('Price, percent of face').fill('102.5');
  // A bond sold at par is carried at face: what is paid above it is the loss.
  await expect(page.getByText('Loss on redemption', { exact: true })).toBeVisible();
  await expect(page.getByRole('definition').filter({ hasText: '2,500.00' }).first()).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Loss on redemption 2,500.00, how it is made' }).click();
  await page.getByRole('button', { name: '− paid' }).click();
  await expect(page.getByText('Paid for the face redeemed, 1 Sep 2027')).toBeVisible();
  await page.getByRole('button', { name: 'Record this redemption' }).click();
  await expect(page.getByText('Say why; it is kept with the version.')).toBeVisible();
  await field('Refunded by, if it is').fill('Lehr hall bonds');
  await field('Why it is recorded').fill('Board decision of October');
  await page.getByRole('button', { name: 'Record this redemption' }).click();
  await expect(page.getByText('100,000.00 of face is redeemed on 1 Sep 2027')).toBeVisible();
  await expect(page.getByText('Lehr hall bonds is begun under New instrument')).toBeVisible();
  // A stretch of coupons is added up, and each total says how it is made.
  await page.getByLabel('Totals for').fill('1-2');
  await page.getByRole('button', { name: /^cash coupon .*, how it is made/ }).click();
  await expect(page.getByText('Coupons, 1 Mar 2027 to 1 Mar 2028')).toBeVisible();
  await page.getByLabel('Totals for').fill('');
  // One key shows what is booked on a day; any day may be typed.
  await page.getByRole('gridcell', { name: '1 Mar 2028' }).click();
  await page.keyboard.press('e');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Instalment with coupon')).toBeVisible();
  await expect(dialog.getByText('160,000.00').first()).toBeVisible();
  await dialog.getByLabel('Day').fill('1 sep 27');
  await expect(dialog.getByText('refunded by Lehr hall bonds')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Both methods' }).click();
  await expect(page.getByText('Both methods give the same in every period.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Register' }).click();
  await page.getByRole('link', { name: 'New instrument' }).click();
  await expect(field('Name')).toHaveValue('Lehr hall bonds');
  await expect(field('Face, EUR')).toHaveValue('100,000.00');
  await page.getByRole('button', { name: 'Start again' }).click();
});

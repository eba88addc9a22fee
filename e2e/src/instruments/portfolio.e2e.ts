import { expect, expectAccessible, goTo, logIn, rowWith, test } from '../coffer.ts';

test('the portfolio is looked at by measure, period and group, folded, and left for an instrument', async ({
  page,
}) => {
  await logIn(page);
  await goTo(page, 'Portfolio');
  const grid = page.getByRole('grid', { name: 'Portfolio over time' });
  // Furnace hall mortgage: 15,599.56 each month; the bonds pay their coupon in October.
  await expect(rowWith(page, 'Furnace hall mortgage')).toContainText('15,599.56');
  await expect(page.getByText(/✓ \d+ of \d+ cross-foot/)).toBeVisible();
  await expectAccessible(page);
  await grid.getByText('▾ Mortgages and term loans').click();
  await expect(rowWith(page, 'Furnace hall mortgage')).toHaveCount(0);
  await expect(grid.getByText(/^▸ Mortgages and term loans \d+$/)).toBeVisible();
  // By keyboard: the row of the group is opened again.
  await page.keyboard.press('Enter');
  await expect(rowWith(page, 'Furnace hall mortgage')).toBeVisible();

  await page.getByRole('combobox', { name: 'Show' }).click();
  await page.getByRole('option', { name: 'Closing balance' }).click();
  await expect(rowWith(page, 'Furnace hall mortgage')).toContainText('1,985,488.92');
  await page.getByRole('radio', { name: 'Fiscal year' }).click();
  await expect(page.getByText('1 Jul 2026 – 30 Jun 2038', { exact: true })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'FY 2027' })).toBeVisible();
  await page.getByRole('combobox', { name: 'Subtotals by' }).click();
  await page.getByRole('option', { name: 'rate' }).click();
  await expect(grid.getByText('▾ Floating rate')).toBeVisible();
  await page.getByRole('button', { name: 'Twelve periods later' }).click();
  await expect(page.getByText('1 Jul 2038 – 30 Jun 2050', { exact: true })).toBeVisible();
  await page.locator('body').press('[');
  await expect(page.getByText('1 Jul 2026 – 30 Jun 2038', { exact: true })).toBeVisible();
  await rowWith(page, 'Furnace hall mortgage').getByText('Furnace hall mortgage').click();
  await expect(page.getByRole('heading', { name: 'Furnace hall mortgage' })).toBeVisible();
});

import { expect, expectAccessible, logIn, rowWith, test } from '../coffer.ts';

test('changes are tried side by side and over a grid, and one becomes the terms with a reason', async ({
  page,
}) => {
  await logIn(page);
  await rowWith(page, 'Batch house term loan').getByText('Batch house term loan').click();
  await page.getByRole('tab', { name: 'Try a change' }).click();
  const field = (label: string): ReturnType<typeof page.getByRole> =>
    page.getByRole('textbox', { name: label, exact: true });
  const compared = page.getByRole('region', { name: 'Side by side' });
  const line = (name: string): ReturnType<typeof page.getByRole> =>
    compared.getByRole('row').filter({ hasText: name });
  // 1,200,000 at 5.42 % ACT/360 over 32 quarters; the lower rate from January 2027 costs less and ends no sooner.
  await field('From the day (empty: from the start)').fill('1 jan 27');
  await field('Rate, %').fill('4.75');
  await expect(line('Interest differs by')).toContainText(/[\d,.]+ less/);
  await expect(line('Ends')).toContainText('the same day');
  await page.getByRole('button', { name: 'Another variant' }).click();
  await field('With each payment').fill('5,000');
  await field('Beginning').fill('1 jan 27');
  await expect(line('Ends')).toContainText(/(year|month)s? sooner/);
  await expectAccessible(page);

  // What cannot be is said at its field, and the others stay.
  await field('Once').fill('1,000');
  await expect(page.getByText('Type the day it is paid.')).toBeVisible();
  await expect(compared).toContainText('cannot be');
  await expect(compared).toContainText('4.75% from 1 Jan 2027');
  await field('Once').fill('');

  await page.getByText('Two terms over a range').click();
  const cell = rowWith(page, '5.42% now').getByRole('gridcell').nth(4);
  await expect(cell).toHaveText('46,611.29');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Variant A' }).click();
  await expect(page.getByText('The amount can only be another one from the start')).toBeVisible();
  await page.getByRole('button', { name: 'Variant B' }).click();
  await expect(cell).toHaveText('46,611.29');
  await cell.click();
  await expect(page.getByRole('button', { name: 'Variant C' })).toHaveAttribute('aria-pressed', 'true');
  await expect(compared).toContainText('amount 1,200,000');

  // Variants are still there after leaving the page; one is adopted.
  await page.reload();
  await page.getByRole('button', { name: 'Variant A' }).click();
  await page.getByRole('button', { name: 'Make A the terms…' }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make it the terms' }).click();
  await expect(page.getByText('Say why; it is kept with each version.')).toBeVisible();
  await page.getByLabel('Why the terms change').fill('Lender lowers the rate');
  await page.getByRole('button', { name: 'Make it the terms' }).click();
  // Less falls due within a year of the closed months: what is booked for that is told first.
  const asks = page.getByRole('dialog', { name: 'Is this meant so?' });
  await expect(asks).toContainText(/debit Loan payable ([\d,.]+), credit Current portion \1\./);
  await asks.getByRole('button', { name: 'Yes, do it' }).click();
  await expect(page.getByText(/: One instrument has a new version of its terms\.$/)).toBeVisible();
  await page.getByRole('tab', { name: 'History' }).click();
  await expect(page.getByText('Lender lowers the rate')).toBeVisible();
  // The history tells it in the screen's words, old beside new.
  await page.getByRole('button', { name: 'What changed' }).first().click();
  const changed = page.locator('tr.change');
  await expect(changed.first()).toContainText('1 Jan 2027');
  await expect(changed.first()).toContainText('4.75%');
  await page.getByRole('button', { name: 'Hide' }).click();
  await expect(changed).toHaveCount(0);
});

test('a grid shows in each cell what another way of dealing with interest makes', async ({ page }) => {
  await logIn(page);
  await rowWith(page, 'Cullet sorter build loan').getByText('Cullet sorter build loan').click();
  await page.getByRole('tab', { name: 'Try a change' }).click();
  await page.getByText('Two terms over a range').click();
  const choose = async (field: string, option: string): Promise<void> => {
    await page.getByRole('combobox', { name: field }).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  const cell = rowWith(page, '6.75% now').getByRole('gridcell').nth(4);
  const cents = async (): Promise<number> =>
    Math.round(100 * Number((await cell.innerText()).replaceAll(',', '').replace('−', '-')));
  await expect(cell).toHaveText('6,757.57');
  const paid = await cents();
  await choose('In a deferral', 'interest is added each time');
  await expect(cell).not.toHaveText('6,757.57');
  const added = await cents();
  // Common practice: interest added to the balance has to be repaid, so that the payment is higher.
  expect(added).toBeGreaterThan(paid);
  await choose('In a deferral', 'as agreed');
  await expect(cell).toHaveText('6,757.57');
  await choose('Less the same with interest', 'interest is added each time');
  await expect(page.getByText('Each cell is the difference of the two.')).toBeVisible();
  await expect.poll(cents).toBe(paid - added);
});

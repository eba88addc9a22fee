import { expect, expectAccessible, goTo, logIn, people, rowWith, test } from '../coffer.ts';

test('the month’s payments are recorded by keyboard: as scheduled, short and late, missed, corrected', async ({
  page,
}) => {
  await logIn(page);
  await page.keyboard.press('g');
  await page.keyboard.press('p');
  await expect(page.getByRole('heading', { name: /^Payments of/ })).toBeVisible();
  await expectAccessible(page);
  const annealing = rowWith(page, 'Annealing line loan').first();
  const furnace = rowWith(page, 'Furnace hall mortgage');
  await expect(furnace).toContainText('as scheduled');
  // All unticked, then two: one of them as scheduled.
  await page.keyboard.press('a');
  await expect(page.getByText('Nothing is ticked.')).toBeVisible();
  // A press on what is only read ticks nothing; one on the tick does, and so does Space from wherever in the row.
  await furnace.getByText('Furnace hall mortgage').click();
  await expect(page.getByText('Nothing is ticked.')).toBeVisible();
  await furnace.getByRole('gridcell').first().click();
  await expect(page.getByRole('button', { name: 'Record 1 payment' })).toBeVisible();
  await annealing.getByText('Annealing line loan').click();
  await page.keyboard.press('Space');
  const grid = page.getByRole('grid', { name: 'Payments of the month' });
  await expect(grid).toBeFocused();
  for (let step = 0; step < 7; step += 1) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await page.keyboard.type('soon');
  await page.keyboard.press('Enter');
  await expect(annealing).toContainText('see the date');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Annealing line loan: “soon” is no date')).toBeVisible();
  await page.keyboard.press('2');
  await page.keyboard.type('0 nov 26');
  await page.keyboard.press('Tab');
  await page.keyboard.type('9,000');
  await page.keyboard.press('Enter');
  await expect(annealing).toContainText(/5 days late, 380.19 short/);
  await expectAccessible(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/^2 payments recorded, 24,599.56 in all/)).toBeVisible();
  await expect(annealing).toContainText('recorded');

  // What a payment recorded short still lacks can be recorded as another part of it.
  await expect(rowWith(page, 'Annealing line loan').nth(1)).toContainText('380.19');

  // What was recorded by mistake is corrected in the same place, and only that is sent.
  await annealing.getByText('9,000.00').click();
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await expect(annealing).toContainText('corrected: missed');
  await page.getByRole('button', { name: /^Record/ }).click();
  await expect(page.getByText(/^1 payment recorded/)).toBeVisible();
  await expect(annealing).toContainText('missed');
});

test('an auditor sees the month’s payments and can tick none', async ({ page }) => {
  await logIn(page, people.auditor);
  await goTo(page, 'Payments');
  await expect(rowWith(page, 'Furnace hall mortgage')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Record/ })).toHaveCount(0);
  await rowWith(page, 'Furnace hall mortgage').getByText('Furnace hall mortgage').click();
  await expect(page.getByRole('columnheader', { name: 'Record' })).toHaveCount(0);
});

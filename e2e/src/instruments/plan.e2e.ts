import { expect, expectAccessible, goTo, logIn, test } from '../coffer.ts';

test('loans are planned to be cleared by a day, on the curve by mouse and keys, and kept as a scenario', async ({
  page,
}) => {
  await logIn(page);
  await goTo(page, 'Paydown plan');
  const field = (name: string): ReturnType<typeof page.getByRole> =>
    page.getByRole('textbox', { name, exact: true });
  const curve = page.getByRole('slider', { name: 'Day by which all is cleared' });
  const loans = page.getByRole('region', { name: 'Instruments of the plan' });
  await field('All cleared by').fill('31 dec 29');
  await field('Cash is worth, %').fill('4.5');
  await expect(page.getByText(/Everything is cleared by 31 Dec 2029/)).toBeVisible();
  // 413,938.03 at 6.1 % in 38 payments; worked with the figures of the company.
  const annealing = loans.getByRole('row').filter({ hasText: 'Annealing line loan' });
  await expect(annealing).toContainText('12,006.63');
  await expect(annealing).toContainText('15 Dec 2029');
  await expect(page.getByText(/✓ 2 of 2 proofs hold/)).toBeVisible();
  await expect(page.getByText(/Where cash is worth 4.5% a year/)).toBeVisible();
  await expectAccessible(page);

  // By keyboard: a year on, a month back, to the end and to where a year more adds as much as it frees.
  await curve.focus();
  await page.keyboard.press('ArrowRight');
  await expect(field('All cleared by')).toHaveValue('31 Dec 2030');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(field('All cleared by')).toHaveValue('30 Nov 2030');
  await expect(page.getByText(/Everything is cleared by 30 Nov 2030/)).toBeVisible();
  await page.keyboard.press('Home');
  await expect(field('All cleared by')).toHaveValue('30 Nov 2026');
  // Nothing of what is paid each quarter falls due by then.
  await expect(loans).toContainText('No due date before this day; the earliest is');
  await expect(loans).toContainText('without');

  // By mouse: a press on the curve chooses the day under it.
  const box = await curve.boundingBox();
  if (!box) throw new Error('no curve');
  await page.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.7);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.62, box.y + box.height * 0.72);
  await page.mouse.up();
  await expect(field('All cleared by')).not.toHaveValue('30 Nov 2026');
  await expect(page.getByText(/Everything is cleared by/)).toBeVisible();

  // What is wrong is said at its place, and the last result stays.
  await field('All cleared by').fill('31 dec 25');
  await expect(page.getByText(/the wished day must come after 2026-10-31/)).toBeVisible();
  await field('All cleared by').fill('31 dec 29');
  const least = page.getByRole('textbox', { name: 'Least payment of Annealing line loan' });
  await least.fill('900,000');
  await least.press('Enter');
  await expect(annealing).toContainText('that is above the 413938.03 owed');
  await least.fill('15,000');
  await least.press('Enter');
  await expect(annealing).toContainText('least');
  // A bond cannot be repaid early: a fund gathers for it.
  await loans.getByRole('checkbox', { name: /4.75% notes due 2031/ }).check();
  await field('A fund earns, %').fill('2.4');
  await expect(page.getByText('A fund gathers for what cannot be repaid early: 4.75% notes')).toBeVisible();
  await expect(loans.getByRole('row').filter({ hasText: '4.75% notes' })).toContainText('to the fund');

  // What is typed is there again, and becomes a scenario that the portfolio shows.
  await page.reload();
  await expect(field('All cleared by')).toHaveValue('31 dec 29');
  await expect(annealing).toContainText('15,000.00');
  await page.getByRole('button', { name: 'As a scenario' }).click();
  await expect(page.getByRole('heading', { name: 'Portfolio over time' })).toBeVisible();
  await expect(page.getByRole('radio', { name: /Cleared by 31 Dec 2029/ })).toBeChecked();
  await expect(
    page
      .getByRole('grid')
      .getByText(/cleared 15 Apr 2029, 1 year 9 months sooner/)
      .first(),
  ).toBeVisible();
});

test('a budget is used in four ways, and one that is too small says what is missing', async ({ page }) => {
  await logIn(page);
  await goTo(page, 'Paydown plan');
  await page.getByRole('radio', { name: 'With a budget' }).click();
  const monthly = page.getByRole('textbox', { name: 'Cash a month' });
  await monthly.fill('70k');
  const ways = page.getByRole('radiogroup', { name: 'Ways of using the budget' });
  await expect(ways.getByRole('row').filter({ hasText: 'One common day' })).toContainText(
    'no day is within it',
  );
  await expect(ways.getByRole('row').filter({ hasText: 'Highest rate first' })).toContainText(
    'is missing in',
  );
  await expect(ways.getByRole('status')).toContainText('a month covers all that the agreements ask for.');
  await expect(page.getByRole('button', { name: 'As a scenario' })).toBeDisabled();
  await monthly.fill('100k');
  await expect(ways.getByRole('row').filter({ hasText: 'Highest rate first' })).toContainText('the least');
  await expectAccessible(page);
  // By keyboard: the second goes first, and the order is one's own.
  const turns = page.getByRole('region', { name: 'Whose turn comes when' }).getByRole('listitem');
  const second = await turns.nth(1).innerText();
  await turns.nth(1).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(turns.nth(0)).toHaveText(second);
  await expect(ways.getByRole('radio', { name: /Your own order/ })).toBeChecked();
  await page.getByRole('button', { name: 'Give the order back' }).click();
  await expect(ways.getByRole('radio', { name: /Your own order/ })).toHaveCount(0);
});

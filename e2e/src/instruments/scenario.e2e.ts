import { readFileSync } from 'node:fs';
import { elsewhere, expect, expectAccessible, goTo, logIn, people, rowWith, test } from '../coffer.ts';

test('a payment is typed over, its effect is seen at once, kept as a scenario, and made the terms', async ({
  page,
}) => {
  await logIn(page);
  await goTo(page, 'Portfolio');
  const grid = page.getByRole('grid', { name: 'Portfolio over time' });
  const row = rowWith(page, 'Furnace hall mortgage').first();
  const cell = (at: number): ReturnType<typeof page.getByRole> => row.getByRole('gridcell').nth(at);
  // By keyboard alone: from the row's name five months on, digits begin the payment.
  await expect(row).toContainText('15,599.56');
  // October is paid: that payment is what it was.
  await cell(1).click();
  await expect(page.getByText(/Oct 2026: There is no payment that could be another one/)).toBeVisible();
  for (let months = 0; months < 5; months += 1) await page.keyboard.press('ArrowRight');
  await page.keyboard.type('45k');
  await page.keyboard.press('Enter');
  await expect(cell(6)).toHaveText('45,000.00');
  await expect(cell(7)).toHaveText('45,000.00');
  await expect(cell(5)).toHaveText('15,599.56');
  await expect(grid.getByText('as it is', { exact: true })).toBeVisible();
  // 2,850,000 at 4.35 %: 300 payments end in January 2041; the worked difference is the design's.
  await expect(
    grid.getByText(/cleared 10 Feb 2031, 9 years 11 months sooner · interest 477,889.91 less/),
  ).toBeVisible();
  await expect(rowWith(page, 'Against as it is')).toContainText('+29,400.44');
  await expectAccessible(page);

  // What cannot be is said, and nothing is changed.
  await cell(6).click();
  await page.keyboard.type('much');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Mar 2027: “much” is not understood/)).toBeVisible();
  await cell(6).click();
  await page.keyboard.press('Escape');
  await expect(cell(6)).toHaveText('45,000.00');

  // What is taken out is what is seen, though nobody keeps it yet.
  await page.getByRole('button', { name: 'Take out' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /^As CSV, with / }).click();
  const taken = await waiting;
  expect(taken.suggestedFilename()).toMatch(/^Portfolio payment .*, scenario .*\.csv$/);
  const csv = readFileSync(await taken.path(), 'utf8');
  expect(csv.split('\n').find((line) => line.includes('Furnace hall mortgage'))).toMatch(
    /15599\.56.*45000\.00/,
  );

  const name = `Hall faster ${test.info().project.name} ${Date.now()}`;
  await page.getByRole('button', { name: 'Keep…' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Type a name that tells it from the others.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('not kept')).toHaveCount(0);

  // The same scenario is what the loan's own tab tries.
  await row.getByText('Furnace hall mortgage').click();
  await page.getByRole('tab', { name: 'Try a change' }).click();
  await expect(page.getByRole('region', { name: 'Side by side' })).toContainText('45,000 each time');
  await expect(page.getByText(`${name}, kept`)).toBeVisible();

  // A second one, not kept, stands beside it and the terms.
  await goTo(page, 'Portfolio');
  await page.getByRole('radio', { name: 'Another scenario' }).click();
  await rowWith(page, 'Roof array loan').getByRole('gridcell').nth(4).click();
  await page.keyboard.type('9,000');
  await page.keyboard.press('Enter');
  await expect(rowWith(page, 'Roof array loan').first().getByRole('gridcell').nth(4)).toHaveText('9,000.00');
  await page.getByRole('link', { name: 'Side by side' }).click();
  await expect(page.getByRole('heading', { name: 'Side by side' })).toBeVisible();
  const inAll = page.getByRole('region', { name: 'In all' });
  await expect(inAll.getByRole('row').filter({ hasText: 'Interest' })).toContainText('477,889.91 less');
  const differs = page.getByRole('region', { name: 'What differs, by instrument' });
  await expect(differs.getByRole('row').filter({ hasText: 'Roof array loan' })).toContainText('as it is');
  await expectAccessible(page);

  // Somebody who may read only sees the kept one, and not what was not kept.
  const other = await elsewhere(page);
  const auditor = await other.newPage();
  await logIn(auditor, people.auditor);
  await goTo(auditor, 'Portfolio');
  await expect(auditor.getByRole('radio', { name })).toBeVisible();
  await expect(auditor.getByRole('radio', { name: /not kept/ })).toHaveCount(0);
  await auditor.getByRole('radio', { name }).click();
  await expect(auditor.getByRole('button', { name: /the terms…$/ })).toHaveCount(0);
  await other.close();

  await goTo(page, 'Portfolio');
  await page.getByRole('radio', { name }).click();
  await page.getByRole('button', { name: /^Make . the terms…$/ }).click();
  await page.getByRole('button', { name: 'Make it the terms' }).click();
  await expect(page.getByText('Say why; it is kept with each version.')).toBeVisible();
  await page.getByLabel('Why the terms change').fill('Agreed to pay the hall off sooner');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make it the terms' }).click();
  await expect(page.getByText(`${name}: One instrument has a new version of its terms.`)).toBeVisible();
  await expect(page.getByRole('radio', { name })).toHaveCount(0);
  await expect(row.getByRole('gridcell').nth(6)).toHaveText('45,000.00');
  await row.getByText('Furnace hall mortgage').click();
  await page.getByRole('tab', { name: 'History' }).click();
  await expect(page.getByText('Agreed to pay the hall off sooner')).toBeVisible();
});

test('what a browser kept of a loan is taken over as a scenario', async ({ page }) => {
  await logIn(page);
  await rowWith(page, 'Lens grinder purchase').getByText('Lens grinder purchase').click();
  await page.getByRole('tab', { name: 'Try a change' }).click();
  const id = /instruments\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  await page.evaluate((key) => {
    localStorage.setItem(key, JSON.stringify([{ letter: 'A', typed: { from: '', extraEach: '500' } }]));
  }, `coffer.tried.ilka.${id}`);
  await page.reload();
  await expect(page.getByText('This browser kept 1 variant of this loan')).toBeVisible();
  await page.getByRole('button', { name: 'Take over as scenarios' }).click();
  await expect(page.getByRole('region', { name: 'Side by side' })).toContainText(
    '500 extra with each payment',
  );
  await expect(page.getByRole('textbox', { name: 'With each payment', exact: true })).toHaveValue('500');
  await page.reload();
  await expect(page.getByText('This browser kept')).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Side by side' })).toContainText(
    '500 extra with each payment',
  );
});

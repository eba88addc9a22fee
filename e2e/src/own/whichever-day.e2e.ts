import { elsewhere, expect, expectAccessible, goFromMenu, test } from '../coffer.ts';

/** A day of each month of a year, and the last of a leap February. */
const days = [
  '2027-01-31',
  '2027-02-28',
  '2027-03-01',
  '2027-04-30',
  '2027-05-15',
  '2027-06-30',
  '2027-07-01',
  '2027-08-31',
  '2027-09-30',
  '2027-10-31',
  '2027-11-29',
  '2027-12-01',
  '2028-02-29',
];

/** The last day of the month of a day. */
const endOf = (day: string): string => {
  const [year = 0, month = 0] = day.split('-').map(Number);
  return new Date(Date.UTC(year, month, 0)).toISOString().slice(0, 10);
};
const shown = (day: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: '2-digit', month: 'short', year: 'numeric', timeZone: 'UTC' })
    .format(new Date(day))
    .replace('Sept', 'Sep');

test('whichever day it is, a company can be made, looked at and stepped through', async ({ page }) => {
  await page.goto('/log-in');
  for (const day of days) {
    const context = await elsewhere(page, day);
    const on = await context.newPage();
    await on.goto('/log-in');
    await on.getByLabel('Log-in name').fill('maren');
    await on.getByLabel('Password').fill('otter lantern gravel pine');
    await on.getByRole('button', { name: 'Log in' }).click();
    await goFromMenu(on, /^Pellwin/, 'Another company…');
    await on.getByLabel('Name, as on the reports').fill(`Pellwin on ${day}`);
    // What is proposed is the month of this day, whichever it is.
    await expect(on.getByLabel('Books begin on')).toHaveValue(
      shown(`${day.slice(0, 8)}01`).replace(/^0/, ''),
    );
    await on.getByRole('button', { name: /^Make the company/ }).click();
    const nothing = `Nothing is owed on ${shown(endOf(day)).replace(/^0/, '')}`;
    await expect(on.getByRole('heading', { name: nothing })).toBeVisible();
    // The last month that the bar shows has the step beside it.
    await on
      .getByRole('radiogroup', { name: /^Period end/ })
      .getByRole('radio')
      .last()
      .click();
    await expectAccessible(on);
    await on.getByRole('button', { name: 'A year on' }).click();
    await on.getByRole('button', { name: 'A year back' }).click();
    await context.close();
  }
});

import { readFileSync } from 'node:fs';
import { readDocument } from '@coffer/contract';
import { expect, expectAccessible, goTo, logIn, rowWith, test } from '../coffer.ts';

test('a fund that repays a bond is composed, explained, kept, and taken out as a document', async ({
  page,
}) => {
  await logIn(page);
  await rowWith(page, '5.50% bonds due 2034').getByText('5.50% bonds due 2034').click();
  await page.getByRole('tab', { name: 'Fund', exact: true }).click();
  const field = (label: string): ReturnType<typeof page.getByRole> =>
    page.getByRole('textbox', { name: label, exact: true });
  const sums = page.getByLabel('What it comes to');
  await expect(page.getByText('Still needed: rate.')).toBeVisible();
  await field('Earns a year, %').fill('0');
  // Common practice: without interest, 3,000,000 in 90 deposits is 33,333.33 each, and the last takes the cents.
  await expect(sums.getByText('33,333.33', { exact: true })).toBeVisible();
  await expect(sums.getByText('33,333.63', { exact: true })).toBeVisible();
  await expect(sums.getByText('1 Apr 2034')).toBeVisible();
  await expect(page.getByRole('button', { name: '7 of 7 proofs hold' })).toBeVisible();
  await expectAccessible(page);
  // A number left open ends with the first deposit that reaches the goal.
  await field('How many').fill('');
  await field('Each deposit').fill('40k');
  await expect(page.getByText('worked out: 75')).toBeVisible();
  await expect(page.getByText('The fund ends 15 months before the debt')).toBeVisible();
  await field('Each deposit').fill('forty');
  await expect(page.getByText('“forty” is not understood')).toBeVisible();
  await expect(page.getByText('This is the last fund that could be worked out.')).toBeVisible();
  await field('Each deposit').fill('40k');
  await field('Earns a year, %').fill('2.4');
  await page.getByRole('button', { name: /^Net interest .*, how it is made/ }).click();
  await expect(page.getByText('− earned by the fund')).toBeVisible();
  const grid = page.getByRole('grid', { name: 'Schedule of the fund' });
  await grid.focus();
  for (const key of ['ArrowDown', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'Enter'])
    await page.keyboard.press(key);
  // 40,000 for a month at 2.4 % is 80.00.
  await expect(page.getByText('Interest earned, deposit 2 · 80.00')).toBeVisible();
  await page.getByRole('button', { name: '× annual rate' }).click();
  await expect(field('Earns a year, %')).toBeFocused();
  await page.getByRole('radio', { name: 'Entries of October 2026' }).click();
  await expect(page.getByText('The fund makes no entries in October 2026')).toBeVisible();
  await page.getByRole('radio', { name: /^November 2026/ }).click();
  await expect(page.getByText('Deposit 1 into the fund')).toBeVisible();
  await page.reload();
  await expect(field('Each deposit')).toHaveValue('40k');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Take out as a document' }).click();
  const file = await (await waiting).path();
  const taken = readDocument(JSON.parse(readFileSync(file, 'utf8')));
  expect(taken.ok && taken.schedule.terms).toMatchObject({ repays: '5.50% bonds due 2034' });
  // As of November, one deposit fewer leads up to the maturity.
  await page.getByRole('button', { name: 'Start again' }).click();
  await expect(field('Each deposit')).toHaveValue('');
  await expect(field('How many')).toHaveValue('89');
  // The register takes the document on, as any other.
  await goTo(page, 'Register');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in a document' }).click();
  await (await chooser).setFiles(file);
  await expect(page.getByRole('heading', { name: 'Fund for 5.50% bonds due 2034' })).toBeVisible();
  const standing = page.getByLabel('Where it stands');
  await expect(standing).toContainText('5.50% bonds due 2034');
  await expect(standing).toContainText('3,000,000.00');
  await expectAccessible(page);

  // A deposit is recorded as it was made; what cannot be is said, and nothing is kept of it.
  await page.getByRole('button', { name: 'Record a deposit' }).click();
  await field('Left the bank on').fill('1 nov 2020');
  await field('Amount paid in').fill('35,000');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('alert')).toBeVisible();
  await field('Left the bank on').fill('9 nov 26');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('Deposit due 2026-11-01 recorded.')).toBeVisible();
  const row = page.getByRole('grid', { name: 'Schedule of the fund' }).getByRole('row').nth(1);
  await expect(row).toContainText('9 Nov 2026');
  await expect(row).toContainText('35,000.00');
  await expect(row).toContainText('recorded');
  await page.getByRole('radio', { name: 'History' }).click();
  await expect(page.getByText('Deposit due 2026-11-01 recorded')).toBeVisible();

  // Its terms are worked on beside the debt, and changed with a reason.
  await page.getByRole('link', { name: '5.50% bonds due 2034' }).click();
  await page.getByRole('tab', { name: 'Fund', exact: true }).click();
  await page.getByRole('button', { name: 'Work on its terms' }).click();
  await expect(field('Each deposit')).toHaveValue('40,000');
  await field('Each deposit').fill('45k');
  await page.getByRole('button', { name: 'Change its terms…' }).click();
  await page.getByLabel('Why', { exact: true }).fill('More is paid in');
  await page.getByRole('button', { name: 'Change them' }).click();
  await expect(page.getByRole('heading', { name: 'Fund for 5.50% bonds due 2034' })).toBeVisible();
  await expect(row).toContainText('35,000.00');
  await expect(
    page.getByRole('grid', { name: 'Schedule of the fund' }).getByRole('row').nth(2),
  ).toContainText('45,000.00');

  // It is in the register and in the close, and leaves both when it is withdrawn.
  await goTo(page, 'Register');
  await page.getByRole('radio', { name: /^November 2026/ }).click();
  const held = page.getByRole('region', { name: 'Held to repay debt' });
  await expect(held).toContainText('35,000.00');
  await held.getByRole('link', { name: 'Fund for 5.50% bonds due 2034' }).click();
  await page.getByRole('radio', { name: 'History' }).click();
  await page.getByRole('button', { name: 'Withdraw it' }).click();
  await page.getByLabel('Why', { exact: true }).fill('Only tried');
  await page.getByRole('button', { name: 'Withdraw it' }).last().click();
  await expect(page.getByRole('heading', { name: 'Debt register' })).toBeVisible();
  await expect(held).toHaveCount(0);
});

import {
  approve,
  expect,
  expectAccessible,
  goTo,
  handOver,
  logIn,
  reviewerAt,
  rowWith,
  test,
} from '../coffer.ts';

test.describe.configure({ mode: 'serial' });

test.beforeEach(async ({ page }) => logIn(page));

test('after October is locked a rate is changed, a payment corrected and an instrument withdrawn', async ({
  page,
}) => {
  const asOf = (month: string): Promise<void> =>
    page.getByRole('radio', { name: new RegExp(`^${month}`) }).click();
  await asOf('October 2026');
  const line = rowWith(page, 'Furnace hall mortgage');
  await expect(line).toContainText('1,985,488.92');
  const reported = await line.innerText();

  // A rate that was entered wrongly from the start of the books.
  await line.getByText('Furnace hall mortgage').click();
  await page.getByRole('link', { name: 'Change terms' }).click();
  await page.getByRole('textbox', { name: 'Annual rate, %', exact: true }).fill('4.4');
  await page.getByRole('textbox', { name: 'Why the terms change' }).fill('The agreement says 4.40 %');
  await page.getByRole('button', { name: 'Save as a new version' }).click();
  // What it books for closed months is told before it is saved.
  const asks = page.getByRole('dialog', { name: 'Is this meant so?' });
  await expect(asks).toContainText(/Furnace hall mortgage: months that are closed come out otherwise/);
  await expectAccessible(page);
  await asks.getByRole('button', { name: 'Yes, do it' }).click();
  // On the closed day stands what was reported, and beside it what is known now.
  await expect(page.getByText('As the close reported it from version')).toBeVisible();
  await expect(page.getByText(/^now [\d,.]+ \(\+[\d,.]+\)$/).first()).toBeVisible();
  await expectAccessible(page);
  await goTo(page, 'Register');
  await expect.poll(() => line.innerText()).toBe(reported);

  // A payment recorded in October is taken back, and recorded anew as it was.
  await rowWith(page, 'Lens grinder purchase').getByText('Lens grinder purchase').click();
  await page.getByRole('tab', { name: 'Terms & events' }).click();
  await page
    .getByRole('button', { name: /^Take back what is recorded for/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Say why; it is kept with the history.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('textbox', { name: 'Why' }).fill('The bank sent it twice');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'is taken back' })).toBeVisible();
  await page.getByRole('button', { name: 'Record a payment' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Payment due' }).click();
  await page.getByRole('option', { name: /1 Oct 2026/ }).click();
  await dialog.getByRole('textbox', { name: 'Left the bank on' }).fill('5 oct 26');
  await dialog.getByRole('textbox', { name: 'Amount paid' }).fill('1,500.00');
  await expect(dialog.getByText('4 days late, 236.92 short')).toBeVisible();
  await dialog.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByRole('status').filter({ hasText: '1,500.00 recorded on 5 Oct 2026' })).toBeVisible();

  // An instrument taken on by mistake is withdrawn.
  await goTo(page, 'Register');
  await asOf('November 2026');
  await rowWith(page, 'Second polishing loan').getByText('Second polishing loan').click();
  await page.getByRole('tab', { name: 'History' }).click();
  await page.getByRole('button', { name: 'Withdraw it' }).click();
  await page.getByRole('textbox', { name: 'Why' }).fill('Brought in twice');
  await page.getByRole('dialog').getByRole('button', { name: 'Withdraw it' }).click();
  await expect(page.getByText('Withdrawn by Ilka Varga')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Change terms' })).toHaveCount(0);
  await goTo(page, 'Register');
  await expect(line).toBeVisible();
  await expect(rowWith(page, 'Second polishing loan')).toHaveCount(0);
});

test('November books what October should have held, names it, and is locked though it has not ended', async ({
  page,
}) => {
  await page.getByRole('radio', { name: /^November 2026/ }).click();
  await goTo(page, 'Period close');
  await expect(page.getByRole('listitem').filter({ hasText: 'Expense' })).toContainText('from closed months');
  await expect(page.getByText('the journal is off by')).toHaveCount(0);
  await expectAccessible(page);
  await handOver(page, 'November 2026', /has not ended/);
  const reviewer = await reviewerAt(page, /^November 2026, handed over/);
  // What is put right for October is told as such.
  await expect(reviewer.getByRole('row').filter({ hasText: 'Catch-up' }).first()).toBeVisible();
  await approve(reviewer, 'November 2026', /has not ended/);
  await reviewer.context().close();
  await goTo(page, 'Journal');
  await page.getByRole('radio', { name: /^November 2026/ }).click();
  // The reversals come first; further down is what October should have held.
  const correction = page.getByText('Correction of the month to 31 Oct 2026').first();
  await expect(async () => {
    // The table of the month before may still have been there a moment ago.
    await page.getByRole('grid').focus();
    await page.keyboard.press('PageDown');
    await expect(correction).toBeVisible({ timeout: 200 });
  }).toPass();

  // Register, instrument, close and journal tell the same of what was changed.
  for (const name of ['Furnace hall mortgage', 'Lens grinder purchase']) {
    await goTo(page, 'Register');
    await page.getByRole('radio', { name: /^November 2026/ }).click();
    const text = await rowWith(page, name).innerText();
    const [carrying = '', accrued = ''] = text.match(/[\d,]+\.\d\d(?!%)/g) ?? [];
    await rowWith(page, name).getByText(name).click();
    await expect(
      page.getByRole('button', { name: `Accrued interest ${accrued}, how it is made` }),
    ).toBeVisible();
    await expect(page.getByText('As reported when the period was closed.')).toBeVisible();
    const id = /instruments\/([^/]+)/.exec(page.url())?.[1] ?? '';
    await goTo(page, 'Period close');
    await expect(rowWith(page, name)).toContainText(carrying);
    await expect(rowWith(page, name)).toContainText(accrued);
    const asked = `/api/journal?from=2026-01-01&to=2026-11-30&instrument=${id}`;
    const { entries } = (await (await page.request.get(asked)).json()) as {
      entries: { lines: { role: string; debit: number; credit: number }[] }[];
    };
    const held = (...roles: string[]): string =>
      (
        entries
          .flatMap(({ lines }) => lines)
          .filter(({ role }) => roles.includes(role))
          .reduce((sum, { debit, credit }) => sum + credit - debit, 0) / 100
      ).toLocaleString('en-US', { minimumFractionDigits: 2 });
    expect([held('loan-payable', 'current-portion'), held('interest-payable')]).toEqual([carrying, accrued]);
  }
});

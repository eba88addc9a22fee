import { readFileSync } from 'node:fs';
import exceljs from 'exceljs';
import { parse } from 'csv-parse/sync';
import {
  approve,
  atField,
  confirm,
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

test('1. the register shows every instrument, subtotals and the total, and the rail moves every figure', async ({
  page,
}) => {
  await expect(page.getByText('16 instruments')).toBeVisible();
  const mortgage = rowWith(page, 'Furnace hall mortgage');
  await expect(mortgage).toContainText('1,985,488.92');
  await expect(rowWith(page, 'Mortgages and term loans')).toContainText('5,850,409.03');
  const total = rowWith(page, 'All instruments');
  await expect(total).toContainText('12,817,240.47');
  await expectAccessible(page);

  await page.getByRole('radio', { name: 'September 2026, closed' }).click();
  await expect(page.getByText('as reported when the period was closed')).toBeVisible();
  await expect(mortgage).toContainText('1,993,860.73');
  await page.keyboard.press('ArrowRight');
  await expect(mortgage).toContainText('1,985,488.92');

  await mortgage.getByText('4,875.66').click();
  await expect(page.getByRole('region', { name: 'How this figure is made' })).toContainText('4.35%');
});

test('2. a level loan is typed in, its schedule forming beside; bad input is explained at its field', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'New instrument' }).click();
  const field = (label: string) => page.getByLabel(label, { exact: true }).first();
  await field('Name').fill('Polishing bay loan');
  await field('Lender').fill('Quillhaven Bank');
  await field('Amount, EUR').fill('minus five');
  await expect(atField(page, '“minus five” is not understood')).toBeVisible();
  await field('Amount, EUR').fill('100k');
  await field('Start').fill('30 feb 2026');
  await expect(atField(page, 'type a date that exists')).toBeVisible();
  await field('Start').fill('1 oct 26');
  await field('First payment').fill('1 sep 26');
  await field('Annual rate, %').fill('6');
  await field('Term').fill('360');
  await expect(atField(page, 'which is not after the start')).toBeVisible();
  await field('First payment').fill('1 nov 26');
  // Monthly mortgage payment tables, widely printed: 100,000 at 6 % over 360 months pays 599.55; from memory.
  await expect(page.getByRole('definition').filter({ hasText: '599.55' })).toBeVisible();
  await expect(page.getByText('7 of 7 proofs hold')).toBeVisible();
  await expectAccessible(page);

  await field('Annual rate, %').fill('1200');
  await expect(atField(page, 'a rate may be at most 1000%')).toBeVisible();
  await expect(page.getByText('This is the last schedule that could be worked out')).toBeVisible();
  await field('Annual rate, %').fill('6');
  await page.getByRole('button', { name: 'Take on' }).click();
  await expect(page.getByRole('heading', { name: 'Polishing bay loan' })).toBeVisible();
});

test('3. a loan shows its payments with the period end among them, how a figure is made, and its proofs', async ({
  page,
}) => {
  await rowWith(page, 'Annealing line loan').getByText('Annealing line loan').click();
  await expect(
    page.getByText('31 Oct 2026 · period end: 1,086.03 accrued on 413,938.03 at 6.10% for 16 days'),
  ).toBeVisible();
  await expectAccessible(page);
  const row = rowWith(page, '15 Nov 2026');
  await row.getByRole('gridcell', { name: '2,104.18' }).click();
  const how = page.getByRole('region', { name: 'How this figure is made' });
  await expect(how).toContainText('Interest, payment 29 · 2,104.18');
  await expect(how).toContainText('413,938.03');
  await expect(how).toContainText('1/12');
  await expect(how).toContainText('2,104.1849');
  await how.getByRole('button', { name: 'Opening balance' }).click();
  await expect(how).toContainText('Opening balance, payment 29');

  // A total says what it sums, and leads to where a year begins.
  await page.getByLabel('Totals for').fill('13-36');
  await page.getByRole('button', { name: /^interest [\d,.]+, how it is made$/ }).click();
  await expect(how).toContainText('Interest, 15 Jul 2025 to 15 Jun 2027');
  await how.getByRole('button', { name: '2026, 12 payments' }).click();
  await expect(how).toContainText('Interest, payment 19');
  await page.getByRole('button', { name: /^Paid in all/ }).click();
  await expect(how).toContainText(/extra principal\s*40,000.00/);

  await page.getByRole('button', { name: '7 of 7 proofs hold' }).click();
  await expect(page.getByRole('menuitem', { name: 'The last closing balance is zero' })).toBeVisible();
  await page.keyboard.press('Escape');
  for (const tab of ['Terms & events', 'Entries', 'Position', 'History']) {
    await page.getByRole('tab', { name: tab }).click();
    await expectAccessible(page);
  }
});

test('4. a bond issued at a discount shows schedule, presentation and issue entry', async ({ page }) => {
  await page.getByRole('link', { name: 'New instrument' }).click();
  const field = (label: string) => page.getByLabel(label, { exact: true }).first();
  await page.getByRole('radio', { name: 'Bond' }).click();
  await field('Name').fill('Lehr hall bonds');
  await field('Face, EUR').fill('100,000');
  await field('Issued').fill('1 oct 2026');
  await field('Matures').fill('1 oct 2031');
  await field('Coupon rate, %').fill('8');
  await field('Market yield, %').fill('10');
  // Kieso, Weygandt and Warfield, Intermediate Accounting, chapter 14: 8 % sold to yield 10 % brings 92,278.
  const proceeds = page.getByRole('definition').filter({ hasText: '92,278.27' });
  await expect(proceeds).toBeVisible();
  await expect(page.getByText('worked out: 92.278265')).toBeVisible();
  await field('Market yield, %').fill('');
  await field('Price, percent of face').fill('92.27826507');
  await expect(page.getByText('worked out: 10.000000%')).toBeVisible();
  await expect(rowWith(page, 'Discount on bonds payable')).toContainText('7,721.73');
  await page.getByRole('button', { name: 'Take on' }).click();
  await expect(page.getByRole('heading', { name: 'Lehr hall bonds' })).toBeVisible();
  await expect(page.getByText('less discount')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('tab', { name: 'Entries' }).click();
  await expect(page.getByText('Bonds issued').first()).toBeVisible();
});

test('5. the month’s payment is recorded as paid, late, with its date and amount', async ({ page }) => {
  await page.getByRole('link', { name: 'Batch house term loan' }).first().click();
  await page.getByRole('button', { name: 'Record a payment' }).click();
  await page.getByLabel('Left the bank on').fill('yesterday');
  await expect(page.getByText('“yesterday” is no date; type one such as')).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Left the bank on').fill('19 oct 26');
  await expect(page.getByText('19 Oct 2026', { exact: true })).toBeVisible();
  await expect(page.getByText('4 days late', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('46,611.29 recorded on 19 Oct 2026')).toBeVisible();
  await page.getByRole('tab', { name: 'History' }).click();
  await expect(page.getByText('Payment due 15 Oct 2026 recorded: 46,611.29 on 19 Oct 2026')).toBeVisible();
});

test('6. the month is closed by two: handed over, returned, changed in between, approved and locked; the next opens with the reversals', async ({
  page,
}) => {
  await page.keyboard.press('g');
  await page.keyboard.press('c');
  await expect(page.getByText('✓ balanced')).toBeVisible();
  await expectAccessible(page);
  await rowWith(page, 'Furnace hall mortgage').getByText('Furnace hall mortgage').click();
  await expect(page.getByText('Interest accrued to 31 Oct 2026')).toBeVisible();
  await handOver(page, 'October 2026', /interest goes on at the rate before/);
  await expect(page.getByText('Bram Osterhout may approve it.', { exact: false }).last()).toBeVisible();

  // The reviewer, by keyboard alone: looks at a line, opens why it differs, asks about it, and returns the month.
  const reviewer = await reviewerAt(page, /^October 2026, handed over/);
  await expectAccessible(reviewer);
  const line = reviewer.getByRole('row', { name: /Working capital line/ });
  await line.focus();
  await reviewer.keyboard.press(' ');
  await reviewer.keyboard.press('Enter');
  await expect(reviewer.getByText('expense differs')).toBeVisible();
  await expect(reviewer.getByText('Amount drawn')).toBeVisible();
  await expect(reviewer.getByText(/^1 of \d+ lines looked at/)).toBeVisible();
  await reviewer.keyboard.press('r');
  const dialog = reviewer.getByRole('dialog', { name: 'Return October 2026' });
  await dialog.getByRole('button', { name: 'Return it' }).click();
  await expect(dialog.getByText('Say what is to be seen to.')).toBeVisible();
  await dialog.getByLabel('What is to be seen to').fill('What was drawn in October?');
  await reviewer.keyboard.press('Control+Enter');
  await expect(reviewer.getByText('October 2026 is returned and open again.')).toBeVisible();

  // The preparer sees it, answers at the line, and hands it over again.
  await page.reload();
  await expect(page.getByText(/Returned by Bram Osterhout/)).toContainText('What was drawn in October?');
  await page.getByRole('radio', { name: 'Differences' }).click();
  await page.getByRole('row', { name: /Working capital line/ }).focus();
  await page.keyboard.press('c');
  await page.getByLabel('Say something about Working capital line').fill('Sand for the second furnace.');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('2 said')).toBeVisible();
  await handOver(page, 'October 2026', /interest goes on at the rate before/);

  // Something is chosen otherwise while it is read: what was seen is not approved, and what changed is named.
  await reviewer.reload();
  await expect(reviewer.getByText('2 said')).toBeVisible();
  await page.getByRole('radio', { name: 'What it makes' }).click();
  await page.getByRole('radio', { name: 'left standing until a payment clears them' }).click();
  await expect(page.getByText('Changed since it was handed over')).toBeVisible();
  await reviewer.getByRole('button', { name: 'Approve and lock October 2026' }).click();
  const approving = reviewer.getByRole('dialog', { name: 'Approve and lock October 2026' });
  await expectAccessible(reviewer);
  await approving.getByRole('button', { name: 'Approve and lock October 2026' }).click();
  await expect(approving.getByText('What becomes of accruals is no longer the same')).toBeVisible();
  await approving.getByRole('button', { name: 'Not yet' }).click();
  await expect(reviewer.getByText('it is handed over again first', { exact: false })).toBeVisible();
  await expect(reviewer.getByRole('button', { name: 'Approve and lock October 2026' })).toHaveCount(0);

  // As it was, it is what was handed over.
  await page.getByRole('radio', { name: 'reversed on the first of the next month' }).click();
  await expect(page.getByText('Changed since it was handed over')).toHaveCount(0);
  await reviewer.reload();
  await approve(reviewer, 'October 2026');
  await reviewer.context().close();

  await page.reload();
  await expect(page.getByRole('radio', { name: 'October 2026, closed' })).toBeVisible();
  await expect(page.getByRole('radio', { name: 'November 2026, open' })).toBeVisible();
  await page.getByRole('radio', { name: 'October 2026, closed' }).click();
  await expect(page.getByRole('list', { name: 'How far the month has come' })).toContainText(
    /Prepared\s*Ilka Varga.*Closed\s*Bram Osterhout/,
  );
  await page.getByRole('radio', { name: 'November 2026, open' }).click();
  await goTo(page, 'Journal');
  await expect(page.getByText('This month is open')).toBeVisible();
  await expect(page.getByText('Reversal: Interest accrued to 31 Oct 2026').first()).toBeVisible();
});

test('7. journal, schedule and instrument are taken out as files, and an instrument is brought in', async ({
  page,
}) => {
  await page.getByRole('radio', { name: 'October 2026, closed' }).click();
  await goTo(page, 'Journal');
  await expectAccessible(page);
  const take = async (menu: string, item: string): Promise<Buffer> => {
    await page.getByRole('button', { name: menu, exact: true }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: item }).click();
    return readFileSync(await (await download).path());
  };
  const lines = parse(await take('Take out the entries', 'As CSV'), { columns: true }) as Record<
    string,
    string
  >[];
  const cents = (side: string): number =>
    lines.reduce((sum, line) => sum + Math.round(Number(line[side]) * 100), 0);
  expect(cents('debit')).toBe(cents('credit'));
  await expect(rowWith(page, /\d+ entries/)).toContainText(
    (cents('debit') / 100).toLocaleString('en-US', { minimumFractionDigits: 2 }),
  );

  const book = new exceljs.Workbook();
  const workbook = await take('Take out the entries', 'As a workbook');
  await book.xlsx.load(new Uint8Array(workbook).buffer);
  expect(book.getWorksheet('Journal')?.rowCount).toBe(lines.length + 1);

  await goTo(page, 'Period close');
  const paper = await take('Take out', 'Working paper, PDF');
  expect(paper.subarray(0, 5).toString()).toBe('%PDF-');

  await goTo(page, 'Register');
  await rowWith(page, 'Polishing bay loan').getByText('Polishing bay loan').click();
  const schedule = parse(await take('Take out a file', 'Schedule as CSV'), { columns: true }) as Record<
    string,
    string
  >[];
  expect(schedule).toHaveLength(360);
  expect(schedule.at(-1)?.['closing']).toBe('0.00');
  const document = JSON.parse((await take('Take out a file', 'Instrument as a document')).toString()) as {
    name: string;
  };

  await goTo(page, 'Register');
  const bringIn = async (text: string): Promise<void> =>
    page
      .getByLabel('Instrument document')
      .setInputFiles({ name: 'loan.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await bringIn('{ not json');
  await expect(page.getByText('loan.json is not JSON')).toBeVisible();
  await bringIn(JSON.stringify({ ...document, name: 'Second polishing loan', colour: 'green' }));
  await expect(page.getByText('colour: This key is not known here.')).toBeVisible();
  await bringIn(JSON.stringify({ ...document, name: 'Second polishing loan' }));
  await confirm(page, 'in a month that is closed');
  await expect(page.getByRole('heading', { name: 'Second polishing loan' })).toBeVisible();
});

import { elsewhere, expect, expectAccessible, goFromMenu, goTo, rowWith, test } from '../coffer.ts';

test.describe.configure({ mode: 'serial' });

const maren = { logIn: 'maren', password: 'otter lantern gravel pine' };

/** A chart as a ledger gives it out: a title, then codes and names. */
const chart = `Pellwin Flat Glass, chart of accounts;
Account;Name
1010;Cash at bank
1620;Plant and equipment
2110;Accrued interest
2150;Current portion of long-term debt
2510;Loans payable
3990;Opening balances
7310;Interest expense
`;

/** Twelve loans as a sheet has them, with a title, decimal commas and a day that there is not. */
const loans = [
  'Loans of Pellwin;;;;;',
  ';;;;;',
  'Loan;Bank;Orig. amount;Draw;Int;n;Mthly pmt',
  ...Array.from({ length: 12 }, (_, at) => {
    const day = at === 9 ? '31.06.2025' : `15.0${(at % 9) + 1}.2025`;
    // 100,000 at 6 % in 60 level payments is 1,933.28 a month (annuity tables).
    return `Press loan ${at + 1};Quillhaven Bank;100.000,00;${day};6,00;60;1.933,28`;
  }),
].join('\n');

const asFile = (name: string, text: string): { name: string; mimeType: string; buffer: Buffer } => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.from(text),
});

test('from nothing to a company with accounts, people, twelve loans and a closed first month', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page).toHaveURL(/\/set-up$/);
  await page.getByLabel('One-time code').fill('AAAAA-AAAAA-AAAAA-AAAAA');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This is not the code of this installation')).toBeVisible();
  await page.getByLabel('One-time code').fill(process.env['COFFER_OWN_CODE'] ?? '');
  await page.keyboard.press('Enter');
  await expect(page.getByText('code of this installation accepted')).toBeVisible();
  await expectAccessible(page);

  // What is missing is said at its field, and a password that anybody would try.
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('This is needed.').first()).toBeVisible();
  await page.getByLabel('Name, as on the reports').fill('Pellwin Flat Glass');
  await page.getByLabel('Books begin on').fill('2 apr 26');
  await expect(
    page.getByText('Books begin on the first of a month, such as 1 Apr 2026.').first(),
  ).toBeVisible();
  await page.getByLabel('Books begin on').fill('1 apr 26');
  await expect(page.getByRole('radio', { name: 'April 2026, open' })).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Maren Tolliver');
  await page.getByLabel('Log-in name').fill('maren');
  await page.getByLabel('Password', { exact: true }).fill('molten-sand-1450');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('This is a password of the demo')).toBeVisible();
  await page.getByLabel('Password', { exact: true }).fill(maren.password);
  await expect(page.getByText(/on no list of common ones/)).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Nothing is owed on 30 Apr 2026' })).toBeVisible();

  // The chart, from a file; the names of its accounts say what stands for most roles.
  await goFromMenu(page, /^Pellwin Flat Glass/, 'Accounts');
  await page.getByLabel('Chart of accounts, CSV or XLSX').setInputFiles(asFile('chart.csv', chart));
  await expect(page.getByText('7 accounts read')).toBeVisible();
  await expect(page.getByLabel('Account for Loan payable')).toHaveValue('2510');
  await expect(page.getByLabel('Account for Interest expense')).toHaveValue('7310');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Keep the chart' }).click();
  await expect(page.getByText('The chart is kept.')).toBeVisible();

  // Twelve loans from a sheet: all of them, once the day that there is not is put right.
  await goTo(page, 'Register');
  await page.getByRole('link', { name: 'Take on many' }).click();
  await page.getByLabel('Sheet of instruments, CSV or XLSX').setInputFiles(asFile('loans.csv', loans));
  await expect(page.getByRole('button', { name: 'Agree 11' })).toBeVisible();
  await expect(page.getByText('“31.06.2025” is no day')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Control+Enter');
  await page.keyboard.press('Enter');
  await page.keyboard.type('30 jun 25');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Agree 12' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('12 instruments')).toBeVisible();
  await expect(rowWith(page, 'Press loan 12')).toBeVisible();

  // Somebody is invited, comes in by the link, and reads.
  await goFromMenu(page, /^Pellwin Flat Glass/, 'People and roles');
  await page.getByRole('button', { name: 'Invite somebody' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Joss Arden');
  await page.getByLabel('Log-in name').fill('joss');
  await page.getByRole('checkbox', { name: /^Prepares/ }).uncheck();
  await page.getByRole('checkbox', { name: /^Reviews/ }).check();
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = await page.getByLabel('One-time link').inputValue();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('joss was invited as one who reviews')).toBeVisible();
  await expectAccessible(page);
  const ofJoss = await elsewhere(page);
  const joss = await ofJoss.newPage();
  await joss.goto(link);
  await expect(joss.getByRole('heading', { name: 'Welcome, Joss Arden' })).toBeVisible();
  await joss.getByLabel('Choose a password', { exact: true }).fill('copper willow ember north');
  await joss.getByRole('button', { name: 'Come in' }).click();
  await expect(joss.getByText('12 instruments')).toBeVisible();
  await expect(joss.getByRole('link', { name: 'New instrument' })).toHaveCount(0);
  await joss.goto(link);
  await expect(joss.getByText('This link was used, and holds once.')).toBeVisible();
  await ofJoss.close();

  // The first month is closed; what was brought in is in its journal.
  await goTo(page, 'Period close');
  await expect(page.getByText('✓ balanced')).toBeVisible();
  await page.getByRole('button', { name: 'Lock April 2026' }).click();
  await page.getByRole('dialog').getByRole('button', { name: /^Lock/ }).click();
  await expect(page.getByText(/Maren Tolliver, no second person/)).toBeVisible();
  await expect(page.getByRole('radio', { name: 'April 2026, closed' })).toBeVisible();
});

test('another company in the installation has nothing of the first, and each window works for one', async ({
  page,
}) => {
  await page.goto('/log-in');
  await page.getByLabel('Log-in name').fill(maren.logIn);
  await page.getByLabel('Password').fill(maren.password);
  await page.getByRole('button', { name: 'Log in' }).click();
  await expect(page.getByText('12 instruments')).toBeVisible();
  await goFromMenu(page, /^Pellwin Flat Glass/, 'Another company…');
  await page.getByLabel('Name, as on the reports').fill('Pellwin Holding');
  await page.getByLabel('Books begin on').fill('1 jan 26');
  await page.getByRole('button', { name: /^Make the company/ }).click();
  await expect(page.getByRole('heading', { name: 'Nothing is owed on 31 Jan 2026' })).toBeVisible();
  await expect(page.getByText('Press loan')).toHaveCount(0);
  await goFromMenu(page, /^Pellwin Holding/, 'Work for Pellwin Flat Glass');
  await expect(page.getByText('12 instruments')).toBeVisible();
});

// Takes the pictures in docs/screenshots/ from a running application with fresh demo data:
//   ./coffer start --fresh && node scripts/pictures.mjs http://127.0.0.1:4680
// With a folder, a colour scheme and the link of an installation that waits to be set up, that is taken as well.
import { Buffer } from 'node:buffer';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';

const address = process.argv[2] ?? 'http://127.0.0.1:4680';
const folder = process.argv[3] ?? fileURLToPath(new URL('../docs/screenshots', import.meta.url));
const colorScheme = process.argv[4] ?? 'light';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-dev-shm-usage'],
});
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  reducedMotion: 'reduce',
  locale: 'en-US',
  timezoneId: 'UTC',
  colorScheme,
});
const page = await context.newPage();

async function take(name) {
  await page.mouse.move(5, 700);
  await page.waitForTimeout(700);
  await page.screenshot({ path: `${folder}/${name}.png` });
}

const open = async (name) => {
  await page.goto(address);
  await page.getByPlaceholder('Find').fill(name);
  await page.getByRole('option', { name }).first().click();
  await page.getByText('period end').first().waitFor();
};
const fill = async (label, value) => page.getByLabel(label, { exact: true }).first().fill(value);

await page.goto(`${address}/log-in`);
await fill('Log-in name', 'ilka');
await fill('Password', 'molten-sand-1450');
await page.getByRole('button', { name: 'Log in' }).click();
await page.getByText('16 instruments').waitFor();
await take('register');

await page.goto(`${address}/portfolio`);
await page.getByText('cross-foot').waitFor();
const cell = (name, at) =>
  page.getByRole('row').filter({ hasText: name }).first().getByRole('gridcell').nth(at);
const typeOver = async (name, at, text) => {
  await cell(name, at).click();
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
  await page.getByRole('row').filter({ hasText: name }).getByText(text).first().waitFor();
};
await typeOver('Furnace hall mortgage', 6, '45,000.00');
await take('portfolio');
await page.getByRole('radio', { name: 'Another scenario' }).click();
await typeOver('Annealing line loan', 4, '20,000.00');
await typeOver('Cullet sorter build loan', 4, '9,000.00');
await page.getByRole('link', { name: 'Side by side' }).click();
await page.getByText('What differs, by instrument').first().waitFor();
await take('side-by-side');

await page.goto(`${address}/plan`);
await fill('All cleared by', '31 dec 29');
await fill('A fund earns, %', '2.4');
await fill('Cash is worth, %', '4.5');
await fill('Outlays a month', '42,780');
await fill('Tax, %', '25');
await fill('Operating cash a year', '3.6m');
await page.getByText('Everything is cleared by 31 Dec 2029').first().waitFor();
await page.waitForTimeout(4000);
await take('plan');

await open('Annealing line loan');
await page.getByRole('gridcell', { name: '2,104.18' }).click();
await take('instrument');

await open('Cullet sorter build loan');
await page.getByRole('tab', { name: 'Terms & events' }).click();
await page.getByRole('heading', { name: 'Events' }).waitFor();
await take('terms');

await open('5.50% bonds due 2034');
await take('bond');

await page.getByRole('tab', { name: 'Fund', exact: true }).click();
await page.getByRole('textbox', { name: 'Earns a year, %' }).fill('2.4');
await page.getByRole('button', { name: /^Net interest/ }).click();
await take('fund');

await page.goto(`${address}/rates`);
await page.getByRole('textbox', { name: 'From' }).fill('15 oct 26');
await page.getByRole('textbox', { name: 'Rate, %' }).fill('2.495');
await page.getByRole('button', { name: 'See what it does' }).click();
await page.getByRole('row').filter({ hasText: 'Furnace rebuild loan' }).waitFor();
await take('rates');

const typed = (label) => page.getByRole('textbox', { name: label, exact: true });
await open('Batch house term loan');
await page.getByRole('tab', { name: 'Try a change' }).click();
await typed('From the day (empty: from the start)').fill('1 jan 27');
await typed('Rate, %').fill('4.75');
await page.getByRole('button', { name: 'Another variant' }).click();
await typed('Payments in all').fill('24');
await page.getByRole('button', { name: 'Another variant' }).click();
await typed('With each payment').fill('5,000');
await typed('Beginning').fill('1 jan 27');
await page
  .getByText(/(year|month)s? sooner/)
  .last()
  .waitFor();
await take('try-a-change');

await page.goto(`${address}/payments`);
await page
  .getByRole('row')
  .filter({ hasText: 'Batch house term loan' })
  .getByText('46,611.29')
  .last()
  .click();
await page.keyboard.type('40,000');
await page.keyboard.press('Enter');
await take('payments');

await page.goto(`${address}/instruments/new`);
await page.getByRole('listitem').filter({ hasText: 'Interest only, then level' }).getByRole('button').click();
await fill('Name', 'Polishing bay loan');
await fill('Lender', 'Quillhaven Bank');
await fill('Amount, EUR', '1.2m');
await fill('Start', '1 oct 26');
await fill('First payment', '1 nov 26');
await fill('Annual rate, %', '6 1/8');
await fill('Term', '18');
await page.getByRole('button', { name: 'Add an event' }).first().click();
await page.getByRole('menuitem', { name: 'Rate step' }).click();
await page.locator('#event-0').getByLabel('On', { exact: true }).fill('1 oct 28');
await page.locator('#event-0').getByLabel('New rate, %').fill('5 3/4');
await page.getByRole('button', { name: 'Add an event' }).first().click();
await page.getByRole('menuitem', { name: 'Extra principal' }).click();
await page.locator('#event-1').getByLabel('On', { exact: true }).fill('15 jun 29');
await page.locator('#event-1').getByLabel('Amount').fill('75,000');
await page.getByText('proofs hold').waitFor();
await take('new-instrument');

await page.getByRole('button', { name: 'Start again' }).click();
await page.getByRole('radio', { name: 'Bond' }).click();
await fill('Name', '5.25% bonds due 2033');
await fill('Held by', 'Public holders');
await fill('Face, EUR', '2.5m');
await fill('Issued', '1 oct 26');
await fill('Matures', '1 oct 33');
await fill('Coupon rate, %', '5.25');
await fill('Market yield, %', '5.6');
await fill('Issue costs', '37,500');
await page.getByText('proofs hold').waitFor();
await page.getByText('worked out:').waitFor();
await take('new-bond');

await page.goto(`${address}/close`);
await page.getByText('✓ balanced').waitFor();
await take('period-close');

// The month as who reviews it sees it, with something asked and answered at a line.
const said = async (on, text) => {
  await on.getByRole('row', { name: /Working capital line/ }).focus();
  await on.keyboard.press('c');
  await on.getByLabel('Say something about Working capital line').fill(text);
  await on.keyboard.press('Control+Enter');
  await on.getByText(text).waitFor();
};
await page.getByRole('button', { name: 'Hand over October 2026' }).click();
await page.getByRole('button', { name: 'Yes, do it' }).click();
await page.getByText('October 2026 is handed over.').waitFor();
const reviewing = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  colorScheme,
  timezoneId: 'UTC',
});
const reviewer = await reviewing.newPage();
await reviewer.goto(`${address}/log-in`);
await reviewer.getByLabel('Log-in name').fill('bram');
await reviewer.getByLabel('Password', { exact: true }).fill('clear-lens-0730');
await reviewer.getByRole('button', { name: 'Log in' }).click();
await reviewer.getByText('16 instruments').waitFor();
await reviewer.goto(`${address}/close`);
await said(reviewer, 'What was drawn in October?');
await page.reload();
await said(page, 'Sand for the second furnace; the notice is among its papers.');
await reviewer.reload();
const line = reviewer.getByRole('row', { name: /Working capital line/ });
await line.focus();
await reviewer.keyboard.press(' ');
await reviewer.keyboard.press('Enter');
await reviewer.getByText('Amount drawn').waitFor();
await reviewer.getByRole('button', { name: /ran as scheduled/ }).click();
await reviewer.mouse.move(5, 700);
await reviewer.waitForTimeout(700);
await reviewer.screenshot({ path: `${folder}/review.png` });
await reviewing.close();

await page.getByRole('radio', { name: 'September 2026, closed' }).click();
await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Journal' }).click();
await page.getByText('Fiscal year to date').waitFor();
await take('journal');

// A sheet of loans, one with a day that there is not, one worked out by another day count.
const loans = [
  ['Ref / use', 'Bank', 'Orig. amount', 'Draw', 'Int', 'n', 'Basis', 'Mthly pmt', 'Last'],
  [
    'Annealing lehr loan',
    'Quillhaven Bank',
    '640,000.00',
    '15 Jun 2024',
    '6.10',
    '84',
    'even months',
    '9,380.19',
    '15 Jun 2031',
  ],
  [
    'Batch weighing loan',
    'Quillhaven Bank',
    '318,000.00',
    '15 Jul 2024',
    '5.42',
    '96',
    'even months',
    '4,089.75',
    '15 Jul 2032',
  ],
  [
    'Cold end line note',
    'Marrowfen Mutual',
    '186,500.00',
    '1 Feb 2024',
    '5.95',
    '60',
    'even months',
    '3,601.23',
    '1 Feb 2029',
  ],
  [
    'Cullet crusher note',
    'Marrowfen Mutual',
    '48,200.00',
    '10 Apr 2025',
    '6.40',
    '36',
    'even months',
    '1,475.09',
    '10 Apr 2028',
  ],
  [
    'Edge polisher note',
    'Quillhaven Bank',
    '74,300.00',
    '16 Nov 2023',
    '5.75',
    '60',
    'ACT/365F',
    '1,427.81',
    '16 Nov 2028',
  ],
  [
    'Furnace yard loan',
    'Quillhaven Bank',
    '2,800,000.00',
    '10 Jan 2016',
    '4.35',
    '300',
    'even months',
    '15,325.88',
    '10 Jan 2041',
  ],
  [
    'Kiln shelf note',
    'Marrowfen Mutual',
    '39,600.00',
    '31 Jun 2025',
    '6.80',
    '36',
    'even months',
    '1,219.12',
    '30 Jun 2028',
  ],
  [
    'Lens bench purchase',
    'Tolbeck Equipment Finance',
    '152,000.00',
    '16 Sep 2025',
    '5.75',
    '48',
    'even months',
    '3,552.33',
    '16 Sep 2029',
  ],
];
const sheet = loans.map((row) => row.join('\t')).join('\n');
await page.goto(`${address}/instruments/many`);
await page
  .getByLabel('Sheet of instruments, CSV or XLSX')
  .setInputFiles({ name: 'loans.txt', mimeType: 'text/plain', buffer: Buffer.from(sheet) });
await page.getByRole('button', { name: 'Agree 6' }).waitFor();
await take('take-on-many');
await page.goto(`${address}/accounts`);
await page.getByText('every role has one').waitFor();
await take('accounts');

// The first start of an installation of one's own, by the link that it prints.
const setUp = process.argv[5];
if (setUp !== undefined) {
  await page.goto(setUp);
  await fill('Name, as on the reports', 'Pellwin Flat Glass');
  await fill('Books begin on', '1 apr 26');
  await fill('Name', 'Maren Tolliver');
  await fill('Log-in name', 'maren');
  await fill('Password', 'otter lantern gravel pine');
  await page.getByText('on no list of common ones').waitFor();
  await take('set-up');
}
await browser.close();

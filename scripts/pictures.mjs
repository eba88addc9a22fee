// Takes the pictures in docs/screenshots/ from a running application with fresh demo data:
//   ./coffer start --fresh && node scripts/pictures.mjs http://127.0.0.1:4680
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

await open('6.00% serial bonds due 2030');
await take('serial-bonds');
await page.getByRole('tab', { name: 'Try a redemption' }).click();
await page.getByRole('textbox', { name: 'Redeemed on' }).fill('1 mar 27');
await page.getByRole('textbox', { name: 'Face', exact: true }).fill('500,000');
await page.getByRole('textbox', { name: 'Price, percent of face' }).fill('101');
await page.getByText('Loss on redemption', { exact: true }).waitFor();
await take('redemption');
await page.getByRole('tab', { name: 'Both methods' }).click();
await page.getByText('farthest apart').waitFor();
await take('both-methods');

await open('Working capital line');
await take('credit-line');

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
await page.getByRole('button', { name: 'Remove' }).click();
await page.getByRole('button', { name: 'Remove' }).click();
await page.getByRole('button', { name: 'Remove' }).click();
await page.getByText('Two terms over a range').click();
await page.getByRole('row').filter({ hasText: '5.42% now' }).waitFor();
await take('two-terms-over-a-range');

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
await fill('Number of payments', '18');
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

await page.getByRole('radio', { name: 'September 2026, closed' }).click();
await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Journal' }).click();
await page.getByText('Fiscal year to date').waitFor();
await take('journal');
await browser.close();

import { expect, expectAccessible, goFromMenu, goTo, rowWith, test } from '../coffer.ts';

test('a company writes and reads numbers and days as it chose, on every page, and others as they chose', async ({
  page,
}) => {
  await page.goto('/log-in');
  await page.getByLabel('Log-in name').fill('maren');
  await page.getByLabel('Password').fill('otter lantern gravel pine');
  await page.getByRole('button', { name: 'Log in' }).click();
  await goFromMenu(page, /^Pellwin Flat Glass/, 'Another company…');
  await page.getByLabel('Name, as on the reports').fill('Pellwin Glas');
  await page.getByRole('radio', { name: '1.234.567,89' }).click();
  await page.getByRole('radio', { name: '03/31/2027' }).click();
  await expect(
    page.getByText('A day typed 3/4/26 is then 4 Mar 2026; an amount typed 1,2m is 1.200.000,00'),
  ).toBeVisible();
  await page.getByRole('radio', { name: '31.03.2027' }).click();
  await page.getByLabel('Books begin on').fill('1.1.26');
  await expect(page.getByText('01.01.2026, in Fiscal 2026')).toBeVisible();
  await page.getByRole('button', { name: /^Make the company/ }).click();
  await expect(page.getByRole('heading', { name: 'Nothing is owed on 31.01.2026' })).toBeVisible();

  await page.goto('/instruments/new');
  await page.getByLabel('Name', { exact: true }).fill('Presse');
  await page.getByLabel('Amount, EUR').fill('1.250.000,00');
  await page.getByLabel('Annual rate, %').fill('6,125');
  await page.getByLabel('Start', { exact: true }).fill('15.1.2026');
  await page.getByLabel('First payment', { exact: true }).fill('15.2.2026');
  await page.getByLabel('Term', { exact: true }).fill('60');
  await page.getByText('Dates and business days').click();
  await page.getByRole('combobox', { name: 'Due dates on closed days' }).click();
  await page.getByRole('option', { name: /^following/ }).click();
  // 1,250,000 at 6.125 % a year in 60 level payments (annuity formula).
  await expect(page.getByText('24.238,72').first()).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Presse' })).toBeVisible();
  await goTo(page, 'Register');
  await expect(rowWith(page, 'Presse')).toContainText('1.250.000,00');
  await expect(rowWith(page, 'Presse')).toContainText('6,125%');

  // Decided otherwise later: with a reason, and everything is shown anew.
  await goFromMenu(page, /^Pellwin Glas/, 'Settings');
  await expectAccessible(page);
  await page.getByRole('radio', { name: '1’234’567.89' }).click();
  await page.getByLabel('Mortgages and term loans').fill('Bankdarlehen');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Say why; it stands with the change.')).toBeVisible();
  await page.getByLabel('Why').fill('As the parent writes');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('1.234.567,89 → 1’234’567.89')).toBeVisible();
  await expect(page.getByText('The currency stays').or(page.getByText('Currency: stays.'))).toBeVisible();

  // A closed day of the company's own reaches the loan of which a payment falls on it.
  await page.getByLabel('Besides weekends').fill('15.04.2026 Werksferien');
  await page.getByLabel('Why').fill('Beschluss vom Januar');
  await page.keyboard.press('Control+Enter');
  const lacking = page.locator('coffer-lacking-closed-days');
  await expect(lacking.getByText('15.04.2026 to 16.04.2026')).toBeVisible();
  await expectAccessible(page);
  await lacking.getByRole('checkbox', { name: 'Presse' }).check();
  await lacking.getByLabel('Why').fill('Werksferien der Bank');
  await lacking.getByRole('button', { name: 'Change one instrument' }).click();
  await expect(lacking.getByText('One instrument has a new version.')).toBeVisible();
  await goTo(page, 'Register');
  await expect(rowWith(page, 'Presse')).toContainText('1’250’000.00');
  await expect(page.getByText('Bankdarlehen')).toBeVisible();
  await goFromMenu(page, /^Pellwin Glas/, 'Work for Pellwin Flat Glass');
  await expect(page.getByText('12 instruments')).toBeVisible();
  await expect(page.getByText('30 Apr 2026').or(page.getByText('31 May 2026')).first()).toBeVisible();
});

test('everything of a company is taken out as one file and comes in again as another, its documents too', async ({
  page,
}, info) => {
  await page.goto('/log-in');
  await page.getByLabel('Log-in name').fill('maren');
  await page.getByLabel('Password').fill('otter lantern gravel pine');
  await page.getByRole('button', { name: 'Log in' }).click();
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
  await page.getByRole('button', { name: /^Pellwin/ }).click();
  const other = page.getByRole('menuitem', { name: 'Work for Pellwin Flat Glass' });
  if (await other.isVisible()) await other.click();
  else await page.keyboard.press('Escape');
  await expect(page.getByText('12 instruments')).toBeVisible();
  await page.goto('/settings');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Take everything out (ZIP)' }).click(),
  ]);
  const everything = info.outputPath('everything.zip');
  await download.saveAs(everything);
  await goFromMenu(page, /^Pellwin Flat Glass/, 'Another company…');
  // Under its own name it is here already.
  await page.getByLabel('Everything of a company, ZIP').setInputFiles(everything);
  await expect(page.getByText('is kept here already; give this one another name').first()).toBeVisible();
  await page.getByLabel('Name, as on the reports').fill('Pellwin moved');
  await page.getByLabel('Everything of a company, ZIP').setInputFiles(everything);
  await expect(page.getByRole('button', { name: /^Pellwin moved/ })).toBeVisible();
  await expect(page.getByText('12 instruments')).toBeVisible();
  await expect(page.getByRole('radio', { name: 'April 2026, closed' })).toBeVisible();

  // The documents in it are a ZIP of documents: of names that are here already, all or none is said.
  await page.goto('/instruments/many');
  await page.getByLabel('Sheet of instruments, CSV or XLSX').setInputFiles(everything);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take on 12 instruments' }).click();
  await expect(page.getByText('The register has an instrument named Press loan 1.')).toBeVisible();
});

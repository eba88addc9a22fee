import { expect, expectAccessible, goTo, logIn, people, rowWith, test } from '../coffer.ts';

test('a fixing that is due is asked for, looked at, and kept for the loan that follows', async ({ page }) => {
  await logIn(page);
  await page.getByRole('link', { name: 'fixing due' }).click();
  await expect(page.getByRole('heading', { name: 'Reference rates' })).toBeVisible();
  // What cannot be is told at its field.
  await page.getByRole('button', { name: 'See what it does' }).click();
  await expect(page.getByText('A date, such as 15 oct 26.')).toBeVisible();
  await expectAccessible(page);

  await page.getByRole('textbox', { name: 'From' }).fill('15 oct 26');
  await page.getByRole('textbox', { name: 'Rate, %' }).fill('2.5');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('region', { name: 'Before it is kept' });
  // The index and a margin of 1.85.
  await expect(panel.getByRole('row', { name: /Furnace rebuild loan/ })).toContainText('4.43% → 4.35%');
  await page.getByRole('button', { name: 'Ask the rate service' }).click();
  // The service knows better; what it has of the day takes the place of what was typed.
  await expect(panel.getByRole('row', { name: /Furnace rebuild loan/ })).toContainText('4.43% → 4.345%');
  await expectAccessible(page);
  await panel.getByRole('button', { name: 'Keep, and change one instrument' }).click();
  await expect(panel.getByText('Say why; it is kept with each version.')).toBeVisible();
  await panel.getByRole('textbox', { name: 'Why' }).fill('Published on 15 October');
  await page.keyboard.press('Control+Enter');
  await expect(
    page.getByRole('status').filter({ hasText: 'one instrument has a new version' }),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /15 Oct 2026/ })).toContainText(
    'from the rate service, Ilka Varga',
  );

  await page.getByRole('button', { name: 'Who lacks what is kept?' }).click();
  await expect(
    page.getByText('Every instrument that follows this index has what is kept of it.'),
  ).toBeVisible();

  await goTo(page, 'Register');
  await expect(page.getByRole('link', { name: 'fixing due' })).toHaveCount(0);
  await rowWith(page, 'Furnace rebuild loan').getByText('Furnace rebuild loan').click();
  await page.getByRole('tab', { name: 'History' }).click();
  await expect(page.getByText('Published on 15 October')).toBeVisible();
});

test('a loan that follows a kept index needs no rate; pasted fixings are read or told by their line', async ({
  page,
}) => {
  await logIn(page);
  await page.goto('/rates');
  await page.getByRole('button', { name: 'Paste' }).click();
  await page
    .getByRole('textbox', { name: /Fixings, one in each line/ })
    .fill(
      'Index\tDay\tRate\nQuarry rate\t1.9.2026\t3,125\nQuarry rate\t1.10.2026\t3,250\nQuarry rate\tlater\t3',
    );
  await page.getByRole('button', { name: 'Take over' }).click();
  await expect(page.getByRole('alert')).toContainText('Line 4 has no date: Quarry rate later 3');
  await expect(page.getByText('No instrument takes any of them')).toBeVisible();
  await page.getByRole('textbox', { name: 'Why' }).fill('Brought over');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('row', { name: /1 Oct 2026/ })).toContainText('+12.5 bp');

  await page.goto('/instruments/new');
  const field = (name: string) => page.getByRole('textbox', { name, exact: true });
  await field('Name').fill('Crusher loan');
  await field('Amount, EUR').fill('60,000');
  await field('Start').fill('1 oct 26');
  await field('First payment').fill('1 nov 26');
  await page.getByText('Rate and compounding').click();
  await page.getByRole('checkbox', { name: 'Follows an index' }).check();
  await page.getByRole('combobox', { name: 'Index' }).fill('quarry rate');
  await expect(page.getByText('kept: 3.250% from 1 Oct 2026')).toBeVisible();
  await field('Margin, %').fill('1.75');
  await field('Term').fill('to 1 oct 31');
  await expect(page.getByText('60 payments', { exact: true })).toBeVisible();
  // 60,000 over 60 months at 3.25 + 1.75 %: the annuity of handbook tables, 18.871234 a month for each thousand.
  await expect(page.getByText('1,132.27').first()).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Crusher loan' })).toBeVisible();
});

test('a reviewer looks at rates and is offered no change', async ({ page }) => {
  await logIn(page, people.reviewer);
  await page.goto('/rates');
  await expect(page.getByRole('row', { name: /15 Jul 2026/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /Take back|Keep|rate service|See what/ })).toHaveCount(0);
});

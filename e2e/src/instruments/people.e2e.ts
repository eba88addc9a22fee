import { expect, expectAccessible, logIn, people, rowWith, test } from '../coffer.ts';

test('a wrong password is refused in words, and the page asked for opens after log-in', async ({ page }) => {
  await page.goto('/journal');
  await expect(page.getByRole('heading', { name: 'Coffer' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Log in' }).click();
  await expect(page.getByText('Type your log-in name.')).toBeVisible();
  await page.getByLabel('Log-in name').fill('bram');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Log in' }).click();
  await expect(page.getByText('There is no such log-in name with this password.')).toBeVisible();
  await page.getByLabel('Password').fill(people.reviewer.password);
  await page.getByRole('button', { name: 'Log in' }).click();
  await expect(page.getByRole('heading', { name: 'Journal' })).toBeVisible();
});

test('an auditor reads everything and is offered no change', async ({ page }) => {
  await logIn(page, people.auditor);
  await expect(page.getByRole('link', { name: 'New instrument' })).toHaveCount(0);
  await page.goto('/close');
  await expect(page.getByText('✓ balanced')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Lock/ })).toHaveCount(0);
});

test('the keyboard alone finds an instrument, walks its figures, explains one and changes the date', async ({
  page,
}) => {
  await logIn(page);
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('/');
  await page.keyboard.type('cullet');
  await expect(page.getByRole('option', { name: /Cullet sorter/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Cullet sorter build loan' })).toBeVisible();
  const grid = page.getByRole('grid', { name: 'Schedule' });
  await expect(rowWith(page, 'period end')).toBeVisible();
  await grid.focus();
  await page.keyboard.press('ArrowDown');
  for (let step = 0; step < 4; step += 1) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'How this figure is made' })).toContainText('6.75%');
  await page.keyboard.press('/');
  await page.keyboard.type('31 dec 2026');
  await page.keyboard.press('Enter');
  await expect(rowWith(page, '31 Dec 2026 · period end')).toBeVisible();
});

test('a stale change is refused and says so', async ({ page, context }) => {
  await logIn(page);
  await rowWith(page, 'Delivery fleet note').getByText('Delivery fleet note').click();
  await page.getByRole('link', { name: 'Change terms' }).click();
  const save = async (on: typeof page, why: string): Promise<void> => {
    await on.getByLabel('Why the terms change').fill(why);
    await on.getByLabel('Agreement', { exact: true }).fill(why);
    await on.getByRole('button', { name: 'Save as a new version' }).click();
  };
  await expect(page.getByText('2 recorded payments stay as they are.')).toBeVisible();
  await expectAccessible(page);
  const other = await context.newPage();
  // What is typed before the terms are there would be lost among them: there is nowhere to type until then.
  let arrive = (): void => undefined;
  const late = new Promise<void>((resolve) => (arrive = resolve));
  await other.route(/\/api\/instruments\/[^/]+$/, async (route) => {
    await late;
    await route.continue();
  });
  await other.goto(page.url());
  await expect(other.getByText('The terms are on their way.')).toBeVisible();
  await expect(other.getByLabel('Why the terms change')).toHaveCount(0);
  arrive();
  await save(other, 'Amendment A');
  await expect(other.getByRole('heading', { name: 'Delivery fleet note' })).toBeVisible();
  // A page that is not in front draws nothing, and what it saves waits for that.
  await page.bringToFront();
  await save(page, 'Amendment B');
  await expect(page.getByText('The instrument was changed meanwhile')).toBeVisible();
});

test('a narrow window keeps every page within its width', async ({ page }) => {
  await page.setViewportSize({ width: 420, height: 800 });
  await logIn(page);
  for (const path of ['/', '/payments', '/close', '/journal', '/rates', '/instruments/new']) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    const overflow = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect(overflow, path).toBeLessThanOrEqual(0);
  }
});

test('an address that leads nowhere says so and leads back', async ({ page }) => {
  await logIn(page);
  await page.goto('/no-such-place');
  await expect(page.getByRole('heading', { name: 'There is no page at this address' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Go to the register' }).click();
  await expect(page.getByRole('heading', { name: 'Debt register' })).toBeVisible();
  await page.goto('/instruments/00000000-0000-4000-8000-000000000000/schedule');
  await expect(page.getByText('There is no such instrument')).toBeVisible();
});

test('figures stand only under the date that they came for, and a failure is tried again', async ({
  page,
}) => {
  await logIn(page);
  const loan = rowWith(page, 'Annealing line loan');
  await page.getByRole('radio', { name: /^September 2026/ }).click();
  await expect(page.getByText('as reported')).toBeVisible();
  const september = await loan.innerText();
  const error = { code: 'too-many-calls', message: 'Too many calls at once; wait a moment.' };
  await page.route('**/api/register*', (route) => route.fulfill({ status: 429, json: { error } }));
  await page.getByRole('radio', { name: /^August 2026/ }).click();
  await expect(page.getByRole('alert')).toContainText('wait a moment');
  await expect(loan).toHaveCount(0);
  await page.unroute('**/api/register*');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(loan).toBeVisible();
  expect(await loan.innerText()).not.toBe(september);
  await expect(page.getByRole('alert')).toHaveCount(0);
});

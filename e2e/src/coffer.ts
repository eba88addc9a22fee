import { setTimeout } from 'node:timers/promises';
import axe from 'axe-core';
import { expect, test as base, type BrowserContext, type Locator, type Page } from '@playwright/test';

declare global {
  interface Window {
    readonly axe: typeof axe;
  }
}

/** The people of the demo company. */
export const people = {
  preparer: { logIn: 'ilka', password: 'molten-sand-1450' },
  reviewer: { logIn: 'bram', password: 'clear-lens-0730' },
  auditor: { logIn: 'tobiah', password: 'pale-cullet-318' },
};

/** Logs in, not by the form, which has tests of its own, and waits for the register. */
export async function logIn(page: Page, person = people.preparer): Promise<void> {
  await page.request.get('/api/session');
  const cookies = await page.context().cookies();
  const token = cookies.find(({ name }) => name.startsWith('XSRF-TOKEN'))?.value ?? '';
  const answer = await page.request.post('/api/session', {
    data: person,
    headers: { 'x-xsrf-token': decodeURIComponent(token) },
  });
  expect(answer.status(), await answer.text()).toBe(200);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Debt register' })).toBeVisible();
}

/** Goes to one of the places by its link. */
export async function goTo(page: Page, place: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: place }).click();
}

/** Goes to a place of the company's menu, by its key: a click is lost where the menu still moves as it opens. */
export async function goFromMenu(page: Page, company: RegExp, place: string): Promise<void> {
  await page.getByRole('button', { name: company }).click();
  await page.getByRole('menuitem', { name: place }).press('Enter');
}

/** What is looked for: all of WCAG 2.2 A and AA in light; dark differs in nothing but colour. */
const looked = [
  { colorScheme: 'light', type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] },
  { colorScheme: 'dark', type: 'rule', values: ['color-contrast'] },
] as const;

/** Figures of grids that are cut off: their text is wider than its cell leaves room for. */
async function expectFiguresWhole(page: Page): Promise<void> {
  const cut = await page.evaluate(() =>
    Array.from(document.querySelectorAll<HTMLElement>('[role=gridcell].right .text')).flatMap((text) => {
      const range = document.createRange();
      range.selectNodeContents(text);
      const room = text.getBoundingClientRect().width;
      return range.getBoundingClientRect().width > room + 0.5 ? [text.textContent] : [];
    }),
  );
  expect(cut, 'figures that are cut off').toEqual([]);
}

/** No accessibility fault of WCAG 2.2 A or AA that axe can find, in light and in dark, and no figure cut off. */
export async function expectAccessible(page: Page): Promise<void> {
  await expectFiguresWhole(page);
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  for (const { colorScheme, type, values } of looked) {
    await page.emulateMedia({ colorScheme });
    const found = await page.evaluate(
      async (runOnly) => {
        // What is not at fault is not described: that takes longer than to find it.
        const { violations } = await window.axe.run({ runOnly, resultTypes: ['violations'] });
        return violations.flatMap(({ id, nodes }) =>
          nodes.map(({ target, failureSummary }) => `${id}: ${target.join(' ')} ${failureSummary ?? ''}`),
        );
      },
      { type, values: [...values] },
    );
    expect(found, colorScheme).toEqual([]);
  }
  await page.emulateMedia({ colorScheme: 'light' });
}

/** Confirms what is asked about, having read it. */
export async function confirm(page: Page, asked: string | RegExp): Promise<void> {
  const dialog = page.getByRole('dialog', { name: 'Is this meant so?' });
  await expect(dialog).toContainText(asked);
  await dialog.getByRole('button', { name: 'Yes, do it' }).click();
}

/** Hands the month that is looked at over, and confirms what is asked about. */
export async function handOver(page: Page, month: string, asked?: RegExp): Promise<void> {
  await page.getByRole('button', { name: `Hand over ${month}` }).click();
  if (asked) await confirm(page, asked);
  await expect(page.getByText(`${month} is handed over.`)).toBeVisible();
}

/** A browser of somebody else's, at the same address, on a day; without one on that of the page. */
export async function elsewhere(page: Page, today?: string): Promise<BrowserContext> {
  const address = await page.evaluate(() => location.origin);
  const context = await page
    .context()
    .browser()
    ?.newContext({ viewport: { width: 1280, height: 800 }, baseURL: address });
  if (!context) throw new Error('There is no browser to open another window in.');
  const now = await page.evaluate(() => Date.now());
  await beginAt(context, today === undefined ? new Date(now) : morningOf(today));
  return context;
}

/**
 * The pages of a browser live in another time, which goes on from a moment. Nothing but the date is another: what waits
 * waits by the real clock.
 */
async function beginAt(context: BrowserContext, moment: Date): Promise<void> {
  await context.addInitScript((ahead) => {
    const RealDate = Date;
    const now = (): number => RealDate.now() + ahead;
    window.Date = class extends RealDate {
      constructor(...of: [] | [number | string | Date]) {
        super(...((of.length === 0 ? [now()] : of) as [number]));
      }
      static override now = now;
    } as DateConstructor;
  }, moment.getTime() - Date.now());
}

/** The moment that a day of work begins at. */
function morningOf(day: string): Date {
  return new Date(`${day}T09:00:00Z`);
}

/** Whoever reviews, at the close of a month, in a window of their own. */
export async function reviewerAt(page: Page, month: RegExp): Promise<Page> {
  const reviewer = await (await elsewhere(page)).newPage();
  await logIn(reviewer, people.reviewer);
  await reviewer.getByRole('radio', { name: month }).click();
  await goTo(reviewer, 'Period close');
  await expect(reviewer.getByRole('treegrid', { name: 'What differs from the month before' })).toBeVisible();
  return reviewer;
}

/** Approves and locks the month that a reviewer looks at. */
export async function approve(reviewer: Page, month: string, asked?: RegExp): Promise<void> {
  await reviewer.getByRole('button', { name: `Approve and lock ${month}` }).click();
  await reviewer
    .getByRole('dialog')
    .getByRole('button', { name: `Approve and lock ${month}` })
    .click();
  if (asked) await confirm(reviewer, asked);
  await expect(reviewer.getByText(`${month} is locked`)).toBeVisible();
}

/** What is said beneath a field. */
export function atField(page: Page, text: string): Locator {
  return page.locator('mat-hint').filter({ hasText: text });
}

/** The row of a table of figures that holds a text. */
export function rowWith(page: Page, text: string | RegExp): Locator {
  return page.getByRole('row').filter({ hasText: text });
}

/** The day that it is in a browser, which is never the one on which the tests run. */
export interface Day {
  readonly today: string;
}

const latest = Number(process.env['COFFER_LATE'] ?? 0);

/**
 * A test that fails when the page reports an error of its own. With COFFER_LATE, answers come up to so many
 * milliseconds late and out of order, as on a bad line.
 */
export const test = base.extend<Day & { provoked: RegExp; quiet: undefined; late: undefined }>({
  today: ['', { option: true }],
  // A refusal that a test provokes is reported by the browser too; that is no fault of the page.
  provoked: [/status of 4\d\d/, { option: true }],
  context: async ({ context, today }, use) => {
    await beginAt(context, morningOf(today));
    await use(context);
  },
  late: [
    async ({ page }, use) => {
      if (latest > 0)
        await page.route('**/api/**', async (route) => {
          await setTimeout(latest * Math.random());
          // The page may be gone by now.
          await route.continue().catch(() => undefined);
        });
      await use(undefined);
    },
    { auto: true },
  ],
  quiet: [
    async ({ page, provoked }, use) => {
      const errors: string[] = [];
      page.on('pageerror', (error) => errors.push(error.message));
      page.on('console', (message) => {
        if (message.type() === 'error' && !provoked.test(message.text())) errors.push(message.text());
      });
      await use(undefined);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { bookedRows, type CloseView, type DifferencesView, type EntryView } from '@coffer/contract';
import type { Caller } from '../testing/test-server.ts';
import { line, loan, moved, payments, PlayedBooks } from '../testing/played-books.ts';

let books: PlayedBooks;
let administrator: Caller;
beforeEach(async () => {
  books = await PlayedBooks.start();
  administrator = await books.server.as('sunniva');
});
afterEach(async () => {
  expect(await books.end()).toEqual([]);
});

const [january, february, march] = ['2026-01-31', '2026-02-28', '2026-03-31'] as const;
/** Principal by which 6 % on actual days makes 21 days to 31 January some whole amount: 0.34520… a hundred. */
const small = (name: string, amount: string): object => loan({ name, amount, ...payments('2026-03-10', 12) });

const matters = async (each: number, sum: number, from = '2026-01-01'): Promise<void> => {
  const change = { settings: { materiality: { each, sum } }, from, reason: 'Policy of the group' };
  const { status, text } = await administrator.call('POST', '/api/settings', change);
  if (status !== 200) throw new Error(text);
};
const close = async (endsOn: string): Promise<CloseView> =>
  (await books.preparer.call('GET', `/api/periods/${endsOn}/close`)).body;
/** What a close lists of instruments is what their differences come to, and its expense what the journal holds. */
const tellsWhatIsBooked = async (endsOn: string): Promise<void> => {
  const view = await close(endsOn);
  const { body } = await books.preparer.call('GET', `/api/periods/${endsOn}/differences`);
  const { lines }: DifferencesView = body;
  const booked = bookedRows(view);
  expect(booked.length).toBeGreaterThan(0);
  for (const { row, accrued, expense, carrying, current, nonCurrent } of booked) {
    const line = lines.find(({ id }) => id === row.id);
    const now = (['accrued', 'expense', 'carrying', 'current'] as const).map((of) => line?.[of].now);
    expect(now, row.name).toEqual([accrued, expense, carrying, current]);
    expect(current + nonCurrent, row.name).toBe(carrying);
  }
  const inJournal = view.checks.find(({ of }) => of === 'expense')?.journal;
  expect(booked.reduce((sum, { expense }) => sum + expense, 0)).toBe(inJournal);
};
const accruals = (entries: readonly EntryView[]): number =>
  entries.filter(({ kind }) => kind === 'accrual').length;

// 100 at 6 %, ACT/365F, 10 to 31 January: 100 × 0.06 × 21 / 365 = 0.35, by hand. To 28 February: 49 days, 0.81.
describe('accruals that are too small to matter', () => {
  it('are left out, named with their sum, and charged whole by the next payment', async () => {
    const id = await books.takeOn(small('Small', '100.00') as never);
    const large = await books.takeOn(small('Large', '100000.00') as never);
    await matters(50, 100);
    const view = await close(january);
    expect(view.leftOut).toEqual([{ id, name: 'Small', amount: 35 }]);
    expect(view.checks.find(({ of }) => of === 'expense')).toMatchObject({ leftOut: 35, difference: 0 });
    expect(view.checks.every(({ difference }) => difference === 0)).toBe(true);
    expect(accruals(await books.entriesOf(id, january))).toBe(0);
    expect(accruals(await books.entriesOf(large, january))).toBe(1);
    await books.lock(january);
    expect((await close(january)).leftOut).toEqual([{ id, name: 'Small', amount: 35 }]);
    // 0.81 is no longer small: February is charged for January as well.
    const next = await close(february);
    expect(next.leftOut).toEqual([]);
    expect(next.checks.find(({ of }) => of === 'expense')).toMatchObject({ leftOut: -35, difference: 0 });
    expect(moved(await books.entriesOf(id, february), 'interest-expense')).toBe(81);
    await books.lock(february);
    // The payment of 10 March charges all of its interest: 59 days, 0.97; with the accrual of March and February reversed.
    const paid = (await books.entriesOf(id, march)).filter(({ kind }) => kind === 'payment');
    expect(moved(paid, 'interest-expense')).toBe(97);
    await books.lock(march);
  });

  it('are booked after all, the largest first, where together they would matter', async () => {
    const ids: string[] = [];
    for (const amount of ['100.00', '110.00', '120.00'])
      ids.push(await books.takeOn(small(amount, amount) as never));
    // 0.35, 0.38 and 0.41: the first two are 0.73.
    await matters(50, 100);
    expect((await close(january)).leftOut.map(({ amount }) => amount)).toEqual([38, 35]);
    await matters(50, 72);
    expect((await close(january)).leftOut.map(({ amount }) => amount)).toEqual([35]);
    expect(accruals(await books.entriesOf(ids[1] as string, january))).toBe(1);
    await matters(50, 73);
    expect(accruals(await books.entriesOf(ids[1] as string, january))).toBe(0);
    await books.lock(january);
  });

  it('stay left out of a closed month, whatever is known of it later; a withdrawal leaves nothing behind', async () => {
    const id = await books.takeOn(small('Small', '100.00') as never);
    const gone = await books.takeOn(small('Gone', '100.00') as never);
    await matters(50, 100);
    await books.lock(january);
    const dearer = { rate: { annual: '12%', dayCount: 'ACT/365F' } };
    expect((await books.change(id, (document) => ({ ...document, ...dearer }), 'insist')).status).toBe(200);
    const { body } = await books.preparer.call('GET', `/api/instruments/${gone}`);
    const sent = { version: body.version, reason: 'Taken on by mistake' };
    expect((await books.preparer.insist('POST', `/api/instruments/${gone}/withdrawal`, sent)).status).toBe(
      200,
    );
    const view = await close(february);
    expect(view.checks.every(({ difference }) => difference === 0)).toBe(true);
    const made = await books.entriesOf(id, february);
    // Its current portion was another; its accrual is no mistake to be put right.
    const corrected = made.filter(({ kind }) => kind === 'correction');
    expect(['interest-expense', 'interest-payable'].map((role) => moved(corrected, role))).toEqual([0, 0]);
    expect(moved(made, 'interest-expense')).toBe(161);
    expect(moved(await books.entriesOf(gone, february), 'interest-expense')).toBe(0);
    // What differs adds up to what is booked, and nothing is unexplained.
    const { body: differences } = await books.preparer.call('GET', `/api/periods/${february}/differences`);
    const line = differences.lines.find((one: { id: string }) => one.id === id);
    expect(line.expense).toMatchObject({ now: 161, change: 161 });
    for (const figure of ['accrued', 'expense', 'carrying', 'current']) {
      const { parts, change } = line[figure] as {
        parts: { reason: string; amount: number }[];
        change: number;
      };
      expect(parts.map(({ reason }) => reason)).not.toContain('unexplained');
      expect(parts.reduce((sum, { amount }) => sum + amount, 0)).toBe(change);
    }
    await books.lock(february);
  });

  it('stand in no list of what is booked, open or closed, and the month that makes them good lists them', async () => {
    await books.takeOn(small('Large', '100000.00') as never);
    await books.takeOn(small('Small', '100.00') as never);
    await books.takeOn({
      document: 'coffer.instrument/1',
      kind: 'bond',
      name: 'Below par',
      currency: 'EUR',
      face: '100.00',
      coupon: { annual: '6%', every: 'half-year', dayCount: '30/360' },
      issued: '2026-01-10',
      matures: '2029-01-10',
      price: '95',
      issueCosts: { amount: '1.00' },
    });
    await matters(60, 150);
    // From the payment of 10 March on it is 21 days again, of some 92: 0.32.
    for (const [endsOn, names] of [
      [january, ['Below par', 'Small']],
      [february, []],
      [march, ['Small']],
    ] as const) {
      const { leftOut } = await close(endsOn);
      expect(leftOut.map(({ name }) => name).sort()).toEqual(names);
      await tellsWhatIsBooked(endsOn);
      await books.lock(endsOn);
      await tellsWhatIsBooked(endsOn);
    }
  });

  // Costs of a line that are not amortized in the books are still an asset there (ASC 835-30-S45-1).
  it('name what of a line’s costs stays deferred, so that the journal is told to the cent', async () => {
    const terms = {
      limit: '1000.00',
      start: '2026-01-10',
      firstBill: '2026-02-10',
      matures: '2028-01-10',
      issueCosts: { amount: '7.30' },
    };
    const events = [{ type: 'draw', on: '2026-01-10', amount: '100.00' }];
    const id = await books.takeOn(line({ ...terms, events }));
    await books.takeOn(small('Large', '100000.00') as never);
    await matters(80, 100);
    const before = moved(await books.entriesOf(id, january), 'deferred-costs');
    const { rows, notBooked } = await close(january);
    const figures = rows.find((row) => row.id === id)?.figures;
    // 7.30 over 730 days is one cent a day, 21 of them by 31 January.
    expect([before, figures?.deferredCosts]).toEqual([730, 730 - 21]);
    expect(notBooked).toMatchObject([{ id, deferredCosts: -21, amortized: 21, carrying: 0 }]);
    await tellsWhatIsBooked(january);
    await books.lock(january);
    await tellsWhatIsBooked(january);
  });

  it('are decided by amounts that belong together, for a month that is not closed', async () => {
    await books.lock(january);
    const tried = async (materiality: object, from: string): Promise<unknown> => {
      const change = { settings: { materiality }, from, reason: 'x' };
      const { status, body } = await administrator.call('POST', '/api/settings', change);
      return [status, body.error.faults?.[0]?.key];
    };
    expect(await tried({ each: 50, sum: 40 }, '2026-02-01')).toEqual([422, 'settings.materiality']);
    expect(await tried({ each: 0, sum: 40 }, '2026-02-01')).toEqual([422, 'settings.materiality']);
    expect(await tried({ each: 50, sum: 90 }, '2026-01-01')).toEqual([422, 'from']);
  });
});

import { parse } from 'csv-parse/sync';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { CatchUpsView, MonthCorrectedView } from '@coffer/contract';
import { loan, payments, PlayedBooks, type Document } from '../testing/played-books.ts';

let books: PlayedBooks;
let id: string;
beforeEach(async () => {
  books = await PlayedBooks.start();
  id = await books.takeOn(loan(payments('2026-03-10', 12)));
  await books.lock('2026-01-31', '2026-02-28');
});
afterEach(async () => {
  expect(await books.end()).toEqual([]);
});

const at =
  (annual: string) =>
  (document: Document): Document => ({
    ...document,
    rate: { annual, dayCount: 'ACT/365F' },
  });
const month = async (endsOn: string): Promise<MonthCorrectedView> =>
  (await books.preparer.call('GET', `/api/periods/${endsOn}/corrections`)).body;
const year = async (to = '2026-12-31'): Promise<CatchUpsView> =>
  (await books.preparer.call('GET', `/api/catch-ups?from=2026-01-31&to=${to}`)).body;
// Another payment moves the current portion as well; what is looked at is the interest.
const ofInterest = ({ role }: { role: string }): boolean => role.startsWith('interest');
const byRole = ({ accounts }: MonthCorrectedView): unknown =>
  accounts.filter(ofInterest).map(({ role, reported, known }) => [role, reported, known]);

// 21 and 28 days of 100,000 at 6 % are 345.21 and 460.27, at 12 % 690.41 and 920.55 (ACT/365F).
describe('what closed months should have held otherwise', () => {
  it('is nothing where nothing is', async () => {
    expect(await month('2026-01-31')).toEqual({ endsOn: '2026-01-31', accounts: [], catchUps: [] });
    expect(await year()).toMatchObject({ catchUps: [], accounts: [], expense: 0 });
  });

  it('stands beside what was reported, the month that books it open or closed, and is the year’s together', async () => {
    await books.change(id, at('12%'), 'insist');
    for (const closed of [false, true]) {
      if (closed) await books.lock('2026-03-31');
      // Expense of the month alone; interest payable where it stood at its end.
      expect(byRole(await month('2026-01-31'))).toEqual([
        ['interest-payable', -34_521, -69_041],
        ['interest-expense', 34_521, 69_041],
      ]);
      expect(byRole(await month('2026-02-28'))).toEqual([
        ['interest-payable', -80_548, -161_096],
        ['interest-expense', 46_027, 92_055],
      ]);
      const together = await year();
      expect(
        together.catchUps.map(({ bookedIn, forMonth, expense, reason, by, number }) => [
          bookedIn,
          forMonth,
          expense,
          reason,
          by,
          number === null,
        ]),
      ).toEqual([
        ['2026-03-31', '2026-01-31', 34_520, 'Put right', 'Ilka Varga', !closed],
        ['2026-03-31', '2026-02-28', 46_028, 'Put right', 'Ilka Varga', !closed],
      ]);
      expect(together.expense).toBe(80_548);
      expect(together.accounts.filter(ofInterest).map(({ role, amount }) => [role, amount])).toEqual([
        ['interest-payable', -80_548],
        ['interest-expense', 80_548],
      ]);
      expect((await year('2026-02-28')).catchUps).toEqual([]);
    }
    // March booked it for others: of its own expense it is no part.
    expect((await books.preparer.call('GET', '/api/periods/2026-04-30/corrections')).body.error.code).toBe(
      'not-closed',
    );
    const march = await month('2026-03-31');
    const [expense, ...others] = march.accounts;
    expect([expense?.role, others]).toEqual(['interest-expense', []]);
    expect((expense?.reported ?? 0) - (expense?.known ?? 0)).toBe(80_548);
    const csv = await books.preparer.call('GET', '/api/catch-ups.csv?from=2026-01-31&to=2026-12-31');
    const rows = parse(csv.text, { columns: true }) as Record<string, string>[];
    expect(rows.filter(({ debit }) => debit === '345.20')).toMatchObject([
      { forMonth: '2026-01-31', reason: 'Put right', instrument: 'Loan' },
    ]);
  });

  it('keeps the reason that it was booked for, whatever is decided later', async () => {
    await books.change(id, at('12%'), 'insist');
    await books.change(id, (document) => ({ ...document, agreement: '17/3' }), 'insist');
    const reasons = async (): Promise<unknown> =>
      (await year()).catchUps.map(({ bookedIn, reason }) => [bookedIn, reason]);
    const march = [
      ['2026-03-31', 'Put right'],
      ['2026-03-31', 'Put right'],
    ];
    expect(await reasons()).toEqual(march);
    await books.lock('2026-03-31');
    const { version } = (await books.preparer.call('GET', `/api/instruments/${id}`)).body;
    await books.preparer.call('POST', `/api/instruments/${id}/withdrawal`, {
      version,
      reason: 'Signed by nobody',
    });
    const after = (await reasons()) as [string, string][];
    expect(after.slice(0, 2)).toEqual(march);
    expect(new Set(after.slice(2).map(([, reason]) => reason))).toEqual(
      new Set(['Withdrawn: Signed by nobody']),
    );
    await books.lock('2026-04-30');
    expect(await reasons()).toEqual(after);
  });

  it('is as it was reported again once it is put back', async () => {
    await books.change(id, at('12%'), 'insist');
    await books.lock('2026-03-31');
    await books.change(id, at('6%'), 'insist');
    expect((await month('2026-01-31')).accounts).toEqual([]);
    expect((await month('2026-01-31')).catchUps).toHaveLength(2);
    const { catchUps } = await year();
    const ofBoth = catchUps.filter(({ forMonth }) => forMonth <= '2026-02-28');
    expect(ofBoth).toHaveLength(4);
    expect(ofBoth.reduce((sum, { expense }) => sum + expense, 0)).toBe(0);
  });
});

import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { withEvents } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { contractAfter } from './contract.ts';
import { planLoan, type OutOfReach, type PlannedLoan } from './plan-loan.ts';

const planned = (
  after: string,
  clearBy: string,
  more: Partial<LoanTerms> = {},
  phases: readonly Phase[] = [level(12)],
  least = 0,
): PlannedLoan | OutOfReach => {
  const contract = contractAfter(buildLoanSchedule(thousand(phases, more)), day(after));
  return planLoan(contract, day(clearBy), least);
};
const rows = (made: PlannedLoan | OutOfReach): unknown[] =>
  'rows' in made
    ? made.rows.map((row) => [
        formatDay(row.on),
        row.paid,
        row.interest,
        row.principal,
        row.drawn,
        row.closing,
      ])
    : [];
const paid = (due: string, on: string, amount: number): Partial<LoanTerms> =>
  withEvents({ type: 'paid', due: day(due), on: day(on), amount });
const draw = (on: string): Partial<LoanTerms> =>
  withEvents({ type: 'draw', on: day(on), amount: 10_000, then: 'keep' });

const settled = withEvents({ type: 'settled', on: day('2025-09-11') });

// 1,000.00 at 1 % a month from New Year 2025 in twelve payments of 88.85 due on the first: 431.22 is left from August on,
// 346.68 from September, 261.30 from October. All worked by hand, interest rounded to the cent.
describe('a loan that is planned', () => {
  it('is cleared by a settlement that is agreed, and needs nothing more from its day on', () => {
    const contract = planned('2025-08-01', '2025-09-11', settled);
    expect(contract).toMatchObject({ bound: 'contract', payment: 8_885, payments: 2, interest: 431 + 116 });
    expect(rows(contract)).toEqual([
      ['2025-09-01', 8_885, 431, 8_454, 0, 34_668],
      // 346.68 at 1 % for ten days of thirty.
      ['2025-09-11', 34_784, 116, 34_668, 0, 0],
    ]);
    // The day before it is not; then its payment is all that is owed on its last due date.
    expect(planned('2025-08-01', '2025-09-10', settled)).toMatchObject({
      bound: 'plan',
      payment: 43_122 + 431,
    });
  });

  it('is cleared by a settlement also where no payment falls due before it', () => {
    const cleared = { bound: 'contract', payments: 1, finalPayment: 34_784, clears: day('2025-09-11') };
    expect(planned('2025-09-05', '2025-09-11', settled)).toMatchObject(cleared);
    expect(planned('2025-09-05', '2025-09-10', settled)).toEqual({ earliest: undefined });
    expect(planned('2026-01-01', '2026-02-01')).toMatchObject({ balance: 0, payments: 0, paid: 0, rows: [] });
  });

  it('is cleared after the last draw: earlier it could not be', () => {
    const made = planned('2025-10-01', '2025-12-01', draw('2025-11-15'));
    expect(rows(made)).toEqual([
      ['2025-11-01', 18_263, 261, 18_002, 0, 8_128],
      ['2025-11-15', 0, 0, 0, 10_000, 18_128],
      // 81.28 for the month and 100.00 for 16 days of 30: 1.3461.
      ['2025-12-01', 18_263, 135, 18_128, 0, 0],
    ]);
    expect(made).toMatchObject({ bound: 'plan', payment: 18_263, payments: 2, paid: 36_526, interest: 396 });
    // Drawn on a due date, it comes after what is paid on it.
    for (const on of ['2025-11-01', '2025-11-15', '2025-11-30']) {
      expect(planned('2025-10-01', '2025-11-30', draw(on))).toEqual({ earliest: day('2025-12-01') });
    }
    expect(planned('2025-10-01', '2025-11-01', draw('2025-10-31'))).toMatchObject({
      bound: 'plan',
      payments: 1,
    });
  });

  it('pays interest that joins the balance with the balance, and interest in arrears first', () => {
    const added = planned(
      '2025-10-01',
      '2025-12-01',
      withEvents({ type: 'interest-added', on: day('2025-11-15') }),
    );
    expect(rows(added)).toEqual([
      ['2025-11-01', 13_261, 261, 13_000, 0, 13_130],
      ['2025-11-15', 0, 61, 0, 0, 13_191],
      ['2025-12-01', 13_261, 70, 13_191, 0, 0],
    ]);
    const missed = planned('2025-10-01', '2025-12-01', paid('2025-10-01', '2025-10-01', 0));
    expect(missed).toMatchObject({
      balance: 34_668,
      unpaid: 347,
      payment: 17_769,
      paid: 35_538,
      interest: 523,
    });
    expect(rows(missed)).toEqual([
      ['2025-11-01', 17_769, 347, 17_769 - 347 - 347, 0, 17_593],
      ['2025-12-01', 17_769, 176, 17_593, 0, 0],
    ]);
  });

  it('keeps a payment of days to come that is recorded as it was made', () => {
    const made = planned('2025-10-01', '2025-12-01', paid('2025-11-01', '2025-11-05', 5_000));
    expect(rows(made)).toEqual([
      ['2025-11-01', 0, 261, 0, 0, 26_130],
      ['2025-11-05', 5_000, 0, 4_739, 0, 21_391],
      // 261.30 for four days of thirty and 213.91 for 26: 2.2023.
      ['2025-12-01', 21_611, 220, 21_391, 0, 0],
    ]);
  });

  it('pays what was put off from its first due date on', () => {
    for (const interest of ['kept-apart', 'added-each-period'] as const) {
      const waiting: Phase = { type: 'no-payment', count: 3, interest, then: 'pay' };
      expect(rows(planned('2025-01-15', '2025-04-01', {}, [waiting, level(9)]))).toEqual([
        ['2025-02-01', 34_003, 1_000, 33_003, 0, 66_997],
        ['2025-03-01', 34_003, 670, 33_333, 0, 33_664],
        ['2025-04-01', 34_001, 337, 33_664, 0, 0],
      ]);
    }
  });

  it.each(['keep', 're-level'] as const)('is paid one amount also where the rate changes: %s', (payment) => {
    const rateSteps = [{ from: day('2025-10-01'), annualRate: percent('24'), payment }];
    expect(rows(planned('2025-08-01', '2025-12-01', { rateSteps }))).toEqual([
      ['2025-09-01', 11_132, 431, 10_701, 0, 32_421],
      ['2025-10-01', 11_132, 324, 10_808, 0, 21_613],
      ['2025-11-01', 11_132, 432, 10_700, 0, 10_913],
      ['2025-12-01', 11_131, 218, 10_913, 0, 0],
    ]);
  });

  it('is paid one amount before a balloon, that is part of what it clears', () => {
    const balloon: Phase = { type: 'level', count: 3, amortizeOver: 3, balloon: 50_000 };
    expect(rows(planned('2025-01-15', '2025-03-01', {}, [balloon]))).toEqual([
      ['2025-02-01', 50_751, 1_000, 49_751, 0, 50_249],
      ['2025-03-01', 50_751, 502, 50_249, 0, 0],
    ]);
    // Where the stretch has begun the balloon has set what was paid: 165.01 of principal with the first payment.
    expect(rows(planned('2025-02-01', '2025-03-01', {}, [balloon]))).toEqual([
      ['2025-03-01', 84_334, 835, 83_499, 0, 0],
    ]);
    // A stretch that is still to come may be cleared below its balloon.
    const later = rows(
      planned('2025-02-15', '2025-04-01', {}, [{ type: 'interest-only', count: 2 }, balloon]),
    );
    expect(later.at(-1)).toMatchObject([
      '2025-04-01',
      expect.any(Number),
      expect.any(Number),
      expect.any(Number),
      0,
      0,
    ]);
  });

  it('is paid also where less than a later balloon is left', () => {
    const balloon: Phase = { type: 'level', count: 1, amortizeOver: 1, balloon: 50_000 };
    // Taken on, so that it is followed by schedules of its own rules.
    const free = { annualRate: percent('0'), takenOn: { accruedInterest: 0 } };
    const phases: readonly Phase[] = [{ type: 'interest-only', count: 2 }, balloon];
    const made = planned('2025-01-15', '2025-02-01', free, phases);
    expect(made).toMatchObject({ bound: 'plan', payment: 100_000, payments: 1 });
    expect(planned('2025-01-15', '2025-03-01', free, phases)).toMatchObject({ payment: 50_000, payments: 2 });
  });

  it('goes on from what earlier changes of the rate have made of it', () => {
    const rateSteps = [{ from: day('2025-03-01'), annualRate: percent('24'), payment: 're-level' }] as const;
    const made = planned('2025-06-01', '2025-08-01', { rateSteps });
    const then = buildLoanSchedule(thousand([level(12)], { rateSteps })).closing[4] as number;
    if ('earliest' in made) throw new Error('out of reach');
    expect([made.balance, made.rows.reduce((sum, { principal }) => sum + principal, 0)]).toEqual([
      then,
      then,
    ]);
    // 2 % a month on what is left: a / (1 − 1.02⁻²) of it, up to the cent.
    expect(made.payment).toBe(Math.ceil((then * 0.02) / (1 - 1.02 ** -2)));
  });

  it('is bound by the least that is stated only where that is more than the contract asks', () => {
    const bounds = (least: number): unknown => planned('2025-10-01', '2026-01-01', {}, [level(12)], least);
    expect(bounds(8_885)).toMatchObject({ bound: 'contract', payment: 8_885, payments: 3 });
    expect(bounds(8_886)).toMatchObject({ bound: 'least', payment: 8_886, payments: 3 });
    expect(bounds(26_391)).toMatchObject({
      bound: 'least',
      payment: 26_391,
      payments: 1,
      finalPayment: 26_391,
    });
  });
});

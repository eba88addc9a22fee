import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryLoanWithEvents, canBeScheduled } from '../../testing/arbitrary-loan.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { financeCost } from './finance-cost.ts';
import { kindOfRow } from './loan-schedule.ts';

const purchase = { price: 120_000, downPayment: 20_000 };

describe('what a purchase costs for being financed', () => {
  // 1,000.00 at 12 % in twelve payments of 88.85: 66.19 of interest, handbook tables of level payments.
  it('is down payment and payments less the price, whatever is drawn besides or left', () => {
    expect(financeCost(buildLoanSchedule(thousand([level(12)])))).toBeUndefined();
    expect(financeCost(buildLoanSchedule(thousand([level(12)], { purchase })))).toEqual({
      ...purchase,
      ...{ paid: 106_619, left: 0, drawn: 0, forgiven: 0, cost: 6_619 },
    });
    const draw = { type: 'draw', on: day('2025-06-01'), amount: 500_000, then: 're-level' } as const;
    const drawn = financeCost(buildLoanSchedule(thousand([level(12)], { purchase, events: [draw] })));
    expect(drawn).toMatchObject({ drawn: 500_000, left: 0 });
    expect(drawn?.cost).toBe((drawn?.paid ?? 0) + 20_000 - 120_000 - 500_000);
    const open = financeCost(buildLoanSchedule(thousand([level(4, 12)], { purchase, atEnd: 'leave' })));
    expect(open?.cost).toBeGreaterThan(0);
    // Interest of 1 % of 1,000.00, 921.15, 841.51 and 761.08.
    expect(open?.cost).toBe(1_000 + 921 + 842 + 761);
  });

  it('is the interest of any purchase, and is made of what was paid', () => {
    const terms = arbitraryLoanWithEvents
      .map((each) => ({ ...each, purchase: { price: each.amount + 1_000, downPayment: 1_000 } }))
      .filter((each) => !each.creditLine && canBeScheduled(each));
    fc.assert(
      fc.property(terms, (each) => {
        const schedule = buildLoanSchedule(each);
        const made = financeCost(schedule);
        const { length, payment, extra, interest, added } = schedule;
        const rows = Array.from({ length }, (_, row) => row);
        const sum = (of: Float64Array, rowsOf = rows): number =>
          rowsOf.reduce((total, row) => total + (of[row] as number), 0);
        // Rounded row by row where nothing is rounded: off by half a minor unit a row at most.
        const off = schedule.exact ? length : 0;
        const near = (one: number, other: number): void =>
          expect(Math.abs(one - other)).toBeLessThanOrEqual(off);
        near(made?.cost ?? NaN, sum(interest));
        near(
          made?.drawn ?? NaN,
          sum(
            added,
            rows.filter((row) => kindOfRow(schedule, row) === 'draw'),
          ),
        );
        near(made?.paid ?? NaN, sum(payment) + sum(extra));
        if (!schedule.settlement) expect(made?.forgiven).toBe(0);
      }),
      { numRuns: 60 },
    );
  });
});

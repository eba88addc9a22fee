import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, formatDay, monthEnd } from '../calendar/calendar-day.ts';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { plainBond, priced } from '../testing/plain-bond.ts';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { arbitraryLoan, arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { day, percent, thousand } from '../testing/plain-loan.ts';
import { comparedFigures, whyChanged } from './why-changed.ts';

const unexplained = (schedule: Schedule, from: number, months: number): unknown[] => {
  const found: unknown[] = [];
  for (let at = 0; at < months; at += 1) {
    const end = addMonths(monthEnd(from), at, true);
    const changed = whyChanged(schedule, end);
    for (const figure of comparedFigures) {
      const { parts, before, now } = changed[figure];
      expect(parts.reduce((sum, { amount }) => sum + amount, before)).toBe(now);
      const left = parts.find(({ reason }) => reason === 'unexplained');
      if (left) found.push([formatDay(end), figure, parts, before, now]);
    }
  }
  return found;
};

describe('why a month differs from the month before', () => {
  it('is explained to the last unit, whatever the loan', () => {
    fc.assert(
      fc.property(arbitraryLoan, fc.nat(40), (terms, months) => {
        const schedule = buildLoanSchedule(terms);
        expect(unexplained(schedule, addMonths(terms.start, months), 4)).toEqual([]);
      }),
    );
  });

  it('and whatever happens to it', () => {
    fc.assert(
      fc.property(arbitraryLoanWithEvents, fc.nat(30), (terms, months) => {
        const schedule = buildLoanSchedule(terms);
        expect(unexplained(schedule, addMonths(terms.start, months), 4)).toEqual([]);
      }),
    );
  });

  it('and whatever the bond', () => {
    fc.assert(
      fc.property(arbitraryBondWithEvents, fc.nat(60), (terms, months) => {
        const schedule = buildBondSchedule(terms);
        expect(unexplained(schedule, addMonths(terms.issued, months), 4)).toEqual([]);
      }),
    );
  });

  // Worked by hand: 1,000.00, interest only, ACT/365F; 12 % in June, 24 % from the end of June, half repaid at the end of July.
  it('splits by rate, then balance, then days', () => {
    const schedule = buildLoanSchedule(
      thousand([{ type: 'interest-only', count: 24 }], {
        dayCount: 'ACT/365F',
        rateSteps: [{ from: day('2025-06-30'), annualRate: percent('24'), payment: 'keep' }],
        events: [{ type: 'extra-principal', on: day('2025-07-31'), amount: 50_000, then: 'shorten' }],
      }),
    );
    const july = whyChanged(schedule, day('2025-07-31'));
    // 30 days at 12 % are 9.86; at 24 % a day is 0.66 and thirty 19.73, each rounded when it is charged: 20.39. Twelve
    // percent more on 30 days are 9.86, a day more 0.66, and the cent of rounding goes with the larger.
    expect(july.expense).toMatchObject({
      before: 986,
      now: 2039,
      parts: [
        { reason: 'rate', amount: 987 },
        { reason: 'days', amount: 66 },
      ],
    });
    expect(july.carrying.parts).toEqual([{ reason: 'repaid', amount: -50_000 }]);
    expect([july.happened, july.rates]).toEqual([
      ['repaid', 'paid'],
      [0.12, 0.24],
    ]);
    expect(july.undisturbed).toBe(false);
    const august = whyChanged(schedule, day('2025-08-31'));
    // Of the 20.05 paid on 1 August 19.73 had accrued in July, which leaves 0.32; thirty days on the half are 9.86.
    expect(august.expense.parts).toEqual([{ reason: 'balance', amount: 1018 - 2039 }]);
    expect(august.undisturbed).toBe(true);
  });

  it('tells of what a redemption and a presentation make', () => {
    const schedule = buildBondSchedule(
      plainBond('6', {
        issued: day('2025-01-01'),
        dated: day('2025-01-01'),
        matures: day('2030-01-01'),
        price: priced('90'),
        redemptions: [{ on: day('2026-03-15'), face: 4_000_000, price: percent('100'), at: 0 }],
        events: [{ type: 'presentation', on: day('2026-05-31'), as: 'current', reason: 'Breach' }],
      }),
    );
    const march = whyChanged(schedule, day('2026-03-31'));
    expect(march.carrying.parts.map(({ reason }) => reason)).toEqual(['repaid', 'amortized']);
    expect(march.undisturbed).toBe(false);
    expect(whyChanged(schedule, day('2026-05-31')).current.parts).toMatchObject([{ reason: 'presentation' }]);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { parseDay } from '../calendar/calendar-day.ts';
import { buildSchedule, firstDay, lastDay } from '../instrument/instrument.ts';
import { arbitraryLoanWithEvents, canBeScheduled } from '../testing/arbitrary-loan.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { ratioFromDecimal } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { position } from '../position/position.ts';
import type { PositionFigure } from '../position/position-figures.ts';
import { explainPosition } from './explain-position.ts';

const anySchedule = fc
  .oneof({ weight: 2, arbitrary: arbitraryLoanWithEvents }, { weight: 1, arbitrary: arbitraryBondWithEvents })
  .map((terms) => buildSchedule(terms));
const figures: readonly PositionFigure[] = [
  'outstanding',
  'accruedInterest',
  'accruedFee',
  'unpaidInterest',
  'deferredInterest',
  'unamortizedDiscount',
  'unamortizedPremium',
  'unamortizedIssueCosts',
  'deferredCosts',
  'overpaid',
  'carrying',
  'current',
  'nonCurrent',
];

describe('how a figure of a position is made', () => {
  it('never differs from the figure, on any day before, during and after the instrument’s life', () => {
    fc.assert(
      fc.property(anySchedule, fc.double({ min: -0.1, max: 1.1, noNaN: true }), (schedule, share) => {
        const [from, to] = [firstDay(schedule), lastDay(schedule)];
        const on = Math.round(from + share * (to - from));
        const at = position(schedule, on);
        for (const figure of figures) {
          const how = explainPosition(schedule, on, figure);
          expect(how.amount, figure).toBe(at[figure]);
          expect(how.steps.length, figure).toBeGreaterThan(0);
        }
        const carrying = explainPosition(schedule, on, 'carrying').steps;
        const signed = carrying.reduce(
          (sum, { label, amount = 0 }) => sum + (label.startsWith('−') ? -amount : amount),
          0,
        );
        expect(signed).toBe(at.carrying);
      }),
      { numRuns: 150 },
    );
  });

  it('shows an unrounded value that rounds to it', () => {
    // Rounding decides when a loan is repaid, and with it whether a late event can still be.
    const toTheCent = arbitraryLoanWithEvents
      .map((terms): LoanTerms => ({
        ...terms,
        rounding: { ...terms.rounding, interest: 'cent', ties: 'away-from-zero' },
      }))
      .filter(canBeScheduled);
    fc.assert(
      fc.property(toTheCent, fc.integer({ min: 1, max: 900 }), (terms, after) => {
        const schedule = buildSchedule(terms);
        const how = explainPosition(schedule, firstDay(schedule) + after, 'accruedInterest');
        const text = how.unrounded ?? '';
        fc.pre(text !== '');
        // A value cut for showing lies above what is shown, by less than one more digit.
        const value = ratioFromDecimal(text.replace('…', '5'));
        const since = Number(roundRatio({ num: value.num * 100n, den: value.den }, 'away-from-zero'));
        const before = how.steps.find(({ label }) => label.startsWith('+ accrued before'))?.amount ?? 0;
        expect(since + before).toBe(how.amount);
      }),
      { numRuns: 150 },
    );
  });

  it('leads back to the row or the term that each input comes from', () => {
    const schedule = buildSchedule(
      fc.sample(arbitraryLoanWithEvents, { seed: 7, numRuns: 1 })[0] as LoanTerms,
    );
    const on = Math.max(firstDay(schedule) + 200, parseDay('2025-01-31') as number);
    for (const figure of figures) {
      for (const { link } of explainPosition(schedule, on, figure).steps) {
        if (link?.to === 'row' && schedule.kind !== 'bond') {
          expect(link.row).toBeLessThan(schedule.length);
          expect(schedule.date[link.row] as number).toBeLessThanOrEqual(on);
        }
      }
    }
  });
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { arbitraryFund } from '../testing/arbitrary-fund.ts';
import { buildFundSchedule } from '../fund/build-fund-schedule.ts';
import { buildSchedule, firstDay, lastDay } from '../instrument/instrument.ts';
import { arbitraryLoanWithEvents, canBeScheduled } from '../testing/arbitrary-loan.ts';
import { chargesInterest } from '../loan/schedule/loan-schedule.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { explainBondFigure } from '../bond/explain/explain-bond.ts';
import { explainFundFigure } from '../fund/explain-fund.ts';
import { explainLoanFigure } from '../loan/explain/explain-loan.ts';
import { explainPosition } from './explain-position.ts';
import type { ExplainStep, Explanation } from './explanation.ts';

/** What a factor says, as a reader takes it: a share of a year, a percentage, a decimal. */
function factorOf({ text = '' }: ExplainStep): number {
  const [said = ''] = text.replaceAll('−', '-').replaceAll('…', '').split(' (');
  if (said.endsWith('%')) return Number(said.slice(0, -1)) / 100;
  const [num, den = '1'] = said.split('/');
  return Number(num) / Number(den);
}

const amountOf = ({ amount, text }: ExplainStep, digits: number): number =>
  amount === undefined ? Number((text ?? '').replace('…', '')) : amount / 10 ** digits;

/** The sentence worked out: what stands before each run of factors, added up, times the factors. */
function multipliedOut({ steps }: Explanation, digits: number): number {
  let [sum, base, product, factors] = [0, 0, 1, 0];
  const close = (): void => {
    if (factors > 0) sum += base * product;
    [base, product, factors] = [0, 1, 0];
  };
  for (const step of steps) {
    if (step.label.startsWith('×')) {
      product *= factorOf(step);
      factors += 1;
    } else if (step.amount !== undefined || step.label.includes('unrounded') || step.label.startsWith('+')) {
      if (factors > 0) close();
      base += amountOf(step, digits);
    }
  }
  close();
  return sum;
}

const near = (explained: Explanation, digits: number): void => {
  if (explained.unrounded === undefined) return;
  const exact = Number(explained.unrounded.replace('…', ''));
  const worked = multipliedOut(explained, digits);
  expect(Math.abs(worked - exact), `${JSON.stringify(explained)}`).toBeLessThan(
    1e-8 * Math.max(1, Math.abs(exact)),
  );
};

// A sentence that shows factors shows all of them: a reader with a calculator comes to what it says.
it('multiplied out, every sentence comes to its figure', () => {
  const toTheCent = arbitraryLoanWithEvents
    .map((terms): LoanTerms => ({
      ...terms,
      rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
    }))
    .filter(canBeScheduled);
  fc.assert(
    fc.property(toTheCent, fc.double({ min: 0, max: 1.05, noNaN: true }), (terms, share) => {
      const schedule = buildSchedule(terms);
      if (schedule.kind === 'bond') return;
      const [from, to] = [firstDay(schedule), lastDay(schedule)];
      near(explainPosition(schedule, Math.round(from + share * (to - from)), 'accruedInterest'), 2);
      for (let row = 0; row < Math.min(schedule.length, 30); row += 1) {
        if (chargesInterest(schedule, row)) near(explainLoanFigure(schedule, row, 'interest'), 2);
      }
    }),
    { numRuns: 120 },
  );
  fc.assert(
    fc.property(arbitraryBondWithEvents, fc.double({ min: 0, max: 1, noNaN: true }), (terms, share) => {
      const schedule = buildSchedule(terms);
      if (schedule.kind !== 'bond') return;
      const { digits } = terms;
      const on = Math.round(terms.issued + share * (terms.matures - terms.issued));
      near(explainPosition(schedule, on, 'accruedInterest'), digits);
      if (terms.rounding.interest === 'none' || terms.method === 'straight-line' || terms.issueCosts) return;
      schedule.rows.forEach((row, index) => {
        if (row.kind === 'coupon' && index < schedule.rows.length - 1) {
          near(explainBondFigure(schedule, index, 'coupon'), digits);
          near(explainBondFigure(schedule, index, 'expense'), digits);
        }
      });
    }),
    { numRuns: 120 },
  );
  fc.assert(
    fc.property(arbitraryFund, (terms) => {
      if (terms.rounding.interest === 'none' || terms.rounding.deposit === 'none') return;
      const schedule = buildFundSchedule(terms);
      for (const index of schedule.rows.keys()) {
        near(explainFundFigure(schedule, index, 'interest'), terms.digits);
      }
    }),
    { numRuns: 120 },
  );
});

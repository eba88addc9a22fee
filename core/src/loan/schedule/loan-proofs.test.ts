import { describe, expect, it } from 'vitest';
import { paid, settled, withEvents } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanProofs } from './loan-proofs.ts';
import type { LoanSchedule } from './loan-schedule.ts';

const built = (more: Partial<LoanTerms> = {}, phases: readonly Phase[] = [level(4)]): LoanSchedule =>
  buildLoanSchedule(thousand(phases, more));
const draw: LoanEvent = { type: 'draw', on: day('2025-02-11'), amount: 10_000, then: 'keep' };
const line: Partial<LoanTerms> = {
  kind: 'credit-line',
  amount: 0,
  creditLine: { limit: 200_000, unusedFee: percent('1.2') },
  ...withEvents({ ...draw, on: day('2025-01-11') }),
};
const waiting: readonly Phase[] = [{ type: 'interest-only', count: 4 }];
const purchase = { price: 120_000, downPayment: 20_000 };

const cleared = 'The last closing balance is zero and no interest is left unpaid';
const arrears = 'All that is left after the last row is in arrears';
const borrowed = 'Principal and extra principal sum to the amount borrowed';
const withLeft = 'Principal, extra principal and the balance left sum to the amount borrowed';
const split = 'Each payment is the interest paid plus principal';
const bills = 'Each bill paid is interest, fee and principal';
const chain = 'Each row opens where the one before it closed';
const interest = 'Total paid less the amount borrowed is the total interest';
const lineInterest = 'Total paid less the amount drawn is the total interest and fees';
const again = 'Interest worked out again with exact fractions is the same in every row';
const negative = 'No balance is negative';
const finance = 'Down payment and all payments less the price are the finance cost, the total interest';

describe('the proofs of a loan', () => {
  it.each<[string, LoanSchedule, readonly string[]]>([
    ['repaid', built(), [cleared, borrowed, split, chain, interest, again, negative]],
    [
      'left for a renewal',
      built({ atEnd: 'leave' }, [level(4, 12)]),
      [withLeft, split, chain, interest, again, negative],
    ],
    [
      'in arrears',
      built(withEvents(paid('2025-05-01', '2025-05-01', 0))),
      [arrears, withLeft, split, chain, interest, again, negative],
    ],
    [
      'settled for less',
      built(withEvents(settled('2025-03-11', 40_000))),
      [cleared, borrowed, split, chain, interest, again, negative],
    ],
    [
      'settled, of a lot that is left',
      built({ atEnd: 'leave', ...withEvents(settled('2025-03-11')) }, [level(4, 12)]),
      [cleared, borrowed, split, chain, interest, again, negative],
    ],
    ['a line', built(line, waiting), [cleared, borrowed, bills, chain, lineInterest, again, negative]],
    [
      'for a purchase',
      built({ purchase, ...withEvents(draw) }),
      [cleared, borrowed, split, chain, interest, again, negative, finance],
    ],
    [
      'for a purchase, left',
      built({ purchase, atEnd: 'leave' }, [level(4, 12)]),
      [withLeft, split, chain, interest, again, negative],
    ],
  ])('are named for what it is, and hold: %s', (_, schedule, names) => {
    const proofs = loanProofs(schedule);
    expect(proofs.map(({ name }) => name)).toEqual(names);
    expect(proofs.filter(({ holds, difference }) => !holds || difference !== 0)).toEqual([]);
  });

  /** The proofs that fail, and by how much, where one figure of a row is off. */
  const failing = (
    schedule: LoanSchedule,
    column:
      'payment' | 'interest' | 'principal' | 'extra' | 'closing' | 'opening' | 'unpaid' | 'fee' | 'added',
    row: number,
    by: number,
  ): unknown => {
    const altered = schedule[column].slice();
    altered[row] = (altered[row] as number) + by;
    return loanProofs({ ...schedule, [column]: altered }).flatMap(({ name, holds, difference }) =>
      holds ? [] : [[name, difference]],
    );
  };

  it('fail by what a figure is off', () => {
    const loan = built();
    expect(failing(loan, 'payment', 1, 7)).toEqual([
      [split, 7],
      [interest, 7],
    ]);
    expect(failing(loan, 'interest', 1, 7)).toEqual([
      [split, 7],
      [interest, -7],
      [again, 7],
    ]);
    expect(failing(loan, 'principal', 1, -7)).toEqual([
      [borrowed, -7],
      [split, 7],
      [chain, 7],
    ]);
    expect(failing(loan, 'extra', 1, 7)).toEqual([
      [borrowed, 7],
      [chain, 7],
      [interest, 7],
    ]);
    expect(failing(loan, 'closing', 3, 7)).toEqual([
      [cleared, 7],
      [chain, 7],
    ]);
    expect(failing(loan, 'closing', 3, -7)).toEqual([
      [cleared, -7],
      [chain, 7],
      [negative, -7],
    ]);
    expect(failing(loan, 'opening', 1, 7)).toContainEqual([chain, 14]);
    // What is unpaid at the end is in arrears; that nobody charged it is what is wrong.
    expect(failing(loan, 'unpaid', 3, 7)).toEqual([
      [split, 7],
      [interest, 7],
    ]);
    expect(failing(built(line, waiting), 'fee', 1, 7)).toEqual([
      [bills, 7],
      [lineInterest, -7],
    ]);
    expect(failing(built({ purchase }), 'payment', 0, 7)).toContainEqual([finance, 7]);
    expect(failing(built({ purchase }), 'interest', 0, 7)).toContainEqual([finance, -7]);
    const left = built({ atEnd: 'leave' }, [level(4, 12)]);
    expect(failing(left, 'closing', 3, 7)).toEqual([
      [withLeft, 7],
      [chain, 7],
      [interest, 7],
    ]);
    const behind = built(withEvents(paid('2025-05-01', '2025-05-01', 0)));
    expect(failing(behind, 'closing', 3, 7)).toEqual([
      [arrears, 7],
      [withLeft, 7],
      [chain, 7],
      [interest, 7],
    ]);
  });
});

import fc from 'fast-check';
import { dayCountNames } from '../calendar/day-counts/day-counts.ts';
import { frequencies, paymentsPerYear } from '../calendar/frequency.ts';
import { ratio, ratioToNumber } from '../money/ratio.ts';
import { compoundings } from '../rates/compounding.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import { buildFundSchedule } from '../fund/build-fund-schedule.ts';
import { agreedDays } from '../fund/fund-periods.ts';
import type { FundTerms, MadeDeposit } from '../fund/fund-terms.ts';
import { plainFund } from './plain-fund.ts';

/** Not so where years at a high rate carry the opening balance past the goal. */
function needsDeposits({ goal = 0, opening, annualRate, deposits, every }: FundTerms): boolean {
  const count = deposits.type === 'level' ? (deposits.count ?? 0) : 0;
  const years = count / paymentsPerYear[every] + 1;
  return (opening?.amount ?? 0) * Math.exp(years * ratioToNumber(annualRate)) < goal / 2;
}

/** Recorded deposits: late, early, short, over and missed, each within the days between its neighbours. */
function madeIn(
  terms: FundTerms,
  recorded: readonly { index: number; days: number; share: number }[],
): MadeDeposit[] {
  const { deposits, goal = 0 } = terms;
  const count = deposits.type === 'level' ? (deposits.count ?? 20) : 0;
  const agreed = agreedDays(terms);
  const places = new Map(recorded.map((each) => [each.index, each]));
  return [...places.values()].flatMap(({ index, days, share }) => {
    const due = agreed[index];
    if (index >= count || due === undefined) return [];
    const amount = Math.floor((goal * share) / (100 * count));
    return [{ due, on: due + days, amount }];
  });
}

const anyRate = fc.integer({ min: 0, max: 1500 }).map((hundredths) => ratio(BigInt(hundredths), 10_000n));
/** For tests: a fund towards a goal, of a number of deposits or of an amount each. */
export const arbitraryFund = fc
  .record({
    annualRate: anyRate,
    goal: fc.integer({ min: 1_000_000, max: 10_000_000_000 }),
    compounding: fc.constantFrom(...compoundings),
    dayCount: fc.constantFrom(...dayCountNames),
    every: fc.constantFrom(...frequencies),
    first: fc.integer({ min: 19_000, max: 21_000 }),
    keepMonthEnd: fc.boolean(),
    count: fc.integer({ min: 1, max: 90 }),
    known: fc.constantFrom('count', 'deposit'),
    opened: fc.option(fc.integer({ min: 0, max: 40 })),
    rounding: fc.record({
      interest: fc.constantFrom('cent', 'unit', 'none'),
      deposit: fc.constantFrom('cent', 'cent-up', 'unit', 'none'),
      ties: fc.constantFrom('away-from-zero', 'even'),
    }),
  })
  .map(({ count, known, opened, goal, ...more }): FundTerms => {
    const deposits =
      known === 'count'
        ? ({ type: 'level', count } as const)
        : ({ type: 'level', amount: Math.ceil(goal / count) } as const);
    const opening =
      opened === null ? undefined : { on: more.first - 20 - opened, amount: Math.floor(goal / 400) };
    return plainFund(more.annualRate, { ...more, goal, deposits, ...(opening && { opening }) });
  })
  .filter(needsDeposits);

/** The same with deposits recorded late, early, short, over and missed. */
export const arbitraryFundAsMade = fc
  .tuple(
    arbitraryFund,
    fc.array(
      fc.record({
        index: fc.nat(20),
        days: fc.integer({ min: -9, max: 20 }),
        share: fc.constantFrom(0, 50, 100, 130),
      }),
      { maxLength: 3 },
    ),
  )
  .map(([terms, recorded]): FundTerms => ({ ...terms, made: madeIn(terms, recorded) }))
  .filter((terms) => {
    try {
      return buildFundSchedule(terms).rows.length > 0;
    } catch (error) {
      if (error instanceof TermsFault) return false;
      throw error;
    }
  });

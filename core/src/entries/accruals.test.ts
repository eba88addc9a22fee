import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { buildSchedule, firstDay, lastDay } from '../instrument/instrument.ts';
import type { AnySchedule } from '../kinds/schedules.ts';
import { arbitraryFundAsMade } from '../testing/arbitrary-fund.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { day, percent, plainLoan } from '../testing/plain-loan.ts';
import { incomeRoles } from './account-role.ts';
import type { AccrualChoice } from './accruals.ts';
import { balancesOf } from './balances.ts';
import { entries } from './entries.ts';
import { periodEndBefore, periodEnds, periodLengths } from './period-ends.ts';

const anySchedule: fc.Arbitrary<AnySchedule> = fc
  .oneof(arbitraryLoanWithEvents, arbitraryBondWithEvents, arbitraryFundAsMade)
  .map((terms): AnySchedule => buildSchedule(terms));

describe('accruals', () => {
  it('accruals left standing give every period the expense that reversed ones do, from any day on', () => {
    // From any day of the life on, or of the month after it.
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    const asked = fc.tuple(anySchedule, fc.constantFrom(...periodLengths), share, fc.nat(500));
    fc.assert(
      fc.property(asked, ([schedule, periods, after, days]) => {
        const from = firstDay(schedule) + Math.floor(after * (lastDay(schedule) + 31 - firstDay(schedule)));
        const whole = entries(schedule, firstDay(schedule), from + days, periods, 'standing');
        const made = entries(schedule, from, from + days, periods, 'standing');
        expect(made).toEqual(whole.filter(({ date }) => date >= from));
        expect(made.some(({ kind }) => kind === 'reversal' && periods === 'none')).toBe(false);
        const [first, ...ends] = periodEnds(periods, from, from + days);
        for (const end of first === undefined ? [] : ends) {
          const inPeriod = (accruals: AccrualChoice): unknown[] => {
            const begins = periodEndBefore(periods, end) + 1;
            const balances = balancesOf(entries(schedule, begins, end, periods, accruals));
            return [...incomeRoles].map((role) => balances.get(role) ?? 0);
          };
          expect(inPeriod('standing')).toEqual(inPeriod('reversed'));
        }
      }),
      { numRuns: 60 },
    );
  });

  // A note of 100,000 at 9 % for a year from 1 October: 2,250 accrued at the year's end stands, and the payment of
  // 109,000 clears it and charges the other 6,750 (Weygandt, Kimmel, Kieso, Accounting Principles, notes payable and
  // adjusting entries; the arrangement from memory, the figures by the rule).
  it('a payment clears the accrual that stands, and charges the rest', () => {
    const note = buildLoanSchedule(
      plainLoan([{ type: 'interest-only', count: 1 }], {
        start: day('2024-10-01'),
        annualRate: percent('9'),
        every: 'year',
        first: day('2025-10-01'),
        dayCount: '30/360',
      }),
    );
    const lines = (from: string, to: string): unknown[] =>
      entries(note, day(from), day(to), 'year', 'standing')
        .filter(({ kind }) => kind !== 'current-portion')
        .map((entry) => [entry.kind, ...entry.lines.map((line) => [line.account, line.debit - line.credit])]);
    expect(lines('2024-12-31', '2025-09-30')).toEqual([
      ['accrual', ['interest-expense', 225_000], ['interest-payable', -225_000]],
    ]);
    expect(lines('2025-01-01', '2025-12-31')).toEqual([
      [
        'payment',
        ['interest-expense', 675_000],
        ['loan-payable', 10_000_000],
        ['interest-payable', 225_000],
        ['cash', -10_900_000],
      ],
    ]);
  });
});

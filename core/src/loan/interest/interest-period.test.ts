import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { arbitraryLoan } from '../../testing/arbitrary-loan.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { stretchPeriod } from '../terms/stretch.ts';
import { interestPeriodOn } from './loan-interest.ts';

const periodOn = (terms: LoanTerms, on: string): string[] => {
  const { period, until } = interestPeriodOn(buildLoanSchedule(terms).stretches, day(on));
  return [period.from, period.to, until].map((each) => formatDay(each));
};
const listed: Phase = {
  type: 'custom',
  payments: [
    { on: day('2025-02-20'), amount: 20_000 },
    { on: day('2025-05-07'), amount: 20_000 },
  ],
};

describe('the period that a day’s interest is counted in', () => {
  // The first day of a period is counted and its last is not: common practice.
  it.each<[string, LoanTerms, [on: string, from: string, to: string][]]>([
    [
      'of a cycle, the day before, on and after its due dates, and after the last',
      thousand([level(2)]),
      [
        ['2025-01-31', '2025-01-01', '2025-02-01'],
        ['2025-02-01', '2025-02-01', '2025-03-01'],
        ['2025-02-28', '2025-02-01', '2025-03-01'],
        ['2025-03-01', '2025-03-01', '2025-04-01'],
        ['2025-03-31', '2025-03-01', '2025-04-01'],
        ['2026-07-19', '2026-07-01', '2026-08-01'],
      ],
    ],
    [
      'of a list, and after it a cycle from its last day on',
      thousand([listed], { atEnd: 'leave' }),
      [
        ['2025-02-19', '2025-01-01', '2025-02-20'],
        ['2025-02-20', '2025-02-20', '2025-05-07'],
        ['2025-05-06', '2025-02-20', '2025-05-07'],
        ['2025-05-07', '2025-05-07', '2025-06-07'],
        ['2025-06-07', '2025-06-07', '2025-07-07'],
        ['2026-01-06', '2025-12-07', '2026-01-07'],
      ],
    ],
    [
      'of a last payment on a day of its own, and the cycle as it would have gone on',
      thousand([level(3)], { last: day('2025-04-20') }),
      [
        ['2025-04-19', '2025-03-01', '2025-04-20'],
        ['2025-04-20', '2025-04-20', '2025-05-01'],
        ['2025-05-01', '2025-05-01', '2025-06-01'],
      ],
    ],
  ])('%s', (_, terms, days) => {
    expect(days.map(([on]) => [on, ...periodOn(terms, on).slice(0, 2)])).toEqual(days);
  });

  it('ends early where a renewal begins another stretch', () => {
    const annualRate = percent('6');
    const renewal: LoanEvent = {
      type: 'renewal',
      on: day('2025-03-15'),
      annualRate,
      count: 12,
      amortizeOver: 12,
    };
    const terms = thousand([level(12)], { events: [renewal] });
    expect(periodOn(terms, '2025-03-14').at(-1)).toBe('2025-03-15');
    // Its first payment is a month after it.
    expect(periodOn(terms, '2025-03-15').at(-1)).toBe('2025-04-15');
  });

  it('is the first of its stretch that ends after the day, whatever the terms, long after the end too', () => {
    fc.assert(
      fc.property(arbitraryLoan, fc.nat(6_000), (terms, after) => {
        const { stretches } = buildLoanSchedule(terms);
        const on = terms.start + after;
        const stretch = stretches.findLast(({ opens }) => opens <= on) ?? stretches[0];
        if (!stretch) return;
        let at = 0;
        while (stretchPeriod(stretch, at).to <= on) at += 1;
        expect(interestPeriodOn(stretches, on).period).toEqual(stretchPeriod(stretch, at));
      }),
    );
  });
});

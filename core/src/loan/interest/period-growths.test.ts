import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { roundedProduct } from '../../money/rounded-product.ts';
import { growthOver } from '../../rates/compounding.ts';
import { arbitraryLoan } from '../../testing/arbitrary-loan.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { stretchPeriod } from '../terms/stretch.ts';
import { PeriodGrowths } from './period-growths.ts';

describe('the growth of a whole period', () => {
  it('is that of its years by the day count at the rate in force, however it is looked up, and again', () => {
    const asked = fc.record({ place: fc.nat(400), rate: fc.nat(20) });
    fc.assert(
      fc.property(arbitraryLoan, fc.array(asked, { minLength: 1, maxLength: 12 }), (terms, all) => {
        const { stretches, rates } = buildLoanSchedule(terms);
        const growths = new PeriodGrowths(terms, rates);
        for (const stretch of stretches) {
          const evenFrom = growths.evenFrom(stretch);
          for (const { place, rate } of [...all, ...all]) {
            const [at, of] = [place % stretch.agreedCount, rate % rates.length];
            const period = stretchPeriod(stretch, at);
            const years = dayCounts[terms.dayCount].years(period.from, period.to, period);
            const expected = growthOver(rates[of]?.annualRate ?? percent('0'), terms.compounding, years);
            const { exact, estimate, toSteps } = growths.at(stretch, at, of);
            expect(exact()).toEqual(expected);
            expect(estimate).toBeCloseTo(ratioToNumber(expected), 12);
            const step = terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1;
            const steps = (1e9 * ratioToNumber(expected)) / step;
            expect(Math.abs(roundedProduct(1e9, toSteps, 'even') - steps)).toBeLessThan(0.5001);
            if (evenFrom !== undefined && at > evenFrom) {
              expect(growths.at(stretch, at - 1, of).exact()).toEqual(expected);
            }
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  // By even periods a month is a month; a first or last one of days of its own, and listed days, are not.
  it.each<[string, Partial<LoanTerms>, number | undefined]>([
    ['from the second on by even periods', {}, 1],
    ['nowhere by actual days', { dayCount: 'ACT/360' }, undefined],
    ['nowhere where the last has days of its own', { last: day('2025-12-20') }, undefined],
    [
      'nowhere where days are listed',
      {
        phases: [{ type: 'custom', payments: [{ on: day('2025-02-20'), amount: 100_000 }] }],
        atEnd: 'leave',
      },
      undefined,
    ],
  ])('is known to be the same %s', (_, more, from) => {
    const terms = thousand([level(12)], more);
    const { stretches, rates } = buildLoanSchedule(terms);
    const [stretch] = stretches;
    expect(stretch && new PeriodGrowths(terms, rates).evenFrom(stretch)).toBe(from);
  });
});

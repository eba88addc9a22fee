import fc from 'fast-check';
import { addMonths, parseDay } from '../calendar/calendar-day.ts';
import { dayCountNames } from '../calendar/day-counts/day-counts.ts';
import { ratio } from '../money/ratio.ts';
import type { BondTerms } from './bond-terms.ts';

const day = (text: string): number => parseDay(text) as number;

/** Bond terms over every convention that is computed. For property tests. */
export const arbitraryBond: fc.Arbitrary<BondTerms> = fc
  .record({
    face: fc.integer({ min: 100_000, max: 5_000_000_000_00 }),
    issued: fc.integer({ min: day('2020-01-01'), max: day('2026-12-28') }),
    coupons: fc.integer({ min: 1, max: 60 }),
    every: fc.constantFrom('half-year' as const, 'year' as const),
    coupon: fc.integer({ min: 0, max: 1500 }),
    dayCount: fc.constantFrom(...dayCountNames),
    price: fc.integer({ min: 500_000, max: 1_500_000 }),
    market: fc.integer({ min: 1, max: 2000 }),
    by: fc.constantFrom('price' as const, 'yield' as const),
    interest: fc.constantFrom('cent' as const, 'unit' as const),
  })
  .map((drawn): BondTerms => {
    const months = drawn.every === 'year' ? 12 : 6;
    // A day that every month has, so that the issue is on the cycle counted back from maturity.
    const issued =
      addMonths(drawn.issued, 0) - Math.max(0, new Date(drawn.issued * 86_400_000).getUTCDate() - 28);
    return {
      kind: 'bond',
      currency: 'USD',
      digits: 2,
      keepMonthEnd: false,
      face: drawn.face,
      issued,
      matures: addMonths(issued, months * drawn.coupons),
      every: drawn.every,
      couponRate: ratio(BigInt(drawn.coupon), 10_000n),
      dayCount: drawn.dayCount,
      rounding: { interest: drawn.interest, ties: 'away-from-zero' },
      ...(drawn.by === 'price'
        ? {
            price: { ofFace: ratio(BigInt(drawn.price), 1_000_000n), decimals: 4 },
            effectiveRate: 'from-price',
          }
        : { marketYield: ratio(BigInt(drawn.market), 10_000n), effectiveRate: 'yield' }),
    };
  });

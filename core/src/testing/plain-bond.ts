import { parseDay } from '../calendar/calendar-day.ts';
import { ratio, ratioFromDecimal, type Ratio } from '../money/ratio.ts';
import type { BondTerms } from '../bond/terms/bond-terms.ts';

/** A day of a test, from `YYYY-MM-DD`. */
export const day = (text: string): number => parseDay(text) as number;

/** A percentage as an exact fraction. */
export function percent(text: string): Ratio {
  const value = ratioFromDecimal(text);
  return ratio(value.num, value.den * 100n);
}

/** A price in percent of face. */
export function priced(text: string): NonNullable<BondTerms['price']> {
  return { ofFace: percent(text), decimals: (text.split('.')[1] ?? '').length };
}

/** A five-year half-yearly bond of 100,000 by 30/360 in whole units, as the textbooks have it. For tests. */
export function plainBond(coupon: string, more: Partial<BondTerms> = {}): BondTerms {
  const issued = more.issued ?? day('2024-01-01');
  return {
    kind: 'bond',
    currency: 'USD',
    digits: 2,
    face: 10_000_000,
    issued,
    dated: issued,
    matures: day('2029-01-01'),
    couponRate: percent(coupon),
    zeroCoupon: coupon === '0',
    every: 'half-year',
    dayCount: '30/360',
    keepMonthEnd: false,
    effectiveRate: more.marketYield ? 'yield' : 'from-price',
    method: 'effective',
    instalments: [],
    redemptions: [],
    calls: [],
    issuedFor: 'cash',
    events: [],
    rounding: { interest: 'unit', ties: 'away-from-zero' },
    ...more,
  };
}

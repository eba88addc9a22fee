import { day, percent } from './plain-loan.ts';
import type { Ratio } from '../money/ratio.ts';
import type { FundTerms } from '../fund/fund-terms.ts';

/** For tests: a yearly fund at a rate, changed as asked. */
export function plainFund(rate: string | Ratio, more: Partial<FundTerms>): FundTerms {
  return {
    kind: 'fund',
    currency: 'EUR',
    digits: 2,
    annualRate: typeof rate === 'string' ? percent(rate) : rate,
    compounding: 'each-payment',
    dayCount: 'even-periods',
    every: 'year',
    first: day('2025-01-31'),
    keepMonthEnd: false,
    deposits: { type: 'level', count: 10 },
    rounding: { interest: 'cent', deposit: 'cent', ties: 'away-from-zero' },
    ...more,
  };
}

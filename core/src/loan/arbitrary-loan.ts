import fc from 'fast-check';
import { parseDay } from '../calendar/calendar-day.ts';
import { dayCountNames } from '../calendar/day-counts/day-counts.ts';
import { frequencies } from '../calendar/frequency.ts';
import { cycleDate } from '../calendar/payment-dates.ts';
import { ratio } from '../money/ratio.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';

const start = parseDay('2024-01-31') as number;

/** Loan terms without events, over every convention that is computed. For property tests. */
export const arbitraryLoan: fc.Arbitrary<LoanTerms> = fc
  .record({
    amount: fc.integer({ min: 100_000, max: 900_000_000_00 }),
    start: fc.integer({ min: start, max: start + 800 }),
    firstAfter: fc.integer({ min: 1, max: 120 }),
    rate: fc.integer({ min: 0, max: 3000 }),
    dayCount: fc.constantFrom(...dayCountNames),
    every: fc.constantFrom(...frequencies),
    keepMonthEnd: fc.boolean(),
    interestOnly: fc.integer({ min: 0, max: 6 }),
    count: fc.integer({ min: 1, max: 120 }),
    longer: fc.constantFrom(0, 0, 0, 24),
    interest: fc.constantFrom('cent' as const, 'cent' as const, 'unit' as const),
    payment: fc.constantFrom('cent' as const, 'cent-up' as const, 'unit' as const),
    ties: fc.constantFrom('away-from-zero' as const, 'even' as const),
  })
  .map((drawn): LoanTerms => {
    const level: Phase = { type: 'level', count: drawn.count, amortizeOver: drawn.count + drawn.longer };
    const first: Phase[] =
      drawn.interestOnly > 0 ? [{ type: 'interest-only', count: drawn.interestOnly }] : [];
    return {
      kind: 'loan',
      currency: 'EUR',
      digits: 2,
      amount: drawn.amount,
      start: drawn.start,
      annualRate: ratio(BigInt(drawn.rate), 10_000n),
      compounding: 'each-payment',
      dayCount: drawn.dayCount,
      every: drawn.every,
      first: drawn.start + drawn.firstAfter,
      keepMonthEnd: drawn.keepMonthEnd,
      phases: [...first, level],
      rounding: { interest: drawn.interest, payment: drawn.payment, ties: drawn.ties },
      extrasOnce: [],
      extrasEachPayment: [],
      recorded: [],
    };
  });

/** The same with extra principal and with payments recorded late, early, short and over. */
export const arbitraryLoanWithEvents: fc.Arbitrary<LoanTerms> = fc
  .tuple(
    arbitraryLoan,
    fc.array(
      fc.record({ after: fc.integer({ min: 0, max: 3000 }), share: fc.integer({ min: 1, max: 40 }) }),
      { maxLength: 3 },
    ),
    fc.uniqueArray(
      fc.record({
        index: fc.integer({ min: 0, max: 30 }),
        days: fc.integer({ min: -6, max: 20 }),
        share: fc.constantFrom(0, 30, 99, 100, 130),
      }),
      { maxLength: 4, selector: (payment) => payment.index },
    ),
    fc.boolean(),
  )
  .map(([terms, extras, payments, regular]): LoanTerms => {
    const part = (share: number): number => Math.max(1, Math.floor((terms.amount * share) / 100));
    const cycle = { anchor: terms.first, every: terms.every, keepMonthEnd: terms.keepMonthEnd };
    const each = { from: terms.start, to: terms.start + 2000, amount: part(1) };
    return {
      ...terms,
      extrasOnce: extras.map(({ after, share }) => ({ on: terms.start + after, amount: part(share) })),
      extrasEachPayment: regular ? [each] : [],
      recorded: payments.map(({ index, days, share }) => {
        const due = cycleDate(cycle, index);
        const amount = Math.floor((part(4) * share) / 100);
        return { due, on: Math.max(terms.start, due + days), amount };
      }),
    };
  });

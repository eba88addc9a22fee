import {
  addMonths,
  evenGrowths,
  levelPayment,
  parseDay,
  ratio,
  type Compounding,
  type DayCountName,
  type LoanEvent,
  type LoanTerms,
  type Phase,
} from '@coffer/core';

/** Numbers that are the same in every run (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** An amount in cents, a rate in hundredths of a percent, and the level payment they make. */
export interface BenchLoan {
  readonly amount: number;
  readonly rate: number;
  readonly payment: number;
}

export const payments = 360;
const start = parseDay('2026-01-31') as number;

/** So many loans of 360 payments. */
const toTheCent = { step: 1, how: 'away-from-zero' } as const;

export function benchLoans(loans: number): BenchLoan[] {
  const random = seeded(20261031);
  return Array.from({ length: loans }, (): BenchLoan => {
    const amount = 1_000_000 + Math.floor(random() * 99_000_000);
    const rate = 200 + Math.floor(random() * 1000);
    const growth = ratio(BigInt(rate), 120_000n);
    return { amount, rate, payment: levelPayment(amount, evenGrowths(payments, growth), toTheCent) };
  });
}

/** A level monthly loan. */
export function levelTerms({ amount, rate }: BenchLoan): LoanTerms {
  return {
    kind: 'loan',
    currency: 'EUR',
    digits: 2,
    amount,
    start,
    annualRate: ratio(BigInt(rate), 10_000n),
    rateSteps: [],
    compounding: 'each-payment',
    dayCount: 'even-periods',
    every: 'month',
    first: start + 28,
    keepMonthEnd: false,
    due: 'end',
    phases: [{ type: 'level', count: payments, amortizeOver: payments }],
    atEnd: 'pay',
    rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
    events: [],
  };
}

const dayCounts: readonly DayCountName[] = [
  'even-periods',
  '30/360',
  'ACT/360',
  'ACT/365F',
  'ACT/ACT-ISDA',
  '30E/360',
];
const compoundings: readonly Compounding[] = [
  'each-payment',
  'each-payment',
  'half-yearly',
  'monthly',
  'daily',
];
const mixes: readonly (readonly Phase[])[] = [
  [{ type: 'level', count: 360, amortizeOver: 360 }],
  [
    { type: 'interest-only', count: 24 },
    { type: 'level', count: 336, amortizeOver: 336 },
  ],
  [{ type: 'equal-principal', count: 360 }],
  [
    { type: 'no-payment', count: 6, interest: 'added-each-period', then: 'add-to-balance' },
    { type: 'level', count: 354, amortizeOver: 420 },
  ],
];

/** A loan of any kind: mixed phases, day counts, compounding, a step of the rate, and two or three events. */
export function mixedTerms(loan: BenchLoan, at: number): LoanTerms {
  const paidDue = addMonths(start + 28, 12);
  const day = (month: number): number => addMonths(start, month) + (at % 20);
  const events: LoanEvent[] = [
    {
      type: 'extra-principal',
      on: day(30 + (at % 90)),
      amount: 100_000,
      then: at % 2 === 0 ? 'shorten' : 're-level',
    },
    ...(at % 4 === 0 ? [{ type: 'paid', due: paidDue, on: paidDue - 3, amount: loan.payment } as const] : []),
    ...(at % 3 === 0 ? [{ type: 'draw', on: day(60), amount: 500_000, then: 're-level' } as const] : []),
  ];
  return {
    ...levelTerms(loan),
    dayCount: dayCounts[at % dayCounts.length] as DayCountName,
    compounding: compoundings[at % compoundings.length] as Compounding,
    phases: mixes[at % mixes.length] as readonly Phase[],
    rateSteps: [{ from: day(48), annualRate: ratio(BigInt(loan.rate + 50), 10_000n), payment: 're-level' }],
    events,
  };
}

import {
  buildLoanSchedule,
  entriesOnDay,
  interestExpense,
  maturities,
  mostSteps,
  parseDay,
  position,
  proofsOf,
  ratio,
  solveUnknown,
  stepsToWorkOut,
  type LoanEvent,
  type LoanSchedule,
  type LoanTerms,
} from '@coffer/core';

const day = (text: string): number => parseDay(text) as number;
const start = day('2024-01-15');
const on = day('2026-10-31');

/** A level loan on actual days, changed as asked. Amounts in cents. */
function loan(count: number, every: 'month' | 'week', more: Partial<LoanTerms> = {}): LoanTerms {
  return {
    kind: 'loan',
    currency: 'EUR',
    digits: 2,
    amount: 30_000_000,
    start,
    annualRate: ratio(6n, 100n),
    rateSteps: [],
    compounding: 'each-payment',
    dayCount: 'ACT/365F',
    every,
    first: every === 'week' ? start + 7 : day('2024-02-15'),
    due: 'end',
    keepMonthEnd: false,
    phases: [{ type: 'level', count, amortizeOver: count }],
    atEnd: 'pay',
    rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
    events: [],
    ...more,
  };
}

const costs = { amount: 300_000, method: 'effective' } as const;
const fee = (after: number): LoanEvent => ({
  type: 'fee',
  on: start + after,
  amount: 50_000,
  treatment: 'defer',
});
const extra = (after: number): LoanEvent => ({
  type: 'extra-principal',
  on: start + after,
  amount: 100_000,
  then: 'shorten',
});

/** A thirty-year mortgage with effective costs, an extra payment and a deferred fee. */
function mortgage(at: number): LoanTerms {
  return loan(360, 'month', {
    amount: 30_000_000 + at * 10_000,
    issueCosts: costs,
    events: [extra(430), fee(510)],
  });
}

/** As many events of a kind as the budget takes. */
function most(events: number, make: (events: number) => LoanTerms): LoanTerms {
  let [least, largest] = [0, events];
  while (least < largest) {
    const middle = Math.ceil((least + largest) / 2);
    if (stepsToWorkOut(buildLoanSchedule(make(middle))) <= mostSteps) least = middle;
    else largest = middle - 1;
  }
  return make(least);
}

const steps = (events: number, rows: 'week'): LoanTerms =>
  loan(1200, rows, {
    rateSteps: Array.from({ length: events }, (_, at) => ({
      from: start + 5 + 7 * at,
      annualRate: ratio(BigInt(300 + (at % 7) * 10), 10_000n),
      payment: 're-level',
    })),
  });

/** The dearest documents that are accepted, by what makes them dear. */
const dearest: readonly {
  readonly name: string;
  readonly make: () => LoanTerms;
  /** Whether making the terms is part of the work. */
  readonly solves?: boolean;
}[] = [
  {
    name: 'weekly, 24 years, costs spread anew as often as may be',
    make: () =>
      most(200, (events) =>
        loan(1200, 'week', {
          issueCosts: costs,
          events: Array.from({ length: events }, (_, at) => fee(20 + 17 * at)),
        }),
      ),
  },
  {
    name: 'monthly, 30 years, as many extra payments with costs as may be',
    make: () =>
      most(400, (events) =>
        loan(360, 'month', {
          issueCosts: costs,
          events: Array.from({ length: events }, (_, at) => extra(20 + 17 * at)),
        }),
      ),
  },
  {
    name: 'weekly, the rate stepping with every payment',
    make: () => most(1200, (events) => steps(events, 'week')),
  },
  {
    name: 'credit line with 5,000 draws and repayments',
    make: () =>
      loan(240, 'month', {
        amount: 0,
        creditLine: { limit: 900_000_000_000, unusedFee: ratio(1n, 200n) },
        phases: [{ type: 'interest-only', count: 240 }],
        events: Array.from({ length: 5000 }, (_, at): LoanEvent =>
          at % 2 === 0
            ? { type: 'draw', on: start + 5 + at, amount: 1_000 + (at % 3), then: 'keep' }
            : { type: 'extra-principal', on: start + 5 + at, amount: 1_000, then: 'shorten' },
        ),
      }),
  },
  {
    name: 'rate solved over 1,200 payments',
    solves: true,
    make: () =>
      solveUnknown(
        loan(1200, 'week', {
          compounding: 'daily',
          phases: [{ type: 'level', count: 1200, amortizeOver: 1200, payment: 60_000 }],
        }),
        'annual',
      ),
  },
];

/** What register and close ask of one instrument: figures of two days, expense, maturities, entries, proofs. */
function worked(schedule: LoanSchedule): number {
  const before = position(schedule, on - 31);
  const at = position(schedule, on);
  const due = maturities(schedule, on).length + entriesOnDay(schedule, on).length + proofsOf(schedule).length;
  return at.current - before.current + interestExpense(schedule, on - 31, on) + due;
}

function timed<Made>(work: () => Made): { readonly ms: number; readonly made: Made } {
  const from = performance.now();
  const made = work();
  return { ms: performance.now() - from, made };
}

/**
 * Times the dearest documents that are accepted, against one plain schedule of 360 payments: cold, as when nobody has
 * asked before, and again with what their version made kept.
 */
export function benchDearest(): string[] {
  const plain = loan(360, 'month');
  let unit = 0;
  for (let round = 0; round < 40; round += 1) unit = timed(() => worked(buildLoanSchedule(plain))).ms;
  const line = (name: string, cold: number, warm: number): string =>
    `${name.padEnd(62)} ${cold.toFixed(0).padStart(6)} ms  ${(cold / unit).toFixed(0).padStart(6)} ×` +
    `   again ${warm.toFixed(1).padStart(6)} ms`;
  const mortgages = timed(() =>
    Array.from({ length: 20 }, (_, at) => {
      const schedule = buildLoanSchedule(mortgage(at));
      worked(schedule);
      return schedule;
    }),
  );
  const again = timed(() => mortgages.made.forEach(worked)).ms;
  const lines = [line('20 mortgages with effective costs, an extra payment and a fee', mortgages.ms, again)];
  for (const { name, make, solves } of dearest) {
    // Looking for the most that is accepted is no part of what is timed; solving what is unknown is.
    const terms = make();
    const { ms, made } = timed(() => {
      const schedule = buildLoanSchedule(solves ? make() : terms);
      worked(schedule);
      return schedule;
    });
    lines.push(line(name, ms, timed(() => worked(made)).ms));
  }
  return lines;
}

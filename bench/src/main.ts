import {
  buildLoanSchedule,
  fillRegularRows,
  levelPayment,
  loanColumns,
  multiplier,
  parseDay,
  position,
  ratio,
  type LoanColumns,
  type LoanTerms,
} from '@coffer/core';
import { fillRowsInDoubles } from './rows-in-doubles.ts';

const loans = 10_000;
const payments = 360;
const rounds = 7;

/** Numbers that are the same in every run (mulberry32). */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

interface Loan {
  readonly amount: number;
  /** Hundredths of a percent. */
  readonly rate: number;
  readonly payment: number;
}

const random = seeded(20261031);
const portfolio = Array.from({ length: loans }, (): Loan => {
  const amount = 1_000_000 + Math.floor(random() * 99_000_000);
  const rate = 200 + Math.floor(random() * 1000);
  const growth = ratio(BigInt(rate), 120_000n);
  return { amount, rate, payment: levelPayment(amount, { count: payments, at: () => growth }, 1, false) };
});

const dues = Int32Array.from({ length: payments }, (_, at) => 20_000 + 30 * at);
const start = parseDay('2026-01-31') as number;

function exactLoop(columns: LoanColumns): number {
  let interest = 0;
  for (const { amount, rate, payment } of portfolio) {
    columns.length = 0;
    const growth = multiplier(ratio(BigInt(rate), 120_000n));
    const rows = fillRegularRows(columns, dues, 0, payments, amount, payment, () => growth, 0);
    for (let row = 0; row < rows; row += 1) interest += columns.interest[row] as number;
  }
  return interest;
}

function doublesLoop(columns: LoanColumns): number {
  let interest = 0;
  for (const { amount, rate, payment } of portfolio) {
    columns.length = 0;
    const rows = fillRowsInDoubles(columns, dues, 0, payments, amount, payment, rate / 120_000, 0);
    for (let row = 0; row < rows; row += 1) interest += columns.interest[row] as number;
  }
  return interest;
}

function termsOf({ amount, rate }: Loan): LoanTerms {
  return {
    kind: 'loan',
    currency: 'EUR',
    digits: 2,
    amount,
    start,
    annualRate: ratio(BigInt(rate), 10_000n),
    compounding: 'each-payment',
    dayCount: 'even-periods',
    every: 'month',
    first: start + 28,
    keepMonthEnd: false,
    phases: [{ type: 'level', count: payments, amortizeOver: payments }],
    rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
    extrasOnce: [],
    extrasEachPayment: [],
    recorded: [],
  };
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;
}

function timed(work: () => number): { milliseconds: number; result: number } {
  const from = performance.now();
  const result = work();
  return { milliseconds: performance.now() - from, result };
}

/** Runs both in turn, so that a slower or faster moment of the machine touches both alike. */
function compare(one: () => number, other: () => number): { one: number; other: number; difference: number } {
  const ones: number[] = [];
  const others: number[] = [];
  let difference = 0;
  for (let round = 0; round <= rounds; round += 1) {
    const [a, b] = [timed(one), timed(other)];
    difference = a.result - b.result;
    // The first round warms up the compiler.
    if (round > 0) {
      ones.push(a.milliseconds);
      others.push(b.milliseconds);
    }
  }
  return { one: median(ones), other: median(others), difference };
}

const columns = loanColumns(payments + 1);
const loop = compare(
  () => exactLoop(columns),
  () => doublesLoop(columns),
);
const terms = portfolio.map(termsOf);
const on = parseDay('2036-10-31') as number;
const whole = compare(
  () => terms.reduce((sum, each) => sum + buildLoanSchedule(each).length, 0),
  () => doublesLoop(columns),
);
const figures = compare(
  () => terms.reduce((sum, each) => sum + position(buildLoanSchedule(each), on).current, 0),
  () => doublesLoop(columns),
);

const line = (name: string, { one, other }: { one: number; other: number }): string =>
  `${name.padEnd(58)} ${one.toFixed(0).padStart(6)} ms  ${(one / other).toFixed(2).padStart(6)} ×`;
console.log(
  `${loans} level loans of ${payments} payments, median of ${rounds} rounds; × is against plain doubles`,
);
console.log(line('plain doubles into typed columns', { one: loop.other, other: loop.other }));
console.log(line('exact loop into typed columns', loop));
console.log(line('whole schedules from terms, exact', whole));
console.log(line('as-of figures from terms, exact', figures));
console.log(
  `interest of the portfolio in doubles is off by ${(loop.difference / 100).toFixed(2)} from the exact total`,
);

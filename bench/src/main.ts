import {
  buildLoanSchedule,
  FillingColumns,
  fillRegularRows,
  multiplier,
  parseDay,
  position,
  ratio,
  totalOf,
} from '@coffer/core';
import { benchDearest } from './dearest.ts';
import { benchHorizons } from './horizons.ts';
import { exactness } from './exactness.ts';
import { MixedInDoubles } from './mixed-in-doubles.ts';
import { benchLoans, levelTerms, mixedTerms, payments } from './portfolio.ts';
import { fillRowsInDoubles, plainColumns } from './rows-in-doubles.ts';

const loans = 10_000;
const rounds = 7;
const portfolio = benchLoans(loans);
const dues = Int32Array.from({ length: payments }, (_, at) => 20_000 + 30 * at);

function exactLoop(columns: FillingColumns): number {
  let interest = 0;
  for (const { amount, rate, payment } of portfolio) {
    columns.length = 0;
    const growth = multiplier(ratio(BigInt(rate), 120_000n));
    const run = {
      dues,
      from: 0,
      end: payments,
      number: 1,
      kind: 'payment',
      amount: payment,
      growthOf: () => growth,
      step: 1,
      ties: 'away-from-zero',
      setting: 0,
    } as const;
    const rows = fillRegularRows(columns, run, amount);
    for (let row = 0; row < rows; row += 1) interest += columns.interest[row] as number;
  }
  return interest;
}

const plain = plainColumns(payments);

function doublesLoop(): number {
  let interest = 0;
  for (const { amount, rate, payment } of portfolio) {
    const rows = fillRowsInDoubles(plain, dues, payments, amount, payment, rate / 120_000);
    for (let row = 0; row < rows; row += 1) interest += plain.interest[row] as number;
  }
  return interest;
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

const columns = new FillingColumns(payments + 1, 0);
const loop = compare(() => exactLoop(columns), doublesLoop);
const level = portfolio.map(levelTerms);
const mixed = portfolio.map(mixedTerms);
const on = parseDay('2036-10-31') as number;
const wholeOf = (terms: typeof level) => (): number =>
  terms.reduce((sum, each) => sum + buildLoanSchedule(each).length, 0);
const whole = compare(wholeOf(level), doublesLoop);
const inDoubles = new MixedInDoubles(plain);
const general = compare(wholeOf(mixed), () => mixed.reduce((sum, each) => sum + inDoubles.fill(each), 0));
const exactInterest = mixed.reduce((sum, each) => sum + totalOf(buildLoanSchedule(each), 'interest'), 0);
const doublesInterest = mixed.reduce((sum, each) => sum + inDoubles.fill(each), 0);
const figures = compare(
  () => level.reduce((sum, each) => sum + position(buildLoanSchedule(each), on).current, 0),
  doublesLoop,
);

const line = (name: string, { one, other }: { one: number; other: number }): string =>
  `${name.padEnd(62)} ${one.toFixed(0).padStart(6)} ms  ${(one / other).toFixed(2).padStart(6)} ×`;
console.log(
  `${loans} loans of ${payments} payments, median of ${rounds} rounds; × is against the same loans in plain doubles`,
);
console.log(line('plain doubles into typed columns', { one: loop.other, other: loop.other }));
console.log(line('exact loop into typed columns', loop));
console.log(line('whole schedules of level loans from terms', whole));
console.log(
  line('mixed phases, day counts and events in plain doubles', { one: general.other, other: general.other }),
);
console.log(line('whole schedules of the same mixed loans from terms', general));
console.log(line('as-of figures of level loans from terms', figures));
console.log(
  `interest of the portfolio in doubles is off by ${(loop.difference / 100).toFixed(2)} from the exact total`,
);
const mixedOff = (100 * (doublesInterest - exactInterest)) / exactInterest;
console.log(
  `interest of the mixed loans in doubles is off by ${mixedOff.toFixed(4)} %, early payments aside`,
);
const { rows, halves, wrong } = exactness(1_000_000);
console.log(`${rows} random rows, ${halves} of them exact halves: ${wrong} differ from exact fractions`);
if (wrong > 0) process.exitCode = 1;
console.log('the dearest documents that are accepted; × is against one plain schedule of 360 payments');
for (const text of benchDearest()) console.log(text);
benchHorizons();

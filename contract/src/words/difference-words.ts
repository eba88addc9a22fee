import type { ComparedFigure } from '@coffer/core';
import type { DifferenceLine, DifferenceReason } from '../api/difference-views.ts';
import { showAmount, showMovement, showRate } from './show.ts';

/** What the reasons are called, in the order of telling. */
export const differenceReasonNames: Readonly<Record<DifferenceReason, string>> = {
  'catch-up': 'catch-up',
  'put-right': 'last month put right',
  new: 'new',
  settled: 'settled',
  withdrawn: 'withdrawn',
  'left-out': 'too small to book',
  rate: 'rate',
  balance: 'balance',
  days: 'days',
  amortized: 'amortized',
  fee: 'fee',
  arrears: 'in arrears',
  presentation: 'presented otherwise',
  unexplained: 'unexplained',
};

export const comparedNames: Readonly<Record<ComparedFigure, string>> = {
  accrued: 'Accrued',
  expense: 'Expense',
  carrying: 'Carrying',
  current: 'Current',
};

/** The causes that lines are told by, each with the reasons that make it; a line has the first that it has. */
const causes = [
  ['Unexplained', ['unexplained']],
  ['Catch-up', ['catch-up', 'put-right']],
  ['New', ['new']],
  ['Settled', ['settled', 'withdrawn']],
  ['Rate', ['rate']],
  ['Presentation', ['presentation']],
  ['Arrears', ['arrears']],
] as const satisfies readonly (readonly [string, readonly DifferenceReason[]])[];

/** What a line is told by: a cause, `Balance` where something was drawn or repaid, else `Scheduled`. */
export type DifferenceCause = (typeof causes)[number][0] | 'Balance' | 'Scheduled';
export const differenceCauses: readonly DifferenceCause[] = [...causes.map(([name]) => name), 'Balance'];

/** The cause of a line. */
export function differenceCause(line: DifferenceLine): DifferenceCause {
  if (line.asScheduled) return 'Scheduled';
  const found = causes.find(([, reasons]) =>
    reasons.some((reason) => partsOf(line).some((part) => part.reason === reason)),
  );
  return found?.[0] ?? 'Balance';
}

function partsOf({
  accrued,
  expense,
  carrying,
  current,
}: DifferenceLine): DifferenceLine['accrued']['parts'] {
  return [...accrued.parts, ...expense.parts, ...carrying.parts, ...current.parts];
}

/** Why a line differs: its cause in a word, and what is to be said of it. */
export function differenceInWords(
  line: DifferenceLine,
  digits: number,
): { readonly lead: string; readonly rest: string } {
  const cause = differenceCause(line);
  return { lead: leads[cause](line), rest: rests[cause](line, digits) };
}

const amountOf = (line: DifferenceLine, figure: ComparedFigure, ...reasons: DifferenceReason[]): number =>
  line[figure].parts.reduce((sum, { reason, amount }) => (reasons.includes(reason) ? sum + amount : sum), 0);

const leads: Readonly<Record<DifferenceCause, (line: DifferenceLine) => string>> = {
  Unexplained: () => 'Unexplained',
  'Catch-up': () => 'Catch-up',
  New: () => 'New',
  Settled: (line) => (partsOf(line).some(({ reason }) => reason === 'withdrawn') ? 'Withdrawn' : 'Settled'),
  Rate: () => 'Rate',
  Presentation: () => 'Presented otherwise',
  Arrears: () => 'In arrears',
  Balance: () => 'Balance',
  Scheduled: () => 'Days',
};

const rests: Readonly<Record<DifferenceCause, (line: DifferenceLine, digits: number) => string>> = {
  Unexplained: (line, digits) => {
    const found = (['accrued', 'expense', 'carrying', 'current'] as const).flatMap((figure) => {
      const left = amountOf(line, figure, 'unexplained');
      return left === 0 ? [] : [`${comparedNames[figure].toLowerCase()} ${showMovement(left, digits)}`];
    });
    return found.join(', ');
  },
  'Catch-up': (line, digits) =>
    `of closed months ${showMovement(amountOf(line, 'expense', 'catch-up'), digits)}${alsoRate(line)}`,
  New: ({ carrying }, digits) => `${showAmount(carrying.now, digits)} carried`,
  Settled: (line, digits) =>
    `${showAmount(-amountOf(line, 'carrying', 'settled', 'withdrawn'), digits)} went`,
  Rate: (line) => rates(line),
  Presentation: (line, digits) => `current ${showMovement(line.current.change, digits)}`,
  Arrears: (line, digits) => `interest unpaid ${showMovement(amountOf(line, 'accrued', 'arrears'), digits)}`,
  Balance: (line, digits) => {
    const moved = amountOf(line, 'carrying', 'balance');
    return moved === 0
      ? 'paid otherwise than agreed'
      : `${moved > 0 ? 'up' : 'down'} ${showAmount(Math.abs(moved), digits)}`;
  },
  Scheduled: ({ expense }) => daysAgainst(expense.over),
};

function alsoRate(line: DifferenceLine): string {
  return partsOf(line).some(({ reason }) => reason === 'rate') ? `; rate ${rates(line)}` : '';
}

function rates({ expense: { over }, accrued }: DifferenceLine): string {
  const [was, is] = over ?? accrued.over ?? [];
  return was && is ? `${percent(was.rate)} to ${percent(is.rate)}` : '';
}

/** The days that interest was worked out over, against those of the month before. */
export function daysAgainst(over: DifferenceLine['expense']['over']): string {
  if (!over) return 'as agreed';
  const [was, is] = over.map(({ days }) => Math.round(days)) as [number, number];
  return `${is} against ${was}`;
}

/** A share as a percentage of up to four decimals. */
function percent(share: number): string {
  return showRate(`${String(Number((share * 100).toFixed(4)))}%`);
}

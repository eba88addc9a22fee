import type { ComparedFigure } from '@coffer/core';
import type { DifferenceLine, DifferenceReason } from '../api/difference-views.ts';
import { showAmount, showMovement, showRate } from './show.ts';

/** What the reasons are called, in the order of telling. */
export const differenceReasonNames: Readonly<Record<DifferenceReason, string>> = {
  'catch-up': 'catch-up of closed months',
  'put-right': 'last month put right',
  new: 'new',
  settled: 'settled',
  withdrawn: 'withdrawn',
  'left-out': 'too small to book',
  rate: 'rate',
  renewed: 'renewal',
  drawn: 'drawdown',
  repaid: 'repayment',
  'paid-late': 'paid late',
  missed: 'not paid',
  'paid-early': 'paid early',
  added: 'interest added',
  paid: 'payment made',
  balance: 'balance owed',
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

/** What a line is told by, in the order of telling: a line has the first cause that it has. */
const causes = [
  'Unexplained',
  'Catch-up',
  'New',
  'Settled',
  'Renewal',
  'Rate',
  'Drawdown',
  'Repayment',
  'Paid late',
  'Arrears',
  'Paid early',
  'Interest added',
  'Presentation',
  'Threshold',
  'Payment',
  'Balance',
  'Days',
] as const;
export type DifferenceCause = (typeof causes)[number];
export const differenceCauses: readonly DifferenceCause[] = causes;

/** By what each cause is known: a part of a figure, or what happened. The last holds where nothing else does. */
const known: Readonly<Record<DifferenceCause, readonly DifferenceReason[]>> = {
  Unexplained: ['unexplained'],
  'Catch-up': ['catch-up', 'put-right'],
  New: ['new'],
  Settled: ['settled', 'withdrawn'],
  Renewal: ['renewed'],
  Rate: ['rate'],
  Drawdown: ['drawn'],
  Repayment: ['repaid'],
  'Paid late': ['paid-late'],
  Arrears: ['missed', 'arrears'],
  'Paid early': ['paid-early'],
  'Interest added': ['added'],
  Presentation: ['presentation'],
  Threshold: ['left-out'],
  Payment: ['paid'],
  Balance: ['balance'],
  Days: [],
};

/** The cause of a line. */
export function differenceCause(line: DifferenceLine): DifferenceCause {
  const reasons = new Set<DifferenceReason>([...line.happened, ...partsOf(line).map(({ reason }) => reason)]);
  // What a rate that nobody changed makes of a mean is no cause by itself.
  if (!line.rates && reasons.size > 1) reasons.delete('rate');
  return causes.find((cause) => known[cause].some((reason) => reasons.has(reason))) ?? 'Days';
}

function partsOf({
  accrued,
  expense,
  carrying,
  current,
}: DifferenceLine): DifferenceLine['accrued']['parts'] {
  return [...accrued.parts, ...expense.parts, ...carrying.parts, ...current.parts];
}

/** Why a line differs: its cause in a word, and what is to be said of it; nothing where the word says all. */
export function differenceInWords(
  line: DifferenceLine,
  digits: number,
): { readonly lead: string; readonly rest: string } {
  const cause = differenceCause(line);
  return { lead: leads[cause]?.(line) ?? cause, rest: rests[cause](line, digits) };
}

/** The same as a sentence. */
export function differenceSentence(line: DifferenceLine, digits: number): string {
  const { lead, rest } = differenceInWords(line, digits);
  return rest === '' ? lead : `${lead}: ${rest}`;
}

const amountOf = (line: DifferenceLine, figure: ComparedFigure, ...reasons: DifferenceReason[]): number =>
  line[figure].parts.reduce((sum, { reason, amount }) => (reasons.includes(reason) ? sum + amount : sum), 0);

/** Parts of one reason, by figure: `accrued −1.20, current 300.00`. */
const byFigure = (line: DifferenceLine, reason: DifferenceReason, digits: number): string =>
  (['accrued', 'expense', 'carrying', 'current'] as const)
    .map((figure) => [figure, amountOf(line, figure, reason)] as const)
    .filter(([, amount]) => amount !== 0)
    .map(([figure, amount]) => `${comparedNames[figure].toLowerCase()} ${showMovement(amount, digits)}`)
    .join(', ');

/** What a cause is called where its name does not say it. */
const leads: Readonly<Partial<Record<DifferenceCause, (line: DifferenceLine) => string>>> = {
  'Catch-up': (line) => (amountOf(line, 'expense', 'catch-up') === 0 ? 'Last month put right' : 'Catch-up'),
  Settled: (line) => (partsOf(line).some(({ reason }) => reason === 'withdrawn') ? 'Withdrawn' : 'Settled'),
  Arrears: () => 'In arrears',
  Presentation: () => 'Presented otherwise',
  Threshold: () => 'Too small to book',
  Payment: () => 'Payment made',
  Balance: () => 'Balance owed',
};

const ofBalance =
  (reason: DifferenceReason) =>
  (line: DifferenceLine, digits: number): string => {
    const amount = amountOf(line, 'carrying', reason);
    return amount === 0 ? '' : showAmount(Math.abs(amount), digits);
  };

const rests: Readonly<Record<DifferenceCause, (line: DifferenceLine, digits: number) => string>> = {
  Unexplained: (line, digits) => byFigure(line, 'unexplained', digits),
  'Catch-up': (line, digits) => {
    const amount = amountOf(line, 'expense', 'catch-up');
    const caught =
      amount === 0 ? byFigure(line, 'put-right', digits) : `of closed months ${showMovement(amount, digits)}`;
    return line.rates ? `${caught}; rate ${rates(line)}` : caught;
  },
  New: ({ carrying }, digits) => `${showAmount(carrying.now, digits)} carried`,
  Settled: (line, digits) => {
    const went = -amountOf(line, 'carrying', 'settled', 'withdrawn');
    return went === 0 ? 'last month' : `${showAmount(went, digits)} went`;
  },
  Renewal: (line) => (line.rates ? `rate ${rates(line)}` : ''),
  Rate: (line, digits) => (line.rates ? rates(line) : byFigure(line, 'rate', digits)),
  Drawdown: ofBalance('drawn'),
  Repayment: ofBalance('repaid'),
  'Paid late': ofBalance('paid-late'),
  Arrears: (line, digits) => {
    const unpaid = amountOf(line, 'accrued', 'arrears');
    return unpaid === 0
      ? 'a payment was not made in full'
      : `interest unpaid ${showMovement(unpaid, digits)}`;
  },
  'Paid early': ofBalance('paid-early'),
  'Interest added': ofBalance('added'),
  Presentation: (line, digits) => `current ${showMovement(line.current.change, digits)}`,
  Threshold: (line, digits) => byFigure(line, 'left-out', digits),
  Payment: (line, digits) => {
    const principal = ofBalance('paid')(line, digits);
    const days = daysAgainst(line.expense.over);
    return [principal === '' ? 'interest' : `${principal} of principal`, days].filter(Boolean).join('; ');
  },
  Balance: (line, digits) => byFigure(line, 'balance', digits),
  Days: (line, digits) => daysAgainst(line.expense.over) || byFigure(line, 'days', digits),
};

function rates({ rates: of }: DifferenceLine): string {
  if (!of) return '';
  const [was, is] = of.map((share) => percent(share, 4)) as [string, string];
  return was === is ? of.map((share) => percent(share, 10)).join(' to ') : `${was} to ${is}`;
}

/** The days that interest was worked out over, against those of the month before; nothing where they are as many. */
export function daysAgainst(over: DifferenceLine['expense']['over']): string {
  if (!over) return '';
  const [was, is] = over.map(({ days }) => Math.round(days)) as [number, number];
  return was === is ? '' : `${is} days against ${was}`;
}

function percent(share: number, decimals: number): string {
  return showRate(`${String(Number((share * 100).toFixed(decimals)))}%`);
}

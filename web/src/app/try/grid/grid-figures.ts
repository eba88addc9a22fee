import {
  formatAmount,
  loanOutcome,
  type LoanOutcome,
  type LoanSchedule,
  type MinorUnits,
  parseAmount,
  ratioToNumber,
} from '@coffer/core';
import { showAmount, showDay, showDecimal, showRate } from '@coffer/contract';
import type { GridCell } from '../../figures/grid-model';
import type { TypedAxis } from './axis-values';
import type { TriedCell, VariedTerm } from '../tried';

/** What a cell of a grid can show. */
export type GridFigure = 'payment' | 'interest' | 'payments' | 'last' | 'paid';

export const gridFigures: readonly { readonly key: GridFigure; readonly name: string }[] = [
  { key: 'payment', name: 'Payment' },
  { key: 'interest', name: 'Interest' },
  { key: 'payments', name: 'Number of payments' },
  { key: 'last', name: 'Last payment on' },
  { key: 'paid', name: 'Paid in all' },
];

/** Terms that can be varied, by their name. */
export const termNames: Readonly<Record<VariedTerm, string>> = {
  annual: 'Rate',
  amount: 'Amount',
  payments: 'Payments',
  payment: 'Each payment',
  extraEach: 'Extra each time',
};

/** A value of a varied term as people read it; the one the loan has now is marked. */
export function valueText(schedule: LoanSchedule, term: VariedTerm, value: string): string {
  const text =
    term === 'annual' || term === 'payments' ? showRate(value) : showDecimal(value.replace(/\.0+$/, ''));
  return isNow(schedule, term, value) ? `${text} now` : text;
}

/** Whether a value of a varied term is what the loan has now. */
export function isNow(schedule: LoanSchedule, term: VariedTerm, value: string): boolean {
  const { terms } = schedule;
  const amount = parseAmount(value, terms.digits);
  const outcome = loanOutcome(schedule);
  if (term === 'annual') return value.replace('%', '') === percentOf(schedule);
  if (term === 'payments') return Number(value) === outcome.payments;
  if (term === 'extraEach') return amount === 0;
  return amount === (term === 'amount' ? terms.amount : outcome.payment);
}

/** The rate now in percent, to six decimals. */
function percentOf({ terms }: LoanSchedule): string {
  return String(Math.round(ratioToNumber(terms.annualRate) * 100 * 1e6) / 1e6);
}

/** Least and largest value of a figure over a grid; `undefined` where all are the same. */
export function shadeRange(
  cells: readonly TriedCell[],
  figure: GridFigure,
): readonly [number, number] | undefined {
  const values = cells.flatMap((cell) => (typeof cell === 'string' ? [] : [cell[figure] ?? 0]));
  const [least, largest] = [Math.min(...values), Math.max(...values)];
  return values.length > 1 && largest > least ? [least, largest] : undefined;
}

function figureText(cell: Exclude<TriedCell, string>, figure: GridFigure, digits: number): string {
  if (figure === 'last') return showDay(cell.last);
  if (figure === 'payments') return String(cell.payments);
  return showAmount(cell[figure] ?? 0, digits);
}

/** A cell: its figure, shaded from the least to the largest; a dash with the reason where the pair cannot be. */
export function gridCell(
  cell: TriedCell | undefined,
  figure: GridFigure,
  range: readonly [number, number] | undefined,
  digits: number,
): GridCell {
  if (cell === undefined) return { text: '' };
  if (typeof cell === 'string') return { text: '–', tip: cell };
  const value = cell[figure];
  if (value === undefined) return { text: 'varies' };
  const text = figureText(cell, figure, digits);
  return { text, ...(range && { shade: (value - range[0]) / (range[1] - range[0]) }) };
}

/** A cell of differences: how much more, or less, with a sign; days between the last payments. */
export function differenceCell(
  cell: TriedCell | undefined,
  figure: GridFigure,
  range: readonly [number, number] | undefined,
  digits: number,
): GridCell {
  const plain = gridCell(cell, figure, range, digits);
  const value = typeof cell === 'object' ? cell[figure] : undefined;
  if (value === undefined) return plain;
  const size =
    figure === 'last'
      ? `${Math.abs(value)} ${Math.abs(value) === 1 ? 'day' : 'days'}`
      : figure === 'payments'
        ? String(Math.abs(value))
        : showAmount(Math.abs(value), digits);
  return { ...plain, text: value === 0 ? 'same' : `${value > 0 ? '+' : '−'}${size}` };
}

/** Ranges to begin with: the terms as they are in the middle, three steps to each side. */
export function firstAxes(
  schedule: LoanSchedule,
  down: VariedTerm = 'annual',
): { readonly down: TypedAxis; readonly across: TypedAxis } {
  return { down: axisAround(schedule, down), across: axisAround(schedule, 'amount') };
}

const sides = 3;

function axisAround(schedule: LoanSchedule, term: VariedTerm): TypedAxis {
  const { terms } = schedule;
  const outcome = loanOutcome(schedule);
  if (term === 'annual') {
    const steps = (count: number): number =>
      Math.max(0, Math.round((Number(percentOf(schedule)) + 0.25 * count) * 1e6) / 1e6);
    return { term, from: String(steps(-sides)), to: String(steps(sides)), by: '0.25' };
  }
  if (term === 'payments')
    return around(term, outcome.payments, Math.max(1, Math.round(outcome.payments / 10)), String);
  const money = (minor: MinorUnits): string =>
    showDecimal(formatAmount(minor, terms.digits)).replace(/\.0+$/, '');
  if (term === 'extraEach') {
    const step = roundStep((outcome.payment ?? terms.amount / 100) / 20);
    return { term, from: '0', to: money(step * 2 * sides), by: money(step) };
  }
  const middle = term === 'amount' ? terms.amount : payoffPayment(outcome);
  return around(term, middle, roundStep(middle / 20), money);
}

function payoffPayment({ payment, paid, payments }: LoanOutcome): number {
  return payment ?? Math.round(paid / Math.max(1, payments));
}

function around(term: VariedTerm, middle: number, step: number, text: (value: number) => string): TypedAxis {
  const from = Math.max(step, middle - sides * step);
  return { term, from: text(from), to: text(from + 2 * sides * step), by: text(step) };
}

/** One, two or five times a power of ten, the nearest below. */
function roundStep(value: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, value)));
  const factor = [5, 2, 1].find((candidate) => candidate * power <= value) ?? 1;
  return factor * power;
}

import { monthsBetween, type LoanOutcome } from '@coffer/core';
import { showAmount, showDay } from '@coffer/contract';
import type { Tried } from './tried';

/** A line of the comparison: its name, then a text for each column. */
export interface ComparedLine {
  readonly name: string;
  readonly texts: readonly string[];
  /** Interest is what the eye should fall on; differences stand apart from what they differ in. */
  readonly tone?: 'interest' | 'difference';
}

const nothing = '–';

/** Lines for the original and its variants; a variant that cannot be has dashes. */
export function comparedLines(
  original: LoanOutcome,
  tried: readonly (Tried | undefined)[],
  digits: number,
): ComparedLine[] {
  const outcomes = [original, ...tried.map((each) => (each?.ok ? each.outcome : undefined))];
  const line = (
    name: string,
    text: (outcome: LoanOutcome) => string,
    tone?: ComparedLine['tone'],
  ): ComparedLine => ({
    name,
    texts: outcomes.map((outcome) => (outcome ? text(outcome) : nothing)),
    ...(tone && { tone }),
  });
  const money = (minor: number): string => showAmount(minor, digits);
  const difference = (name: string, text: (outcome: LoanOutcome) => string): ComparedLine => {
    const made = line(name, text, 'difference');
    return { ...made, texts: ['', ...made.texts.slice(1)] };
  };
  return [
    line('Payment', ({ payment }) => (payment === undefined ? 'varies' : money(payment))),
    line('Payments', ({ payments }) => String(payments)),
    line('Last on', ({ last }) => showDay(last)),
    line('Interest', ({ interest }) => money(interest), 'interest'),
    line('Paid in all', ({ paid }) => money(paid)),
    ...(outcomes.some((outcome) => outcome && outcome.left > 0)
      ? [line('Left at the end', ({ left }) => money(left))]
      : []),
    difference('Interest differs by', ({ interest }) => signed(interest - original.interest, money)),
    difference('Payment differs by', ({ payment }) =>
      payment === undefined || original.payment === undefined
        ? nothing
        : signed(payment - original.payment, money),
    ),
    difference('Ends', ({ last }) => sooner(monthsBetween(original.last, last), last - original.last)),
  ];
}

function signed(minor: number, money: (minor: number) => string): string {
  if (minor === 0) return 'nothing';
  return `${money(Math.abs(minor))} ${minor < 0 ? 'less' : 'more'}`;
}

function sooner(months: number, days: number): string {
  if (days === 0) return 'the same day';
  const count = Math.abs(months);
  const text = count === 0 ? `${Math.abs(days)} days` : `${count} ${count === 1 ? 'month' : 'months'}`;
  return `${text} ${days < 0 ? 'sooner' : 'later'}`;
}

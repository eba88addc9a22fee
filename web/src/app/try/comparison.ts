import type { LoanOutcome, MinorUnits } from '@coffer/core';
import { showAmount, showDay } from '@coffer/contract';
import { lessOrMore, soonerOrLater } from '../scenarios/differences';
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
  const money = (minor: MinorUnits): string => showAmount(minor, digits);
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
    difference('Interest differs by', ({ interest }) => lessOrMore(interest - original.interest, money)),
    difference('Payment differs by', ({ payment }) =>
      payment === undefined || original.payment === undefined
        ? nothing
        : lessOrMore(payment - original.payment, money),
    ),
    difference('Ends', ({ last }) => soonerOrLater(original.last, last)),
  ];
}

import type { LoanSchedule, Stretch } from '@coffer/core';

/** The days that a stretch takes up. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** The days that a stretch takes up, and how many of its payments are made. */
export interface StretchSpan extends Span {
  readonly payments: number;
}

/** The days that a renewed term takes up, and the day of the renewal. */
export interface RenewedSpan extends StretchSpan {
  readonly on: number;
}

/** Where the stretches of a loan lie in time, and the terms that follow them by renewal. */
export interface LifeSpans {
  readonly spans: readonly StretchSpan[];
  readonly renewals: readonly RenewedSpan[];
}

/** Where the stretches of a schedule lie in time; none goes on after the loan is cleared. */
export function stretchSpans({ stretches, closing, date, length }: LoanSchedule): LifeSpans {
  const cleared = length > 0 && closing[length - 1] === 0 ? (date[length - 1] as number) : Infinity;
  const spanOf = ({ opens, count, interestDays }: Stretch): StretchSpan => {
    const to = Math.min(cleared, interestDays[count - 1] as number);
    const payments = Array.from({ length: count }, (_, at) => interestDays[at] as number);
    return { from: Math.min(opens, to), to, payments: payments.filter((day) => day <= cleared).length };
  };
  return {
    spans: stretches.filter(({ renewal }) => !renewal).map(spanOf),
    renewals: stretches.flatMap((stretch) =>
      stretch.renewal ? [{ ...spanOf(stretch), on: stretch.renewal.on }] : [],
    ),
  };
}

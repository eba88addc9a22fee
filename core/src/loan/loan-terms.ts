import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { DayCountName } from '../calendar/day-counts/day-counts.ts';
import type { Frequency } from '../calendar/frequency.ts';
import type { Ratio } from '../money/ratio.ts';
import type { Ties } from '../money/round-ratio.ts';

/** Most payments that one loan may have. */
export const mostPayments = 1200;

/**
 * A stretch of payments of one kind. Amounts in minor units.
 * - `level`: one payment amount of interest and principal; unless given, the amount that makes the balance
 *   zero after `amortizeOver` payments.
 * - `fixed`: a given amount, for `count` payments or until the loan is cleared.
 * - `interest-only`: each period's interest, the balance left as it is.
 */
export type Phase =
  | {
      readonly type: 'level';
      readonly count: number;
      readonly amortizeOver: number;
      readonly payment?: number;
    }
  | { readonly type: 'fixed'; readonly payment: number; readonly count?: number }
  | { readonly type: 'interest-only'; readonly count: number };

/** Where and how amounts are rounded; `unit` is a whole currency unit. */
export interface LoanRounding {
  readonly interest: 'cent' | 'unit';
  readonly payment: 'cent' | 'cent-up' | 'unit';
  readonly ties: Ties;
}

/** A payment of principal beyond the schedule, on one day; the term shortens. */
export interface ExtraOnce {
  readonly on: CalendarDay;
  readonly amount: number;
}

/** The same with every payment from one day to another, both included. */
export interface ExtraEachPayment {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  readonly amount: number;
}

/** What was in fact paid for the payment due on `due`: when and how much. Zero for a missed payment. */
export interface RecordedPayment {
  readonly due: CalendarDay;
  readonly on: CalendarDay;
  readonly amount: number;
}

/** Everything a loan's schedule is computed from. Amounts in minor units of the currency. */
export interface LoanTerms {
  readonly kind: 'loan';
  readonly currency: string;
  /** Decimals of the currency's minor unit. */
  readonly digits: number;
  readonly amount: number;
  readonly start: CalendarDay;
  /** Annual rate as a fraction. */
  readonly annualRate: Ratio;
  readonly compounding: 'each-payment';
  readonly dayCount: DayCountName;
  readonly every: Frequency;
  /** Due date of the first payment. */
  readonly first: CalendarDay;
  readonly keepMonthEnd: boolean;
  readonly phases: readonly Phase[];
  readonly rounding: LoanRounding;
  /** What was paid for the thing bought, where the loan financed a purchase; the rest was paid down. */
  readonly purchase?: { readonly price: number; readonly downPayment: number };
  readonly extrasOnce: readonly ExtraOnce[];
  readonly extrasEachPayment: readonly ExtraEachPayment[];
  readonly recorded: readonly RecordedPayment[];
}

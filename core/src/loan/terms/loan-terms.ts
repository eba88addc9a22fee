import type {
  BusinessCalendar,
  BusinessDayRule,
  ClosedDays,
} from '../../calendar/business-days/business-days.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { DayCountName } from '../../calendar/day-counts/day-counts.ts';
import type { Frequency } from '../../calendar/frequency.ts';
import type { Ratio } from '../../money/ratio.ts';
import type { Ties } from '../../money/round-ratio.ts';
import type { Compounding } from '../../rates/compounding.ts';
import type { RateIndex } from '../../rates/rate-index.ts';
import type { RateStep } from '../../rates/rate-timeline.ts';
import type { Rise } from '../payment/rise.ts';
import type { LoanEvent } from './loan-events.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** Most payments that one loan may have. */
export const mostPayments = 1200;

/**
 * One payment amount of interest and principal; unless given, what makes the balance zero in `amortizeOver`, or
 * leaves the balloon after `count`.
 */
export interface LevelPhase {
  readonly type: 'level';
  readonly count: Count;
  readonly amortizeOver: Count;
  readonly payment?: MinorUnits;
  /** The balance agreed to be left after the last payment of the stretch: due with it, or for what follows. */
  readonly balloon?: MinorUnits;
}

/** A given amount, for `count` payments or until the loan is cleared. */
export interface FixedPhase {
  readonly type: 'fixed';
  readonly payment: MinorUnits;
  /** By how much it rises each year after the first payment of the stretch. */
  readonly rises?: Rise;
  readonly count?: Count;
}

/** The same principal each time with the period's interest; unless given, the balance in `count` parts. */
export interface EqualPrincipalPhase {
  readonly type: 'equal-principal';
  readonly count: Count;
  readonly principal?: MinorUnits;
}

/** Each period's interest, the balance left as it is. */
export interface InterestOnlyPhase {
  readonly type: 'interest-only';
  readonly count: Count;
}

/** Nothing is paid: interest joins the balance each period, or is kept apart and added or paid at the end. */
export interface NoPaymentPhase {
  readonly type: 'no-payment';
  readonly count: Count;
  readonly interest: 'added-each-period' | 'kept-apart';
  readonly then: 'add-to-balance' | 'pay';
}

/** Listed payments on listed days. */
export interface CustomPhase {
  readonly type: 'custom';
  readonly payments: readonly { readonly on: CalendarDay; readonly amount: MinorUnits }[];
}

/** A stretch of payments of one kind. Amounts in minor units. */
export type Phase =
  LevelPhase | FixedPhase | EqualPrincipalPhase | InterestOnlyPhase | NoPaymentPhase | CustomPhase;

/**
 * How many payments a phase has; `undefined` where they go on until the loan is cleared.
 *
 * @example
 * phaseCount(level(12)) // 12
 */
export function phaseCount(phase: Phase): Count | undefined {
  return phase.type === 'custom' ? phase.payments.length : phase.count;
}

/** Where and how amounts are rounded; `unit` is a whole currency unit, `none` keeps full precision. */
export interface LoanRounding {
  readonly interest: 'cent' | 'unit' | 'none';
  readonly payment: 'cent' | 'cent-up' | 'unit' | 'none';
  readonly ties: Ties;
}

/** How due dates that are not business days move, and whether interest moves with them. */
export interface BusinessDayTerms {
  readonly rule: BusinessDayRule;
  readonly calendar: BusinessCalendar;
  /** Days that are closed besides. */
  readonly closed?: ClosedDays;
  readonly accrual: 'moved' | 'unmoved';
}

/** Costs of obtaining the loan, minor units, and how they are amortized. */
export interface IssueCosts {
  readonly amount: MinorUnits;
  readonly method: 'effective' | 'straight-line';
}

/** What makes a loan a credit line: a limit that draws stay within, and a fee on what is not drawn. */
export interface CreditLineTerms {
  readonly limit: MinorUnits;
  /** Annual rate of the fee on the unused part, as a fraction. */
  readonly unusedFee: Ratio;
}

/** Everything a loan's schedule is computed from. Amounts in minor units of the currency. */
export interface LoanTerms {
  readonly kind: 'loan' | 'credit-line';
  readonly currency: string;
  /** Decimals of the currency's minor unit. */
  readonly digits: Count;
  /** Borrowed, or (taken on in mid-life) outstanding at the start. Zero for a credit line. */
  readonly amount: MinorUnits;
  readonly start: CalendarDay;
  /** Annual rate at the start, as a fraction. */
  readonly annualRate: Ratio;
  readonly rateSteps: readonly RateStep[];
  readonly index?: RateIndex;
  readonly compounding: Compounding;
  readonly dayCount: DayCountName;
  readonly every: Frequency;
  /** Due date of the first payment; the start itself where payments are due in advance. */
  readonly first: CalendarDay;
  /** Due date of the last payment where it is not a regular one. */
  readonly last?: CalendarDay;
  readonly due: 'end' | 'start';
  readonly keepMonthEnd: boolean;
  readonly businessDays?: BusinessDayTerms;
  readonly phases: readonly Phase[];
  /** Whether what is left at the end of the phases is paid with the last payment or left for renewal. */
  readonly atEnd: 'pay' | 'leave';
  readonly rounding: LoanRounding;
  /** What was paid for the thing bought, where the loan financed a purchase; the rest was paid down. */
  readonly purchase?: { readonly price: MinorUnits; readonly downPayment: MinorUnits };
  /** A loan taken on in mid-life: interest that had accrued at the start and falls due with the first payment. */
  readonly takenOn?: { readonly accruedInterest: MinorUnits };
  readonly issueCosts?: IssueCosts;
  readonly creditLine?: CreditLineTerms;
  readonly events: readonly LoanEvent[];
  /** What was unknown and has been solved, with its value unrounded; empty where scheduling solves it. */
  readonly solved?: {
    readonly unknown: 'amount' | 'annual' | 'payment' | 'count';
    readonly value: string;
    /** What the payments would leave at a rate that was solved, currency units; how near to nothing it came. */
    readonly residual?: string;
    /** Places of the phases that one payment was solved for. */
    readonly phases?: readonly number[];
  };
}

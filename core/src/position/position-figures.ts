import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { MinorUnits } from '../units/units.ts';

/** What an instrument stands at on a day, at the end of that day. Amounts in minor units, all positive. */
export interface Position {
  readonly on: CalendarDay;
  /** Principal of a loan, face of a bond. */
  readonly outstanding: MinorUnits;
  /** Interest or coupon since the last row, not yet due. */
  readonly accruedInterest: MinorUnits;
  /** Fee on the unused part of a credit line since the last bill, not yet due. */
  readonly accruedFee: MinorUnits;
  /** Interest (of a credit line fees too) that fell due and was not paid, or was kept apart by agreement. */
  readonly unpaidInterest: MinorUnits;
  /** Of that what was kept apart by agreement, and is not due yet. */
  readonly deferredInterest: MinorUnits;
  readonly unamortizedDiscount: MinorUnits;
  readonly unamortizedPremium: MinorUnits;
  readonly unamortizedIssueCosts: MinorUnits;
  /** Costs of a credit line not yet amortized: an asset, no part of what is carried (ASC 835-30-S45-1). */
  readonly deferredCosts: MinorUnits;
  /** Paid to the lender beyond all that was owed, and not come back: an asset, no part of what is carried. */
  readonly overpaid: MinorUnits;
  /** Outstanding less discount and costs, plus premium (IFRS 9 Appendix A, amortised cost). */
  readonly carrying: MinorUnits;
  /** Due within twelve months of the day (IAS 1.69; ASC 470-10-45). */
  readonly current: MinorUnits;
  readonly nonCurrent: MinorUnits;
  readonly next: { readonly due: CalendarDay; readonly payment: MinorUnits } | null;
}

/** The figures of a position. */
export type PositionFigure = Exclude<keyof Position, 'on' | 'next'>;

/**
 * The figures in the order they are told, by what they are called: what is published, explained and kept of a closed
 * month is made of this list.
 */
export const positionFigures = {
  outstanding: 'Outstanding',
  accruedInterest: 'Accrued interest',
  accruedFee: 'Accrued fee',
  unpaidInterest: 'Interest unpaid or deferred',
  deferredInterest: 'of it deferred',
  unamortizedDiscount: 'Unamortized discount',
  unamortizedPremium: 'Unamortized premium',
  unamortizedIssueCosts: 'Unamortized issue costs',
  deferredCosts: 'Deferred costs',
  overpaid: 'Overpaid',
  carrying: 'Carrying amount',
  current: 'Current portion',
  nonCurrent: 'Non-current',
} as const satisfies Readonly<Record<PositionFigure, string>>;

/** Their names in code, in that order. */
export const positionFigureKeys = Object.keys(positionFigures) as [PositionFigure, ...PositionFigure[]];

import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { DayCountName } from '../calendar/day-counts/day-counts.ts';
import type { Frequency } from '../calendar/frequency.ts';
import type { Ratio } from '../money/ratio.ts';
import type { Ties } from '../money/round-ratio.ts';
import type { Compounding } from '../rates/compounding.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** The same deposit each time: its amount, how many, or both; what is left open is worked out from the goal. */
export interface LevelDeposits {
  readonly type: 'level';
  /** Minor units. */
  readonly amount?: MinorUnits;
  readonly count?: Count;
}

/** Deposits of their own days and amounts, in order of days. */
export interface ListedDeposits {
  readonly type: 'listed';
  readonly list: readonly { readonly on: CalendarDay; readonly amount: MinorUnits }[];
}

/** What was paid in for the deposit agreed for a day: when and how much. Zero for a missed one. */
export interface MadeDeposit {
  readonly due: CalendarDay;
  readonly on: CalendarDay;
  readonly amount: MinorUnits;
}

/** Where a fund's amounts are rounded; `none` keeps full precision, as loans do. */
export interface FundRounding {
  readonly interest: 'cent' | 'unit' | 'none';
  readonly deposit: 'cent' | 'cent-up' | 'unit' | 'none';
  readonly ties: Ties;
}

/** A sinking fund: deposits that earn interest until they repay a debt. Amounts in minor units of the currency. */
export interface FundTerms {
  readonly kind: 'fund';
  readonly currency: string;
  readonly digits: Count;
  /** What the fund is to hold with its last deposit; none where it is what the deposits come to. */
  readonly goal?: MinorUnits;
  readonly annualRate: Ratio;
  readonly compounding: Compounding;
  readonly dayCount: DayCountName;
  readonly every: Frequency;
  /** Day of the first deposit. */
  readonly first: CalendarDay;
  readonly keepMonthEnd: boolean;
  readonly deposits: LevelDeposits | ListedDeposits;
  /** What the fund holds already on a day before the first deposit. */
  readonly opening?: { readonly on: CalendarDay; readonly amount: MinorUnits };
  readonly rounding: FundRounding;
  /** Deposits as they were made; the others are made as agreed. */
  readonly made?: readonly MadeDeposit[];
  /** Name of the instrument that the fund repays. */
  readonly repays?: string;
}

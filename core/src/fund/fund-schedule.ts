import { minorOf } from '../money/rounding.ts';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { InterestPeriod } from '../calendar/interest-period.ts';
import { type FundTerms } from './fund-terms.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** Amounts of a row as they are computed with, in grains. */
export interface ExactFundRow {
  readonly opening: bigint;
  readonly interest: bigint;
  readonly deposit: bigint;
  readonly closing: bigint;
  readonly earning: bigint;
}

/**
 * One deposit, with the interest earned since the one before. Amounts in minor units, rounded for showing where nothing
 * is rounded.
 */
export interface FundRow {
  readonly n: Count;
  /** The day it is made: as agreed, or as recorded. */
  readonly due: CalendarDay;
  /** The day it was agreed for. */
  readonly agreed: CalendarDay;
  readonly opening: MinorUnits;
  readonly interest: MinorUnits;
  readonly deposit: MinorUnits;
  readonly closing: MinorUnits;
  /** What the interest was worked out on: the opening balance, or what was paid in where interest earns none. */
  readonly earning: MinorUnits;
  readonly exact: ExactFundRow;
  readonly period: InterestPeriod;
}

/** What did not go as the terms say. */
export type FundNotice =
  | { readonly kind: 'short'; readonly on: CalendarDay; readonly amount: MinorUnits }
  | { readonly kind: 'reached-early'; readonly on: CalendarDay; readonly deposits: Count }
  | { readonly kind: 'passed-by-interest'; readonly on: CalendarDay; readonly amount: MinorUnits };

/** The schedule of a sinking fund. */
export interface FundSchedule {
  readonly kind: 'fund';
  readonly terms: FundTerms;
  readonly rows: readonly FundRow[];
  /** The level deposit, minor units; `null` for listed ones. */
  readonly deposit: MinorUnits | null;
  /** What was left open, and its value unrounded. */
  readonly solved?: { readonly unknown: 'deposit' | 'count' | 'goal'; readonly value: string };
  /** The day the fund holds its goal; `undefined` where it falls short. */
  readonly reached: CalendarDay | undefined;
  readonly notices: readonly FundNotice[];
}

/**
 * Sum of a column of a fund's rows, minor units; unrounded amounts are summed, and the sum is rounded.
 *
 * @example
 * fundTotal(fund, 'deposit') // 758_680
 */
export function fundTotal(
  { rows, terms }: Pick<FundSchedule, 'rows' | 'terms'>,
  column: 'interest' | 'deposit',
): number {
  return minorOf(
    terms,
    rows.reduce((sum, { exact }) => sum + exact[column], 0n),
  );
}

/** What the books carry of a row, minor units: the fund's growth as shown, its deposit, and the interest between. */
export function bookedFundRow(
  { terms, rows }: FundSchedule,
  index: Count,
): { readonly deposit: MinorUnits; readonly interest: MinorUnits } {
  const paidIn = (through: number): number => fundTotal({ terms, rows: rows.slice(0, through) }, 'deposit');
  const deposit = paidIn(index + 1) - paidIn(index);
  const { opening, closing } = rows[index] as FundRow;
  return { deposit, interest: closing - opening - deposit };
}

/**
 * What a fund holds when it ends and is paid out.
 *
 * @example
 * fundHeld(fund) // 1_000_000
 */
export function fundHeld({ rows, terms }: FundSchedule): MinorUnits {
  return rows.at(-1)?.closing ?? terms.opening?.amount ?? 0;
}

/**
 * The day a fund ends and is paid out: that of its last deposit.
 *
 * @example
 * formatDay(fundEnd(fund)) // '2034-01-31'
 */
export function fundEnd({ rows, terms }: FundSchedule): CalendarDay {
  return rows.at(-1)?.due ?? terms.first;
}

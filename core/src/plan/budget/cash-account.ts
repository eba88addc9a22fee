import { addMonths, calendarFields, monthEnd, type CalendarDay } from '../../calendar/calendar-day.ts';
import type { MinorUnits } from '../../units/units.ts';
import type { DatedAmount } from '../present-value.ts';

/** A month of a budget. Minor units. */
export interface CashMonth {
  /** Its last day. */
  readonly month: CalendarDay;
  readonly paid: MinorUnits;
  /** What is there at its end: what came in until then less what was paid; below zero where that is more. */
  readonly cash: MinorUnits;
}

/** The first month that asks for more than is there. Minor units. */
export interface Shortage {
  /** Its last day. */
  readonly month: CalendarDay;
  readonly missing: MinorUnits;
}

/** Months counted on, so that the one after has the next number. */
export function monthNumber(day: CalendarDay): number {
  const { year, month } = calendarFields(day);
  return 12 * year + month;
}

/** What is paid in each month from the one after a day. Minor units. */
export function paidByMonth(payments: readonly DatedAmount[], on: CalendarDay): MinorUnits[] {
  const first = monthNumber(on + 1);
  const sums: MinorUnits[] = [];
  for (const { on: day, amount } of payments) {
    if (amount === 0) continue;
    const at = monthNumber(day) - first;
    while (sums.length <= at) sums.push(0);
    sums[at] = (sums[at] as number) + amount;
  }
  return sums;
}

/**
 * A budget as a cash account: it comes in at the beginning of each month, the one of the day after the plan's day being the
 * first, and pays what is paid in it.
 */
export function cashMonths(
  payments: readonly DatedAmount[],
  on: CalendarDay,
  monthly: MinorUnits,
): CashMonth[] {
  const first = monthEnd(on + 1);
  let cash = 0;
  return paidByMonth(payments, on).map((paid, at) => {
    cash += monthly - paid;
    return { month: addMonths(first, at, true), paid, cash };
  });
}

/** The first month in which a cash account goes below zero. */
export function shortageIn(months: readonly CashMonth[]): Shortage | undefined {
  const short = months.find(({ cash }) => cash < 0);
  return short && { month: short.month, missing: -short.cash };
}

/** The least budget that pays so much in each month, minor units. */
export function leastBudget(paid: readonly MinorUnits[]): MinorUnits {
  let [sum, least] = [0, 0];
  paid.forEach((amount, at) => {
    sum += amount;
    least = Math.max(least, Math.ceil(sum / (at + 1)));
  });
  return least;
}

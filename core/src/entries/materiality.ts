import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { AnySchedule } from '../kinds/schedules.ts';
import { accrualEntry } from './entries.ts';
import type { Entry } from './entry.ts';
import type { MinorUnits } from '../units/units.ts';

/**
 * From what amount on accruals matter (IAS 1.7 and 1.31: what is immaterial need not be treated as a standard asks).
 * Minor units; zero leaves nothing out.
 */
export interface Materiality {
  /** An accrual of this or more is booked. */
  readonly each: MinorUnits;
  /** What is left out of a month altogether is never more. */
  readonly sum: MinorUnits;
}

/** An accrual that is small by itself. */
export interface SmallAccrual {
  /** Its entry, which is not posted where it is left out. */
  readonly accrual: Entry;
  /** What the entry comes to on each side; minor units. */
  readonly amount: MinorUnits;
}

/**
 * The accrual of a period end where it is below what matters; undefined where it is not, or nothing accrues.
 *
 * @example
 * smallAccrual(loan, day('2025-01-31'), { each: 2_000, sum: 5_000 }).amount // 968
 */
export function smallAccrual(
  schedule: AnySchedule,
  end: CalendarDay,
  { each }: Materiality,
): SmallAccrual | undefined {
  const accrual = each > 0 ? accrualEntry(schedule, end) : undefined;
  if (!accrual) return undefined;
  const amount = accrual.lines.reduce((sum, { debit }) => sum + debit, 0);
  return amount < each ? { accrual, amount } : undefined;
}

/**
 * Which of a month's small accruals are left out: from the smallest on, as many as together stay within the sum. The rest
 * are booked after all.
 *
 * @example
 * leftOutOf([{ id: 'a', amount: 35 }, { id: 'b', amount: 41 }], { each: 50, sum: 60 }).map(({ id }) => id) // [ 'a' ]
 */
export function leftOutOf<Small extends { readonly id: string; readonly amount: MinorUnits }>(
  small: readonly Small[],
  { sum }: Materiality,
): Small[] {
  const bySize = [...small].sort((one, other) => one.amount - other.amount || (one.id < other.id ? -1 : 1));
  let left = 0;
  const within = bySize.findIndex(({ amount }) => (left += amount) > sum);
  return within < 0 ? bySize : bySize.slice(0, within);
}

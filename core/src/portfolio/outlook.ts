import { addMonths, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { flowsOf } from './flows-of.ts';
import { portfolioValues } from './portfolio.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** What is to come of a debt after a day, to its end. Amounts in minor units. */
export interface Outlook {
  /** Interest paid after the day. */
  readonly interest: MinorUnits;
  /** What is paid in each of the twelve months after the day. */
  readonly months: readonly MinorUnits[];
  /** What is owed when they are over. */
  readonly owedAfter: MinorUnits;
  /** The last day on which something is paid. */
  readonly ends: CalendarDay;
  /** What is owed still after that day. */
  readonly left: MinorUnits;
}

/**
 * What is to come after a day; months are those of the calendar where the day ends one.
 *
 * @example
 * outlook(loan, day('2025-06-30')).interest // 2_415
 */
export function outlook(schedule: Schedule, on: CalendarDay): Outlook {
  const after = flowsOf(schedule).filter((flow) => flow.on > on);
  const through = addMonths(on, 12, on === monthEnd(on));
  const ends = debtKindOf(schedule).lastDay(schedule);
  return {
    interest: after.reduce((sum, { interest }) => sum + interest, 0),
    months: portfolioValues(schedule, monthsAfter(on, 12), 'payment'),
    owedAfter: debtKindOf(schedule).owed(schedule, through),
    ends,
    left: debtKindOf(schedule).owed(schedule, ends),
  };
}

/** Some months after a day. */
function monthsAfter(on: CalendarDay, count: number): { from: CalendarDay; to: CalendarDay }[] {
  const keep = on === monthEnd(on);
  return Array.from({ length: count }, (_, at) => ({
    from: addMonths(on, at, keep) + 1,
    to: addMonths(on, at + 1, keep),
  }));
}

/**
 * What is owed on a day and at the end of each month after it through the last payment, minor units.
 *
 * @example
 * owedToTheEnd(loan, day('2025-09-30')) // [ 34_668, 26_130, 17_506, 8_796, 0 ]
 */
export function owedToTheEnd(schedule: Schedule, on: CalendarDay, everyMonths: Count = 1): MinorUnits[] {
  const kind = debtKindOf(schedule);
  const owed = [kind.owed(schedule, on)];
  const ends = kind.lastDay(schedule);
  const keep = on === monthEnd(on);
  for (let months = everyMonths, day = on; day < ends; months += everyMonths) {
    day = addMonths(on, months, keep);
    owed.push(kind.owed(schedule, day));
  }
  return owed;
}

import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import type { MinorUnits } from '../../units/units.ts';

/** What a due date asks for beyond what was paid for it. */
export interface LeftOfDue {
  readonly due: CalendarDay;
  /** Interest that is unpaid and principal in arrears; minor units, above zero. */
  readonly left: MinorUnits;
}

/** What the rows of a due date leave of it: interest that is unpaid and principal in arrears by them. Minor units. */
export function leftOfDue(schedule: LoanSchedule, due: CalendarDay): MinorUnits {
  let left = 0;
  for (let row = 0; row < schedule.length; row += 1) {
    if (schedule.due[row] === due) left += owingAfter(schedule, row) - owingAfter(schedule, row - 1);
  }
  return left;
}

/**
 * The due dates to the end of a day that were not paid in full, the oldest first. What is paid beyond a payment makes
 * up for the oldest arrears first (common practice), so what is left in all belongs to the latest that were short.
 *
 * @example
 * dueInArrears(loan, day('2025-06-30')) // []
 */
export function dueInArrears(schedule: LoanSchedule, on: CalendarDay): LeftOfDue[] {
  const last = lastRowOn(schedule.date, schedule.length, on);
  let owing = owingAfter(schedule, last);
  if (owing <= 0) return [];
  const short = new Map<CalendarDay, number>();
  for (let row = 0; row <= last; row += 1) {
    const change = owingAfter(schedule, row) - owingAfter(schedule, row - 1);
    const due = schedule.due[row] as number;
    if (change !== 0) short.set(due, (short.get(due) ?? 0) + change);
  }
  const found: LeftOfDue[] = [];
  for (const [due, missing] of [...short].sort(([one], [other]) => other - one)) {
    const left = Math.min(missing, owing);
    if (left <= 0) continue;
    found.push({ due, left });
    owing -= left;
  }
  return found.reverse();
}

/** Interest unpaid, without what was agreed to be deferred, and principal in arrears after a row. */
function owingAfter({ unpaid, deferred, principalInArrears }: LoanSchedule, row: number): MinorUnits {
  if (row < 0) return 0;
  return (unpaid[row] as number) - (deferred[row] as number) + (principalInArrears[row] as number);
}

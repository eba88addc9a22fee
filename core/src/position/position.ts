import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { bondPosition } from './bond-position.ts';
import { loanPosition } from './loan-position.ts';
import type { Position } from './position-figures.ts';

/** The position of an instrument on a day; all zero before it begins and after it is settled. */
export function position(schedule: Schedule, on: CalendarDay): Position {
  return schedule.kind === 'loan' ? loanPosition(schedule, on) : bondPosition(schedule, on);
}

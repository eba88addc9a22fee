import type { AnySchedule, CalendarDay, Schedule } from '@coffer/core';
import type { PublishedPosition } from '../kinds/document-kind.ts';
import { anyDocumentKindOf } from '../kinds/document-kinds.ts';
import type { PublishedSchedule } from './published-schedule.ts';
import type { RowRange } from './row-range.ts';

/**
 * A schedule in the published form: amounts as strings with the currency's decimals.
 *
 * @param debt what a fund repays, to tell what is owed beside it
 */
export function scheduleJson(schedule: AnySchedule, range?: RowRange, debt?: Schedule): PublishedSchedule {
  return anyDocumentKindOf(schedule).json(schedule, range, debt);
}

/** The position on a day in the published form. */
export function positionJson(schedule: AnySchedule, on: CalendarDay, debt?: Schedule): PublishedPosition {
  return anyDocumentKindOf(schedule).positionJson(schedule, on, debt);
}

import type { AnySchedule } from '@coffer/core';
import { anyDocumentKindOf } from '../kinds/document-kinds.ts';
import { rowWords } from '../words/row-words.ts';
import type { PublishedSchedule } from './published-schedule.ts';
import type { PublishedRow, TableColumn } from './schedule-column.ts';
import { scheduleJson } from './schedule-json.ts';

/** A schedule as a table, in plain data: the columns that say something, the rows, the totals of columns that have one. */
export interface ScheduleTable {
  readonly columns: readonly TableColumn[];
  readonly rows: readonly PublishedRow[];
  readonly totals: PublishedSchedule['totals'];
}

/** What the columns of a schedule are called, wherever they stand, by their keys. */
export function columnTitles(schedule: AnySchedule): Readonly<Record<string, string>> {
  const columns = anyDocumentKindOf(schedule).columns(schedule);
  return Object.fromEntries(columns.map(({ key, title }) => [key, title]));
}

/** A schedule as a table for paper and workbooks. */
export function scheduleTable(schedule: AnySchedule): ScheduleTable {
  const { rows: published, totals } = scheduleJson(schedule);
  const rows = published.map((row): PublishedRow =>
    row['event'] === undefined ? row : { ...row, event: rowWords(row['event']) },
  );
  const says = ({ key, type }: TableColumn): boolean =>
    rows.some((row) => row[key] !== undefined && (type !== 'amount' || Number(row[key]) !== 0));
  const columns = anyDocumentKindOf(schedule)
    .columns(schedule)
    .filter((column) => column.always === true || says(column))
    .map(({ key, title, type }): TableColumn => ({ key, title, type }));
  return { columns, rows, totals };
}

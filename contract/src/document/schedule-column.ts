import type { PublishedCell, PublishedRow } from './published-schedule.ts';

/** A column as a table shows it. */
export interface TableColumn {
  readonly key: string;
  readonly title: string;
  readonly type: 'count' | 'day' | 'text' | 'amount';
  /** It stands in a table with nothing in it, too. */
  readonly always?: true;
}

/** A column of a schedule: what it is called, what it holds, and what stands in it for a row. */
export interface ScheduleColumn<Row> extends TableColumn {
  /** Left out of the published row where it is undefined. */
  value(row: Row): PublishedCell | undefined;
  /** On paper it stands before this column; published, where it is listed. Never on paper where null. */
  readonly before?: string | null;
}

/** A row in its published form: its columns in order. */
export function publishedRow<Row>(columns: readonly ScheduleColumn<Row>[], row: Row): PublishedRow {
  const cells: Record<string, PublishedCell> = {};
  for (const { key, value } of columns) {
    const cell = value(row);
    if (cell !== undefined) cells[key] = cell;
  }
  return cells;
}

/** Columns in the order of a table on paper. */
export function onPaper<Row>(columns: readonly ScheduleColumn<Row>[]): TableColumn[] {
  const placed: ScheduleColumn<Row>[] = columns.filter(({ before }) => before === undefined);
  for (const column of columns) {
    if (column.before === undefined || column.before === null) continue;
    const at = placed.findIndex(({ key }) => key === column.before);
    placed.splice(at < 0 ? placed.length : at, 0, column);
  }
  return placed;
}

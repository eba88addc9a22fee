import { formatAmount, formatDay, type CalendarDay, type Count, type MinorUnits } from '@coffer/core';
import * as v from 'valibot';
import { publishedAmount, publishedDay } from './published-scalars.ts';

/** What the cells of a column are as they are published, by its type. */
const published = {
  count: v.nullable(v.pipe(v.number(), v.integer())),
  day: publishedDay,
  text: v.string(),
  amount: publishedAmount,
};

/** What the cells of a column are before they are published, by its type. */
interface Values {
  readonly count: Count | null;
  readonly day: CalendarDay;
  readonly text: string;
  readonly amount: MinorUnits;
}

type CellType = keyof Values;
type PublishedCells = { readonly [Type in CellType]: v.InferOutput<(typeof published)[Type]> };

/** What stands in a cell of a published row: an amount as a plain decimal, a day as `YYYY-MM-DD`, a number or a word. */
export type PublishedCell = PublishedCells[CellType];

/** A row of any schedule in its published form, by the keys of its columns. */
export type PublishedRow = Readonly<Record<string, PublishedCell>>;

/** A column as a table shows it. */
export interface TableColumn {
  readonly key: string;
  readonly title: string;
  readonly type: CellType;
  /** It stands in a table with nothing in it, too. */
  readonly always?: true;
}

/** Where a column stands in a table. */
interface Place {
  readonly always?: true;
  /** On paper it stands before this column; published, where it is listed. Never on paper where null. */
  readonly before?: string | null;
}

/** What the published form of a column follows from. */
interface PublishedAs<Key extends string, Type extends CellType, Seldom extends boolean> {
  readonly key: Key;
  readonly type: Type;
  /** Left out of published rows that have nothing in it. */
  readonly seldom: Seldom;
}

/**
 * A column of a kind's schedules: what it is called, what it holds, and what stands in it for a row `Row` of what
 * the schedule `Of` knows.
 */
export interface ScheduleColumn<
  Row,
  Of,
  Key extends string = string,
  Type extends CellType = CellType,
  Seldom extends boolean = boolean,
>
  extends PublishedAs<Key, Type, Seldom>, Place {
  readonly title: string | ((of: Of) => string);
  /** Nothing, where a seldom column is left out. */
  value(row: Row, of: Of): Values[Type] | undefined;
}

type AnyPublishedAs = PublishedAs<string, CellType, boolean>;
type Cell<Column extends AnyPublishedAs> = PublishedCells[Column['type']];

/** A published row with the cells that columns have. */
export type RowOf<Columns extends readonly AnyPublishedAs[]> = {
  readonly [Column in Columns[number] as Column['seldom'] extends true ? never : Column['key']]: Cell<Column>;
} & {
  readonly [
    Column in Columns[number] as Column['seldom'] extends true ? Column['key'] : never
  ]?: Cell<Column>;
};

/** Describes columns of one kind. */
interface Describes<Row, Of> {
  /** A column that each row has. */
  each<Key extends string, Type extends CellType>(
    key: Key,
    title: string | ((of: Of) => string),
    type: Type,
    value: (row: Row, of: Of) => Values[Type],
    place?: Place,
  ): ScheduleColumn<Row, Of, Key, Type, false>;
  /** A column that only some rows have. */
  some<Key extends string, Type extends CellType>(
    key: Key,
    title: string | ((of: Of) => string),
    type: Type,
    value: (row: Row, of: Of) => Values[Type] | undefined,
    place?: Place,
  ): ScheduleColumn<Row, Of, Key, Type, true>;
}

/** What describes the columns of one kind, for its rows `Row` and what its schedules `Of` know. */
export function columnsOf<Row, Of>(): Describes<Row, Of> {
  return {
    each: (key, title, type, value, place = {}) => ({ key, title, type, seldom: false, value, ...place }),
    some: (key, title, type, value, place = {}) => ({ key, title, type, seldom: true, value, ...place }),
  };
}

/** The schema of published rows, as their columns say: nothing else stands in them. */
export function rowSchema<const Columns extends readonly AnyPublishedAs[]>(
  columns: Columns,
): v.GenericSchema<RowOf<Columns>> {
  const cells = columns.map(({ key, type, seldom }) => [
    key,
    seldom ? v.exactOptional(published[type]) : published[type],
  ]);
  return v.strictObject(Object.fromEntries(cells) as v.ObjectEntries) as unknown as v.GenericSchema<
    RowOf<Columns>
  >;
}

const publish: { readonly [Type in CellType]: (value: Values[Type], digits: Count) => PublishedCell } = {
  count: (value) => value,
  day: (value) => formatDay(value),
  text: (value) => value,
  amount: (value, digits) => formatAmount(value, digits),
};

/** A row in its published form: its columns in order, amounts with so many digits. */
export function publishedRow<Row, Of, const Columns extends readonly ScheduleColumn<Row, Of>[]>(
  columns: Columns,
  row: Row,
  of: Of,
  digits: Count,
): RowOf<Columns> {
  const cells: Record<string, PublishedCell> = {};
  for (const column of columns) {
    const value = column.value(row, of);
    if (value === undefined) continue;
    cells[column.key] = (publish[column.type] as (value: unknown, digits: Count) => PublishedCell)(
      value,
      digits,
    );
  }
  return cells as RowOf<Columns>;
}

/** Columns in the order of a table on paper. */
export function onPaper<Row, Of>(columns: readonly ScheduleColumn<Row, Of>[], of: Of): TableColumn[] {
  const placed = columns.filter(({ before }) => before === undefined);
  for (const column of columns) {
    if (column.before === undefined || column.before === null) continue;
    const at = placed.findIndex(({ key }) => key === column.before);
    placed.splice(at < 0 ? placed.length : at, 0, column);
  }
  return placed.map(({ key, title, type, always }) => ({
    key,
    title: typeof title === 'string' ? title : title(of),
    type,
    ...(always && { always }),
  }));
}

import type { CalendarDay, Explanation } from '@coffer/core';
import type { EChartsCoreOption } from '../charts/echarts';
import type { GridColumn, GridRow } from '../figures/grid-model';

/** A row of any schedule, by its place. */
export interface ScheduleRow {
  readonly index: number;
}

/** When the figures are looked at, and where the books stand. */
export interface Moment {
  readonly on: CalendarDay;
  /** First and last day of the open period. */
  readonly openFrom: CalendarDay;
  readonly openTo: CalendarDay;
}

/** A schedule as the page draws it: the table, the picture above it, and how its figures are made. */
export interface ScheduleModel {
  readonly columns: readonly GridColumn<ScheduleRow>[];
  readonly rows: readonly GridRow<ScheduleRow>[];
  readonly chart: {
    readonly title: string;
    readonly legend: readonly { readonly text: string; readonly tone: 'principal' | 'interest' | 'flag' }[];
    readonly words: string;
    readonly option: () => EChartsCoreOption;
    /** The row that each bar stands for. */
    readonly rows: readonly number[];
  };
  readonly life: readonly (readonly [string, string])[];
  readonly notices: readonly string[];
  explain(index: number, column: string): Explanation | undefined;
}

/** Id of the row at an index. */
export function rowId(index: number): string {
  return `r${index}`;
}

/** Id of the band that stands at the as-of date. */
export const asOfBand = 'as-of';

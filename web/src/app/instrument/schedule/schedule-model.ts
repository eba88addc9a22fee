import type { CalendarDay, Explanation } from '@coffer/core';
import { showAmount, type FiguresView } from '@coffer/contract';
import type { EChartsCoreOption } from '../../charts/echarts';
import type { GridColumn, GridRow } from '../../figures/grid-model';

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
  /** What the close reported for the day, where it ends a closed month and is known otherwise now. */
  readonly reported?: FiguresView | undefined;
}

/** A picture of a schedule. */
export interface SchedulePicture {
  readonly name: string;
  readonly legend: readonly {
    readonly text: string;
    readonly tone: 'principal' | 'interest' | 'flag' | 'plain';
  }[];
  /** How what is past is told from what is to come. */
  readonly hint: string;
  readonly words: string;
  readonly option: () => EChartsCoreOption;
  /** The row that each bar or point stands for. */
  readonly rows: readonly number[];
}

/** A fact of the whole life: its name, what it is, and where it is a figure how it is made. */
export type LifeFact = readonly [name: string, text: string, how?: () => Explanation];

/** A schedule as the page draws it: the table, the pictures above it, and how its figures are made. */
export interface ScheduleModel {
  readonly columns: readonly GridColumn<ScheduleRow>[];
  readonly rows: readonly GridRow<ScheduleRow>[];
  /** The first is shown until another is chosen. */
  readonly pictures: readonly SchedulePicture[];
  readonly life: readonly LifeFact[];
  readonly notices: readonly string[];
  explain(index: number, column: string): Explanation | undefined;
}

/** Id of the row at an index. */
export function rowId(index: number): string {
  return `r${index}`;
}

/** Id of the band that stands at the as-of date. */
export const asOfBand = 'as-of';

/** What was reported as accrued, where that is known otherwise now. */
export function reportedText({ reported }: Moment, accrued: number, digits: number): string {
  if (!reported || reported.accruedInterest === accrued) return '';
  return ` · as known now; ${showAmount(reported.accruedInterest, digits)} was reported`;
}

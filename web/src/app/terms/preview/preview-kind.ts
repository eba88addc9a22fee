import type { GridColumn } from '../../figures/grid-model';
import type { SplitBar } from '../../charts/split-chart';
import type { PreviewRow, SchedulePreview } from './schedule-preview';

/** A part of the picture: what it is called, and the colour it is drawn in. */
export interface PictureWord {
  readonly text: string;
  readonly tone: 'principal' | 'interest' | 'carrying';
}

/** How a kind of instrument is previewed as its terms are typed. */
export interface PreviewKind {
  /** The figures that matter. */
  facts(made: SchedulePreview): (readonly [string, string])[];
  columns(made: SchedulePreview): GridColumn<PreviewRow>[];
  /** What the two parts of a bar are called. */
  readonly parts: readonly ['principal', 'interest'] | readonly ['coupon', 'amortized'];
  legend(made: SchedulePreview): PictureWord[];
  /**
   * The bar of a numbered row.
   *
   * @param between what was paid after it and before the next
   * @param minor reads an amount as minor units
   */
  bar(
    row: PreviewRow,
    between: readonly PreviewRow[],
    minor: (text: unknown) => number,
  ): Omit<SplitBar, 'label'>;
  /** Whether the entry on issue is shown. */
  readonly showsIssue: boolean;
}

import type { Schedule } from '@coffer/core';
import type { InstrumentDocument } from '@coffer/contract';
import type { Moment, ScheduleModel } from '../instrument/schedule/schedule-model';
import type { StretchRows } from '../instrument/stretches/stretch-rows';
import type { FormKind } from '../terms/form/form-kind';
import type { PreviewKind } from '../terms/preview/preview-kind';
import type { TimelineModel } from '../terms/timeline/timeline-model';

/** Views that only some instruments have. */
export const ownTabs = ['try', 'redeem', 'methods', 'fund'] as const;
export type OwnTab = (typeof ownTabs)[number];

/** Whether a view is one that only some instruments have. */
export function isOwnTab(tab: string): tab is OwnTab {
  return ownTabs.some((own) => own === tab);
}

/** What the pages ask of a kind of instrument. There is one object for each kind. */
export interface ViewKind<Document extends InstrumentDocument, Of extends Schedule> {
  readonly tabs: readonly OwnTab[];
  /** Who it is owed to, what is outstanding, and what accrues. */
  readonly words: { readonly lender: string; readonly owed: string; readonly accrued: string };
  /** Whether the carrying amount always stands beside what is outstanding. */
  readonly carriedApart: boolean;
  /** Whether anything accrues that is paid apart. */
  accrues(schedule: Of): boolean;
  /** Whether its costs are an asset of their own. */
  costsDeferred(schedule: Of): boolean;
  /** Whether anything is ever paid beyond all that is owed. */
  overpays(schedule: Of): boolean;
  /** What the last payment repays, which a fund may be gathered for. Minor units. */
  dueLast(schedule: Of): number;
  model(schedule: Of, at: Moment): ScheduleModel;
  stretchRows(schedule: Of): StretchRows;
  /** The agreement drawn on its life; `undefined` where it is not composed of stretches. */
  timeline(document: Document, schedule: Of): TimelineModel | undefined;
  readonly form: FormKind<Document>;
  readonly preview: PreviewKind;
}

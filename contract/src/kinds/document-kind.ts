import type { AnySchedule, CalendarDay, Schedule } from '@coffer/core';
import type * as v from 'valibot';
import type { InstrumentClass } from '../api/views.ts';
import type { AmountReader } from '../document/amount-reader.ts';
import type { PublishedSchedule } from '../document/published-schedule.ts';
import type { DebtPositionJson } from './debt-position-json.ts';
import type { FundPositionJson } from './fund/fund-schedule-json.ts';
import type { RowRange } from '../document/row-range.ts';
import type { TableColumn } from '../document/schedule-column.ts';
import type { Fault } from '../faults/fault.ts';
import type { ChangedDocument, TermsChange } from '../variants/terms-change.ts';
import type { Fact } from '../words/fact.ts';

/** An instrument in a line of the register. */
export interface InstrumentSummary {
  readonly class: InstrumentClass;
  readonly pattern: string;
  readonly rate: string;
  readonly rateNote: string | null;
  readonly matures: string | null;
  /** Minor units. */
  readonly borrowed: number;
}

/** The position of an instrument of any kind in its published form. */
export type PublishedPosition = DebtPositionJson | FundPositionJson;

/** What is asked of a document of any kind, and of the schedule that it makes. There is one object for each kind. */
export interface AnyDocumentKind<Document, Of extends AnySchedule> {
  /**
   * The terms of a validated document, with what was left open worked out once nothing else is at fault. What does not
   * fit together is told to the reader. Throws {@link TermsFault} where what is open cannot be worked out.
   */
  termsOf(document: Document, read: AmountReader): Of['terms'];
  /** Keys of the document where they are not what core calls the term, by its name for it. */
  readonly keys: Readonly<Record<string, string>>;
  /** Payments recorded for days on which nothing falls due. */
  unmatched(schedule: Of): Fault[];
  /** What its schedules and positions are in the published form. */
  readonly published: { readonly schedule: v.GenericSchema; readonly position: v.GenericSchema };
  /** The schedule in the published form; of a fund with the debt that it repays, where that is known. */
  json(schedule: Of, range?: RowRange, debt?: Schedule): PublishedSchedule;
  /** The columns of a table of its rows, in the order that they stand on paper. */
  columns(schedule: Of): TableColumn[];
  /** The position on a day in the published form. */
  positionJson(schedule: Of, on: CalendarDay, debt?: Schedule): PublishedPosition;
}

/** What is asked of a document of something owed. */
export interface DocumentKind<Document, Of extends Schedule> extends AnyDocumentKind<Document, Of> {
  /** Whether payments are recorded one by one, as they leave the bank. */
  readonly recordsPayments: boolean;
  /** The terms as a list for people. */
  facts(document: Document): Fact[];
  /** Dated events in words, in order of date. */
  events(document: Document): Fact[];
  /** What the issue came to; empty where there is nothing to tell. */
  issue(schedule: Of): Fact[];
  /** What did not go as the terms say, in sentences. */
  notices(schedule: Of): string[];
  /** What was asked for when it was composed, beside the figures that every one of its kind has. */
  headline(schedule: Of): Fact[];
  /** What is right as it is and seldom meant, in sentences with their figures: for who composes it. */
  surprises(schedule: Of): string[];
  /** The document with another rate, payment or number of payments; `undefined` where no terms are varied so. */
  varied(document: Document, change: TermsChange): ChangedDocument | undefined;
  summary(document: Document, schedule: Of, on: CalendarDay): InstrumentSummary;
}

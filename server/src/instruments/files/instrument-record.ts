import {
  explainPosition,
  position,
  proofsOf,
  type CalendarDay,
  type Count,
  type Explanation,
  type Position,
  type Proof,
} from '@coffer/core';
import {
  documentKindOf,
  eventFacts,
  inHabits,
  issueFacts,
  scheduleJson,
  scheduleTable,
  termFacts,
  type Habits,
  type PublishedRow,
  type ReadInstrument,
  type ScheduleTable,
} from '@coffer/contract';
import { knownInstrument, workedOut, type StoredVersion, type Worked } from '../known-instruments.ts';

/** What something is called, and what it is. */
type Fact = readonly [name: string, value: string];

/**
 * An instrument as its files tell it, in plain data: the thread that knows the instrument works it out, and the one that
 * makes files sets it.
 */
export interface InstrumentRecord {
  readonly name: string;
  readonly lender: string;
  readonly agreement: string;
  readonly currency: string;
  readonly digits: Count;
  readonly terms: readonly Fact[];
  readonly events: readonly Fact[];
  readonly notices: readonly string[];
  readonly table: ScheduleTable;
  readonly proofs: readonly Proof[];
}

/** The position on a day as a paper tells it. */
export interface PositionRecord {
  readonly at: Position;
  /** As it is known by now, where the paper is of what was reported then. */
  readonly now: Position | undefined;
  /** How the accrued interest is made. */
  readonly accrued: Explanation;
}

/** What a working paper is made of. */
export interface PaperRecord {
  readonly instrument: InstrumentRecord;
  readonly position: PositionRecord;
}

/** A version that a file is made of. */
interface OfVersion {
  readonly version: StoredVersion;
}

/** A version that a paper is made of, and the newest one where the paper is of what an earlier one reported. */
interface OfPaper extends OfVersion {
  readonly newest: StoredVersion | undefined;
}

/** The rows of a schedule as they are published. */
export function publishedRows({ version }: OfVersion): Worked<readonly PublishedRow[]> {
  return workedOut(version, ({ schedule }) => scheduleJson(schedule).rows);
}

/** An instrument as its workbook tells it, numbers and days in words as somebody writes them. */
export function recordOfInstrument(
  { version }: OfVersion,
  { habits }: { readonly habits: Habits },
): Worked<InstrumentRecord> {
  return workedOut(version, (instrument) => inHabits(habits, () => instrumentRecord(instrument)));
}

/** An instrument and its position on a day as a working paper tells them. */
export function recordForPaper(
  { version, newest }: OfPaper,
  { habits, on }: { readonly habits: Habits; readonly on: CalendarDay },
): Worked<PaperRecord> {
  return workedOut(version, (instrument) =>
    inHabits(habits, () => paperRecord(instrument, on, newest && knownInstrument(newest))),
  );
}

/** What a paper of an instrument on a day is made of; `newest` as it is by now, where it has changed since. */
export function paperRecord(
  instrument: ReadInstrument,
  on: CalendarDay,
  newest?: ReadInstrument,
): PaperRecord {
  const { schedule } = instrument;
  return {
    instrument: instrumentRecord(instrument),
    position: {
      at: position(schedule, on),
      now: newest && position(newest.schedule, on),
      accrued: explainPosition(schedule, on, 'accruedInterest'),
    },
  };
}

function instrumentRecord({ document, schedule }: ReadInstrument): InstrumentRecord {
  return {
    name: document.name,
    lender: document.lender ?? '',
    agreement: document.agreement ?? '',
    currency: document.currency,
    digits: schedule.terms.digits,
    terms: [...termFacts(document), ...issueFacts(schedule)],
    events: eventFacts(document),
    notices: documentKindOf(schedule).notices(schedule),
    table: scheduleTable(schedule),
    proofs: proofsOf(schedule),
  };
}

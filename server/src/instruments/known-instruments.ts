import { workerData } from 'node:worker_threads';
import * as v from 'valibot';
import {
  BeyondExact,
  lastDay,
  position,
  proofsOf,
  type CalendarDay,
  type Proof,
  type Schedule,
} from '@coffer/core';
import {
  anyDocument,
  faultsOf,
  instrumentDocument,
  type AnyDocument,
  readInstrument,
  type Fault,
  type FiguresView,
  type InstrumentDocument,
  type ReadInstrument,
  type Unworkable,
} from '@coffer/contract';
import { KeptVersions } from './kept-versions.ts';

/** A stored version of an instrument. */
export interface StoredVersion {
  readonly id: string;
  readonly version: number;
  /** The document as JSON text: it is read where it is needed. */
  readonly document: string;
}

/** A stored instrument, read. */
export interface KnownInstrument extends ReadInstrument {
  readonly id: string;
  readonly version: number;
}

/** Rows of schedules kept in memory, some fifty bytes each; ten thousand mortgages are 3.6 million. */
const mostRows = 6_000_000 / ((workerData as { threads?: number } | null)?.threads ?? 1);

const kept = new KeptVersions<KnownInstrument>(mostRows);

/**
 * Reads a stored version and what follows from it: document, schedule, and with the schedule what is worked out of it
 * (amortization, rates, positions as known on a day). Throws {@link NotWorkedOut} when a stored document no longer reads.
 */
export function knownInstrument(stored: StoredVersion): KnownInstrument {
  const { id, version, document } = stored;
  return kept.of(stored, () => ({ id, version, ...(justRead(stored) ?? read(document)) }));
}

function read(document: string): ReadInstrument {
  const reading = readInstrument(JSON.parse(document));
  if (!reading.ok) throw unreadable(reading.faults);
  return reading.instrument;
}

/** What was read of documents that somebody wanted to keep, by instrument: most of them are asked for next. */
const readToBeKept = new Map<string, { readonly text: string; readonly instrument: ReadInstrument }>();
const mostToBeKept = 64;

/** Remembers what was read of a document, for when it is stored as a version of an instrument. */
export function rememberRead(id: string, instrument: ReadInstrument): void {
  if (readToBeKept.size >= mostToBeKept) readToBeKept.clear();
  readToBeKept.set(id, { text: JSON.stringify(instrument.document), instrument });
}

/** What was read of a version before it was stored; documents are equal when their texts are, key by key in order. */
function justRead(version: StoredVersion): ReadInstrument | undefined {
  const found = readToBeKept.get(version.id);
  if (!found || JSON.stringify(documentOf(version)) !== found.text) return undefined;
  readToBeKept.delete(version.id);
  return found.instrument;
}

/** The document of a stored version of any kind. Throws {@link NotWorkedOut} when it no longer reads. */
export function anyDocumentOf({ document }: Pick<StoredVersion, 'document'>): AnyDocument {
  const parsed = v.safeParse(anyDocument, JSON.parse(document));
  if (!parsed.success) throw unreadable(faultsOf(parsed.issues));
  return parsed.output;
}

/** The document of a stored version of what is owed. Throws {@link NotWorkedOut} when it no longer reads. */
export function documentOf({ document }: StoredVersion): InstrumentDocument {
  const parsed = v.safeParse(instrumentDocument, JSON.parse(document));
  if (!parsed.success) throw unreadable(faultsOf(parsed.issues));
  return parsed.output;
}

/** What a stored document that no longer reads is refused with. */
export function unreadable(faults: readonly Fault[]): NotWorkedOut {
  return new NotWorkedOut(faults.map((fault) => `${fault.key}: ${fault.message}`).join('; '));
}

/** Figures of an instrument worked out for a day. */
export function figuresOn({ schedule }: Pick<KnownInstrument, 'schedule'>, day: CalendarDay): FiguresView {
  const { on, next, ...figures } = position(schedule, day);
  return figures;
}

/** Whether an instrument has ended by a day and leaves nothing: a line that is not drawn still runs. */
export function isSettled(
  { schedule }: Pick<KnownInstrument, 'schedule'>,
  figures: FiguresView,
  day: CalendarDay,
): boolean {
  return lastDay(schedule) <= day && Object.values(figures).every((figure) => figure === 0);
}

const failingOf = new WeakMap<Schedule, Proof | null>();

/** A proof of an instrument that does not hold, where there is one; worked out once for a version. */
export function failingProof({ schedule }: Pick<KnownInstrument, 'schedule'>): Proof | undefined {
  let found = failingOf.get(schedule);
  if (found === undefined) {
    found = proofsOf(schedule).find(({ holds }) => !holds) ?? null;
    failingOf.set(schedule, found);
  }
  return found ?? undefined;
}

/** An instrument cannot be worked out for what is asked; its terms may be fine for another day. */
export class NotWorkedOut extends Error {}

/** What was made of an instrument, or why it could not be. */
export type Worked<Made> = { readonly made: Made } | { readonly unworkable: Unworkable };

/** What was made of an instrument. Throws {@link NotWorkedOut}. */
export function madeOf<Made>(worked: Worked<Made>): Made {
  if ('unworkable' in worked) throw new NotWorkedOut(worked.unworkable.message);
  return worked.made;
}

/** Works something out for one instrument, so that one that cannot be stops no others; see {@link attempted}. */
export function workedOut<Made>(
  version: StoredVersion,
  work: (instrument: KnownInstrument) => Made,
): Worked<Made> {
  return attempted(version, () => work(knownInstrument(version)));
}

/**
 * What was made of a stored version, or the instrument with the reason why it could not be. A programming error is no
 * reason; it is thrown on.
 */
export function attempted<Made>(version: StoredVersion, make: () => Made): Worked<Made> {
  try {
    return { made: make() };
  } catch (error) {
    if (!(error instanceof BeyondExact) && !(error instanceof NotWorkedOut)) throw error;
    return { unworkable: { instrumentId: version.id, name: nameOf(version), message: error.message } };
  }
}

/** What a stored version is called, whether or not the rest of its document reads. */
export function nameOf({ id, document }: StoredVersion): string {
  const { name } = JSON.parse(document) as { name?: unknown };
  return typeof name === 'string' ? name : id;
}

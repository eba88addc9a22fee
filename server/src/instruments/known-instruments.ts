import {
  BeyondExact,
  lastDay,
  position,
  proofsOf,
  type CalendarDay,
  type Proof,
  type Schedule,
} from '@coffer/core';
import { readInstrument, type FiguresView, type InstrumentDocument, type Unworkable } from '@coffer/contract';

/** A stored version of an instrument. */
export interface StoredVersion {
  readonly id: string;
  readonly version: number;
  readonly document: unknown;
}

/** A stored instrument, read. */
export interface KnownInstrument {
  readonly id: string;
  readonly version: number;
  readonly document: InstrumentDocument;
  readonly schedule: Schedule;
}

/** Rows of schedules kept in memory, some fifty bytes each; ten thousand mortgages are 3.6 million. */
const mostRows = 6_000_000;

/** What a version makes, kept by instrument and version: versions never change. The least lately used goes first. */
const kept = new Map<string, KnownInstrument>();
let keptRows = 0;

/**
 * Reads a stored version and what follows from it: document, schedule, and with the schedule what is worked out of it
 * (amortization, rates, positions as known on a day). Throws {@link NotWorkedOut} when a stored document no longer reads.
 */
export function knownInstrument({ id, version, document }: StoredVersion): KnownInstrument {
  const key = `${id}:${version}`;
  const found = kept.get(key);
  if (found) {
    kept.delete(key);
    kept.set(key, found);
    return found;
  }
  const reading = readInstrument(document);
  if (!reading.ok) {
    const why = reading.faults.map((fault) => `${fault.key}: ${fault.message}`).join('; ');
    throw new NotWorkedOut(why);
  }
  const { instrument } = reading;
  const made = { id, version, document: instrument.document, schedule: instrument.schedule };
  kept.set(key, made);
  keptRows += rowsOf(made);
  for (const [oldest, old] of kept) {
    if (keptRows <= mostRows || oldest === key) break;
    kept.delete(oldest);
    keptRows -= rowsOf(old);
  }
  return made;
}

function rowsOf({ schedule }: KnownInstrument): number {
  return schedule.kind === 'loan' ? schedule.length : schedule.rows.length;
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

/**
 * Works something out for one instrument, so that one that cannot be stops no others: what it made, or the instrument
 * with the reason. A programming error is no reason; it is thrown on.
 */
export function workedOut<Made>(
  version: StoredVersion,
  work: (instrument: KnownInstrument) => Made,
): { readonly made: Made } | { readonly unworkable: Unworkable } {
  try {
    return { made: work(knownInstrument(version)) };
  } catch (error) {
    if (!(error instanceof BeyondExact) && !(error instanceof NotWorkedOut)) throw error;
    const { name } = (version.document ?? {}) as { name?: unknown };
    const named = typeof name === 'string' ? name : version.id;
    return { unworkable: { instrumentId: version.id, name: named, message: error.message } };
  }
}

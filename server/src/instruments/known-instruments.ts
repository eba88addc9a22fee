import { buildSchedule, position, type CalendarDay, type Instrument, type Schedule } from '@coffer/core';
import { readInstrument, type FiguresView, type InstrumentDocument } from '@coffer/contract';

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

const most = 20_000;
const known = new Map<string, { document: InstrumentDocument; terms: Instrument }>();

/**
 * Reads a stored version. Versions never change, so what a document means is remembered; the schedule is built
 * anew, which is faster than keeping it would be worth. Throws when a stored document no longer reads.
 */
export function knownInstrument({ id, version, document }: StoredVersion): KnownInstrument {
  const key = `${id}:${version}`;
  const found = known.get(key);
  if (found) return { id, version, document: found.document, schedule: buildSchedule(found.terms) };
  const reading = readInstrument(document);
  if (!reading.ok) {
    const why = reading.faults.map((fault) => `${fault.key}: ${fault.message}`).join('; ');
    throw new Error(`Instrument ${key} is stored but cannot be read. ${why}`);
  }
  const { instrument } = reading;
  if (known.size >= most) known.delete(known.keys().next().value ?? '');
  known.set(key, { document: instrument.document, terms: instrument.terms });
  return { id, version, document: instrument.document, schedule: instrument.schedule };
}

/** How many instruments are worked out before other calls get their turn. */
export const instrumentsAtOnce = 100;

/** Figures of an instrument worked out for a day. */
export function figuresOn({ schedule }: Pick<KnownInstrument, 'schedule'>, day: CalendarDay): FiguresView {
  const { on, next, ...figures } = position(schedule, day);
  return figures;
}

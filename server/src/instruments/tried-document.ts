import type { Schedule } from '@coffer/core';
import { readInstrument, type InstrumentDocument, type Question } from '@coffer/contract';
import { attempted, type StoredVersion } from './known-instruments.ts';
import type { ClosedMonths } from '../periods/period-store.ts';
import { keepable } from './read-to-keep.ts';

/** What comes of another document of an instrument: its effect and what is asked first, or in sentences why it cannot be. */
export type TriedDocument<Effect> =
  | { readonly ok: true; readonly effect: Effect; readonly questions: Question[] }
  | { readonly ok: false; readonly faults: string[] };

/** Tries another document of an instrument before anybody keeps it, and works out what it does. */
export function triedDocument<Effect>(
  version: StoredVersion,
  document: InstrumentDocument,
  closed: ClosedMonths,
  effectOf: (after: Schedule) => Effect,
): TriedDocument<Effect> {
  const reading = readInstrument(document);
  const kept = reading.ok ? keepable(version.id, reading.instrument, version, closed) : reading;
  if (!reading.ok || !kept.ok) {
    return { ok: false, faults: kept.ok ? [] : kept.faults.map(({ message }) => message) };
  }
  const worked = attempted(version, () => effectOf(reading.instrument.schedule));
  if ('unworkable' in worked) return { ok: false, faults: [worked.unworkable.message] };
  return { ok: true, effect: worked.made, questions: [...kept.questions] };
}

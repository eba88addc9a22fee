import * as v from 'valibot';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { readInstrument, type InstrumentReading } from '../document/read-instrument.ts';
import type { Fault } from '../faults/fault.ts';
import { documentKindOf } from '../kinds/document-kinds.ts';
import { termsChange } from '../variants/terms-change.ts';

/** The ways in which a scenario changes an instrument: they are made in this order. */
export const changeWays = {
  /** Another rate, payment, number of payments, from the start or from a day on; of loans. */
  change: v.optional(termsChange),
  /** Keys of the instrument's document with what they hold instead. */
  terms: v.optional(v.record(v.string(), v.unknown())),
  /** Events besides those that it has. */
  events: v.optional(v.array(v.unknown())),
};

export type InstrumentChange = v.InferOutput<v.StrictObjectSchema<typeof changeWays, undefined>>;

/** Whether a change changes anything. */
export function changesSomething({ change = {}, terms = {}, events = [] }: InstrumentChange): boolean {
  return Object.keys(change).length + Object.keys(terms).length + events.length > 0;
}

/** An instrument's document with a change made to it and read; faults name the key of the change. */
export function changedInstrument(
  document: InstrumentDocument,
  { change, terms = {}, events = [] }: InstrumentChange,
): InstrumentReading {
  const varied = varyBy(document, change);
  if (!varied.ok) return varied;
  const changed = { ...varied.document, ...terms };
  const had = changed.events?.length ?? 0;
  const all = events.length === 0 ? changed : { ...changed, events: [...(changed.events ?? []), ...events] };
  const reading = readInstrument(all);
  if (reading.ok) return reading;
  const without = change === undefined ? 'terms' : 'change';
  return {
    ok: false,
    faults: reading.faults.map((fault) => ({ ...fault, key: keyInChange(fault.key, had, without) })),
  };
}

function varyBy(
  document: InstrumentDocument,
  change: InstrumentChange['change'],
): { ok: true; document: InstrumentDocument } | { ok: false; faults: readonly Fault[] } {
  if (change === undefined) return { ok: true, document };
  const made = documentKindOf(document).varied(document, change);
  if (!made) {
    const message = `${document.name} is changed by its terms or by events.`;
    return { ok: false, faults: [{ key: 'change', message }] };
  }
  if (made.ok) return made;
  return { ok: false, faults: made.faults.map((fault) => ({ ...fault, key: `change.${fault.key}` })) };
}

/** Where a fault of the changed document stands in the change: its events follow those that were there. */
function keyInChange(key: string, had: number, without: string): string {
  const event = /^events\.(\d+)(.*)$/.exec(key);
  if (event && Number(event[1]) >= had) return `events.${Number(event[1]) - had}${event[2] ?? ''}`;
  return `${without}.${key}`;
}

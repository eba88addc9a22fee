import { readInstrument, type Fault, type InstrumentDocument } from '@coffer/contract';
import { rememberRead, type StoredVersion } from './known-instruments.ts';
import { whyNotKept } from './keepable.ts';

/** A document that can be kept, or everything that keeps it from that. */
export type Keepable =
  | { readonly ok: true; readonly document: InstrumentDocument; readonly currency: string }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Reads a document that somebody wants to take on or change into. */
export function readToKeep({ version }: { readonly version: StoredVersion }): Keepable {
  const reading = readInstrument(JSON.parse(version.document));
  if (!reading.ok) return reading;
  const { document, terms } = reading.instrument;
  const faults = whyNotKept(reading.instrument);
  if (faults.length > 0) return { ok: false, faults };
  rememberRead(version.id, reading.instrument);
  return { ok: true, document, currency: terms.currency };
}

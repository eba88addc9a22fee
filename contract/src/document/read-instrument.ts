import * as v from 'valibot';
import { buildSchedule, type Instrument, type Schedule } from '@coffer/core';
import { faultsOf, type Fault } from '../faults/fault.ts';
import { documentKindOf } from '../kinds/document-kinds.ts';
import { instrumentDocument, type InstrumentDocument } from './instrument-document.ts';
import { madeOf } from './read-document.ts';

/** An instrument that was read: its document, its terms and the schedule they make. */
export interface ReadInstrument {
  readonly document: InstrumentDocument;
  readonly terms: Instrument;
  readonly schedule: Schedule;
}

/** Either the instrument, or everything that is wrong with it. */
export type InstrumentReading =
  | { readonly ok: true; readonly instrument: ReadInstrument }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Reads a document of something owed, given as a value (parsed JSON): all faults at once, naming the key. */
export function readInstrument(value: unknown): InstrumentReading {
  const parsed = v.safeParse(instrumentDocument, value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.issues) };
  const made = madeOf(parsed.output, documentKindOf(parsed.output), (terms: Instrument) =>
    buildSchedule(terms),
  );
  if (!made.ok) return made;
  const { document, terms, schedule } = made;
  return { ok: true, instrument: { document, terms, schedule } };
}

import { changedInstrument, type Fault, type ReadInstrument, type ScenarioChange } from '@coffer/contract';
import { documentOf, NotWorkedOut, type StoredVersion } from '../instruments/known-instruments.ts';

/** An instrument with what a scenario changes of it. */
export interface WithChange {
  readonly version: StoredVersion;
  readonly change: Omit<ScenarioChange, 'instrumentId' | 'version'>;
}

/** The changed instrument, or what is wrong with its change. */
export type Changed =
  | { readonly ok: true; readonly instrument: ReadInstrument }
  | { readonly ok: false; readonly name: string; readonly faults: readonly Fault[] };

/** Makes a scenario's change to the newest version of an instrument. */
export function changedOf({ version, change }: WithChange): Changed {
  try {
    const document = documentOf(version);
    const reading = changedInstrument(document, change);
    return reading.ok ? reading : { ...reading, name: document.name };
  } catch (error) {
    if (!(error instanceof NotWorkedOut)) throw error;
    return { ok: false, name: '', faults: [{ key: '', message: error.message }] };
  }
}

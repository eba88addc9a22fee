import * as v from 'valibot';
import {
  BeyondExact,
  buildSchedule,
  currencyDigits,
  solveUnknown,
  TermsFault,
  type Instrument,
  type LoanUnknown,
  type Schedule,
} from '@coffer/core';
import { faultsOf, type Fault } from '../faults/fault.ts';
import { AmountReader } from './amount-reader.ts';
import { bondTermsOf } from './bond-terms-of.ts';
import { instrumentDocument, type InstrumentDocument } from './instrument-document.ts';
import { creditLineTermsOf } from './credit-line-terms-of.ts';
import { loanTermsOf } from './loan-terms-of.ts';
import { unmatchedPayments } from './unmatched-payments.ts';

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

/** Reads a document given as a value (parsed JSON): all faults at once, naming the key. */
export function readInstrument(value: unknown): InstrumentReading {
  const parsed = v.safeParse(instrumentDocument, value);
  return parsed.success ? instrumentOf(parsed.output) : { ok: false, faults: faultsOf(parsed.issues) };
}

/** Makes the instrument of a document that has passed validation. */
export function instrumentOf(document: InstrumentDocument): InstrumentReading {
  const read = new AmountReader(document.currency, currencyDigits(document.currency) ?? 2);
  const stated = statedTerms(document, read);
  if (read.faults.length > 0) return { ok: false, faults: read.faults };
  try {
    const terms = settledTerms(stated);
    const schedule = buildSchedule(terms);
    const faults = unmatchedPayments(schedule);
    return faults.length > 0
      ? { ok: false, faults }
      : { ok: true, instrument: { document, terms, schedule } };
  } catch (error) {
    return { ok: false, faults: [faultOfError(error)] };
  }
}

interface Stated {
  readonly terms: Instrument;
  readonly unknown?: LoanUnknown;
}

function statedTerms(document: InstrumentDocument, read: AmountReader): Stated {
  if (document.kind === 'loan') return loanTermsOf(document, read);
  if (document.kind === 'credit-line') return { terms: creditLineTermsOf(document, read) };
  return { terms: bondTermsOf(document, read) };
}

function settledTerms({ terms, unknown }: Stated): Instrument {
  return unknown && terms.kind === 'loan' ? solveUnknown(terms, unknown) : terms;
}

/** What is wrong, of an error that tells of terms that cannot be; any other is thrown on. */
export function faultOfError(error: unknown): Fault {
  if (error instanceof TermsFault) return { key: error.key, message: error.message };
  if (error instanceof BeyondExact) return { key: 'amount', message: error.message };
  throw error;
}

/** The value of a JSON text, or why it is none. */
export function parseJson(text: string): { readonly value?: unknown; readonly fault?: Fault } {
  try {
    return { value: JSON.parse(text) };
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    return { fault: { key: '', message: `This is not JSON: ${why}` } };
  }
}

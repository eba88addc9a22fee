import * as v from 'valibot';
import { toJsonSchema } from '@valibot/to-json-schema';
import { buildFundSchedule, currencyDigits, type FundSchedule } from '@coffer/core';
import { faultsOf, type Fault } from '../faults/fault.ts';
import { AmountReader } from './amount-reader.ts';
import { bondDocument } from './bond-document.ts';
import { creditLineDocument } from './credit-line-document.ts';
import { fundDocument, type FundDocument } from './fund-document.ts';
import { fundTermsOf } from './fund-terms-of.ts';
import { loanDocument } from './loan-document.ts';
import { faultOfError, instrumentOf, parseJson, type ReadInstrument } from './read-instrument.ts';

/** Everything that can be a document: what is owed, and a fund that repays it. */
const anyDocument = v.variant('kind', [loanDocument, bondDocument, creditLineDocument, fundDocument]);

/** The JSON Schema of the document, generated from the validation schemas so that there is one source. */
export function documentJsonSchema(): object {
  return { title: 'Coffer instrument document', ...toJsonSchema(anyDocument, { errorMode: 'ignore' }) };
}

/** A fund that was read: its document and the schedule it makes. */
export interface ReadFund {
  readonly document: FundDocument;
  readonly schedule: FundSchedule;
}

/** Either what was read, or everything that is wrong with it. */
export type DocumentReading =
  | { readonly ok: true; readonly instrument: ReadInstrument }
  | { readonly ok: true; readonly fund: ReadFund }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Reads a document of any kind given as a value (parsed JSON): all faults at once, naming the key. */
export function readDocument(value: unknown): DocumentReading {
  const parsed = v.safeParse(anyDocument, value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.issues) };
  if (parsed.output.kind !== 'fund') return instrumentOf(parsed.output);
  const document = parsed.output;
  const read = new AmountReader(document.currency, currencyDigits(document.currency) ?? 2);
  const terms = fundTermsOf(document, read);
  if (read.faults.length > 0) return { ok: false, faults: read.faults };
  try {
    return { ok: true, fund: { document, schedule: buildFundSchedule(terms) } };
  } catch (error) {
    return { ok: false, faults: [faultOfError(error)] };
  }
}

/** Reads a document of any kind from its text. */
export function readDocumentText(text: string): DocumentReading {
  const { value, fault } = parseJson(text);
  return fault ? { ok: false, faults: [fault] } : readDocument(value);
}

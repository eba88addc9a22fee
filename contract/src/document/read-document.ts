import * as v from 'valibot';
import { toJsonSchema } from '@valibot/to-json-schema';
import { BeyondExact, buildSchedule, currencyDigits, TermsFault, type AnySchedule } from '@coffer/core';
import { faultsOf, type Fault } from '../faults/fault.ts';
import type { AnyDocumentKind } from '../kinds/document-kind.ts';
import { anyDocumentKindOf, publishedForms } from '../kinds/document-kinds.ts';
import { AmountReader } from './amount-reader.ts';
import { anyDocument, type AnyDocument } from './any-document.ts';

/** What a document makes, or everything that is wrong with it. */
export type Made<Document, Of extends AnySchedule> =
  | {
      readonly ok: true;
      readonly document: Document;
      readonly terms: Of['terms'];
      readonly schedule: Of;
    }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** What a document of any kind makes. */
export type DocumentReading = Made<AnyDocument, AnySchedule>;

/** The JSON Schema of the document, generated from the validation schemas so that there is one source. */
export function documentJsonSchema(): object {
  return { title: 'Coffer instrument document', ...toJsonSchema(anyDocument, { errorMode: 'ignore' }) };
}

/** The JSON Schemas of schedules and positions as they are published, made from the columns and figures of each kind. */
export function publishedJsonSchemas(): { readonly schedule: object; readonly position: object } {
  const { schedule, position } = publishedForms;
  return {
    schedule: { title: 'Coffer schedule', ...toJsonSchema(schedule, { errorMode: 'ignore' }) },
    position: { title: 'Coffer position', ...toJsonSchema(position, { errorMode: 'ignore' }) },
  };
}

/** Reads a document of any kind given as a value (parsed JSON): all faults at once, naming the key. */
export function readDocument(value: unknown): DocumentReading {
  const parsed = v.safeParse(anyDocument, value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.issues) };
  return madeOf(parsed.output, anyDocumentKindOf(parsed.output), buildSchedule);
}

/** Reads a document of any kind from its text. */
export function readDocumentText(text: string): DocumentReading {
  const { value, fault } = parseJson(text);
  return fault ? { ok: false, faults: [fault] } : readDocument(value);
}

/**
 * Makes terms and schedule of a document that has passed validation.
 *
 * @param kind of the document
 * @param build makes the schedule of terms of that kind
 */
export function madeOf<Document extends AnyDocument, Of extends AnySchedule>(
  document: Document,
  kind: AnyDocumentKind<Document, Of>,
  build: (terms: Of['terms']) => Of,
): Made<Document, Of> {
  const read = new AmountReader(document.currency, currencyDigits(document.currency) ?? 2);
  try {
    const terms = kind.termsOf(document, read);
    if (read.faults.length > 0) return { ok: false, faults: read.faults };
    const schedule = build(terms);
    const faults = kind.unmatched(schedule);
    return faults.length > 0 ? { ok: false, faults } : { ok: true, document, terms, schedule };
  } catch (error) {
    const { key, message } = faultOfError(error);
    return { ok: false, faults: [{ key: kind.keys[key] ?? key, message }] };
  }
}

/** What is wrong, of an error that tells of terms that cannot be; any other is thrown on. */
function faultOfError(error: unknown): Fault {
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

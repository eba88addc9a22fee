import { toJsonSchema } from '@valibot/to-json-schema';
import * as v from 'valibot';
import { bondDocument } from './bond-document.ts';
import { creditLineDocument } from './credit-line-document.ts';
import { loanDocument } from './loan-document.ts';

/** Any instrument as a document. */
export const instrumentDocument = v.variant('kind', [loanDocument, bondDocument, creditLineDocument]);

export type InstrumentDocument = v.InferOutput<typeof instrumentDocument>;

/** The JSON Schema of the document, generated from the validation schema so that there is one source. */
export function instrumentJsonSchema(): object {
  return {
    title: 'Coffer instrument document',
    ...toJsonSchema(instrumentDocument, { errorMode: 'ignore' }),
  };
}

import * as v from 'valibot';
import { bondDocument } from './bond-document.ts';
import { creditLineDocument } from './credit-line-document.ts';
import { loanDocument } from './loan-document.ts';

/** What a company owes as a document: what the register keeps. */
export const instrumentDocument = v.variant('kind', [loanDocument, bondDocument, creditLineDocument]);

export type InstrumentDocument = v.InferOutput<typeof instrumentDocument>;

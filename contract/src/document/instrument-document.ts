import * as v from 'valibot';
import { bondDocument } from '../kinds/bond/bond-document.ts';
import { creditLineDocument } from '../kinds/credit-line/credit-line-document.ts';
import { loanDocument } from '../kinds/loan/loan-document.ts';

/** What a company owes as a document: what the register keeps. */
export const instrumentDocument = v.variant('kind', [loanDocument, bondDocument, creditLineDocument]);

export type InstrumentDocument = v.InferOutput<typeof instrumentDocument>;

import * as v from 'valibot';
import { bondDocument } from '../kinds/bond/bond-document.ts';
import { creditLineDocument } from '../kinds/credit-line/credit-line-document.ts';
import { fundDocument } from '../kinds/fund/fund-document.ts';
import { loanDocument } from '../kinds/loan/loan-document.ts';

/** Everything that can be a document: what is owed, and a fund that repays it. */
export const anyDocument = v.variant('kind', [loanDocument, bondDocument, creditLineDocument, fundDocument]);

export type AnyDocument = v.InferOutput<typeof anyDocument>;

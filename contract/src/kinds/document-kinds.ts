import type { AnySchedule, LoanSchedule, Schedule } from '@coffer/core';
import * as v from 'valibot';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { bondDocumentKind } from './bond/bond-document-kind.ts';
import { creditLineDocumentKind } from './credit-line/credit-line-document-kind.ts';
import type { CreditLineDocument } from './credit-line/credit-line-document.ts';
import type { AnyDocument } from '../document/any-document.ts';
import type { AnyDocumentKind, DocumentKind } from './document-kind.ts';
import { fundDocumentKind } from './fund/fund-document-kind.ts';
import { loanDocumentKind } from './loan/loan-document-kind.ts';
import type { LoanDocument } from './loan/loan-document.ts';

/** Every kind of document of something owed, by the name that it carries. */
const documentKinds: Readonly<
  Record<InstrumentDocument['kind'], DocumentKind<InstrumentDocument, Schedule>>
> = {
  loan: loanDocumentKind,
  'credit-line': creditLineDocumentKind,
  bond: bondDocumentKind,
};

const allKinds: Readonly<Record<AnyDocument['kind'], AnyDocumentKind<AnyDocument, AnySchedule>>> = {
  ...documentKinds,
  fund: fundDocumentKind,
};

/** The kind of any document or schedule. */
export function anyDocumentKindOf({
  kind,
}: Pick<AnyDocument, 'kind'>): AnyDocumentKind<AnyDocument, AnySchedule> {
  return allKinds[kind];
}

/** The kind of a document of something owed, or of its schedule. */
export function documentKindOf({
  kind,
}: Pick<InstrumentDocument, 'kind'>): DocumentKind<InstrumentDocument, Schedule> {
  return documentKinds[kind];
}

/** What schedules and positions of any kind are in the published form. */
export const publishedForms = {
  schedule: v.union(formsOf(({ schedule }) => schedule)),
  position: v.union(formsOf(({ position }) => position)),
};

/** The forms of all kinds, each once: some have the same. */
function formsOf(
  form: (of: AnyDocumentKind<AnyDocument, AnySchedule>['published']) => v.GenericSchema,
): v.GenericSchema[] {
  return [...new Set(Object.values(allKinds).map(({ published }) => form(published)))];
}

/** Whether a document is of something owed, which the register keeps. */
export function isOwed(document: AnyDocument): document is InstrumentDocument {
  return document.kind in documentKinds;
}

/** Whether payments are recorded under a document, as they leave the bank. */
export function recordsPayments(document: InstrumentDocument): document is LoanDocument | CreditLineDocument;
/** Whether payments are recorded against a schedule, as they leave the bank. */
export function recordsPayments(schedule: Schedule): schedule is LoanSchedule;
export function recordsPayments(either: Pick<InstrumentDocument, 'kind'>): boolean {
  return documentKindOf(either).recordsPayments;
}

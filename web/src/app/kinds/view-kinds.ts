import type { Schedule } from '@coffer/core';
import type { InstrumentDocument } from '@coffer/contract';
import { bondView } from './bond-view';
import { creditLineView } from './credit-line-view';
import { loanView } from './loan-view';
import type { ViewKind } from './view-kind';

/** Every kind of instrument as the pages show it, by the name that documents and schedules carry. */
const viewKinds: Readonly<Record<InstrumentDocument['kind'], ViewKind<InstrumentDocument, Schedule>>> = {
  loan: loanView,
  'credit-line': creditLineView,
  bond: bondView,
};

/** How the pages show a kind of instrument. */
export function viewKindOf({
  kind,
}: Pick<InstrumentDocument, 'kind'>): ViewKind<InstrumentDocument, Schedule> {
  return viewKinds[kind];
}

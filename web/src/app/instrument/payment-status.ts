import { recordedFor, type LoanRow, type LoanTerms } from '@coffer/core';
import { rowWords, showDay } from '@coffer/contract';
import type { GridCell } from '../figures/grid-model';
import type { Moment } from './schedule-model';

/** What became of a payment, in a word. */
export function paymentStatus(
  terms: LoanTerms,
  row: LoanRow,
  agreed: number,
  at: Moment,
  isNext: boolean,
): GridCell {
  if (row.n === null) return { text: rowWords[row.kind] };
  const recorded = recordedFor(terms.events, row.due);
  if (recorded) {
    if (recorded.amount === 0) return chip('missed', 'wrong');
    if (recorded.on > row.due) return chip(`paid ${showDay(recorded.on)}`, 'wrong');
    return recorded.amount < agreed ? chip('paid short', 'wrong') : { text: 'paid' };
  }
  if (row.payment === 0 && row.extra === 0) return { text: row.added > 0 ? 'added' : 'nothing due' };
  if (row.due < at.openFrom) return { text: 'as scheduled' };
  if (row.due <= at.openTo && row.due <= at.on) return chip('not recorded', 'wrong');
  return isNext ? chip('next', 'flag') : { text: '' };
}

function chip(text: string, tone: 'wrong' | 'flag'): GridCell {
  return { text: '', chip: { text, tone } };
}

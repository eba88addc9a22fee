import { type LoanRow, type LoanSchedule } from '@coffer/core';
import { assumedPaid, rowWords, showShortDay } from '@coffer/contract';
import type { GridCell } from '../../figures/grid-model';
import type { Moment } from './schedule-model';

/** What became of a payment, in a word. */
export function paymentStatus(
  { receipts }: LoanSchedule,
  row: LoanRow,
  agreed: number,
  at: Moment,
  isNext: boolean,
): GridCell {
  if (row.n === null) return { text: rowWords(row.kind) };
  const parts = receipts.byDue.get(row.due)?.parts;
  const last = parts?.at(-1);
  if (parts && last) {
    const paid = parts.reduce((sum, { amount }) => sum + amount, 0);
    if (paid === 0) return chip('missed', 'wrong');
    if (paid < agreed) return chip('paid short', 'wrong');
    return last.on > row.due ? chip(`paid ${showShortDay(last.on)}`, 'wrong') : { text: 'paid' };
  }
  if (row.payment === 0 && row.extra === 0) return { text: row.added > 0 ? 'added' : 'nothing due' };
  if (row.due < at.openFrom) return { ...assumedPaid };
  if (row.due <= at.openTo && row.due <= at.on) {
    return { ...chip(assumedPaid.text, 'wrong'), tip: assumedPaid.tip };
  }
  return isNext ? chip('next', 'flag') : { text: '' };
}

function chip(text: string, tone: 'wrong' | 'flag'): GridCell {
  return { text: '', chip: { text, tone } };
}

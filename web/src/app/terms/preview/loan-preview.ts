import { showDay, showDecimal } from '@coffer/contract';
import { figure, rowHead, seldomColumns } from './preview-columns';
import type { PreviewKind } from './preview-kind';

const money = (text: string | null | undefined): string => showDecimal(text ?? '');

/** Loans as they are previewed. */
export const loanPreview: PreviewKind = {
  facts({ regularPayment, paymentsMade, finalPayment, totals, purchase, left, clears }) {
    const added = Number(totals['addedInterest'] ?? 0) > 0;
    return [
      ...(regularPayment ? [['Payment', money(regularPayment)] as const] : []),
      ['Payments', String(paymentsMade ?? '')],
      ['Last payment', money(finalPayment)],
      ['Total interest', money(totals['interest'])],
      ...(added ? [['Interest added', money(totals['addedInterest'])] as const] : []),
      ...(purchase ? [['Finance cost', money(purchase.financeCost)] as const] : []),
      ...(left
        ? [['Left at the end', money(left)] as const]
        : [['Clears', clears ? showDay(clears) : 'not cleared'] as const]),
    ];
  },
  columns(made) {
    const more = [
      ...(Number(made.totals['extra']) === 0 ? [] : [figure(made, 'extra')]),
      ...seldomColumns(made),
    ];
    return [
      ...rowHead(made),
      // With more to show, what a row opens with is read off the row before.
      ...(more.length === 0 ? [figure(made, 'opening')] : []),
      figure(made, 'payment'),
      figure(made, 'interest', 'interest'),
      figure(made, 'principal', 'principal'),
      ...more,
      figure(made, 'closing'),
    ];
  },
  parts: ['principal', 'interest'],
  legend: () => [
    { text: '■ principal', tone: 'principal' },
    { text: '■ interest', tone: 'interest' },
  ],
  bar(row, between, minor) {
    const paid = [row, ...between];
    const sum = (of: (each: (typeof paid)[number]) => number): number =>
      paid.reduce((total, each) => total + of(each), 0);
    return {
      lower: sum((each) => minor(each['principal']) + minor(each['extra'])),
      upper: sum((each) => Math.max(0, minor(each['payment']) - minor(each['principal']))),
    };
  },
  showsIssue: false,
};

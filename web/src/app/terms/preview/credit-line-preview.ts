import { showDay, showDecimal } from '@coffer/contract';
import { loanPreview } from './loan-preview';
import { figure, rowHead, seldomColumns, shownFigure } from './preview-columns';
import type { PreviewKind } from './preview-kind';

const money = (text: string | null | undefined): string => showDecimal(text ?? '');

/** Credit lines as they are previewed. */
export const creditLinePreview: PreviewKind = {
  ...loanPreview,
  facts({ paymentCount, totals, left, clears }) {
    return [
      ['Bills', `${paymentCount ?? ''}, monthly`],
      ['Total interest', money(totals['interest'])],
      ...(totals['fee'] ? [['Unused fee', money(totals['fee'])] as const] : []),
      ...(left ? [['Owed at the end', money(left)] as const] : []),
      ...(!left && totals['drawn'] && clears ? [['Clears', showDay(clears)] as const] : []),
    ];
  },
  columns(made) {
    const more = seldomColumns(made);
    return [
      ...rowHead(made),
      ...(more.length === 0 ? [figure(made, 'opening')] : []),
      figure(made, 'payment'),
      figure(made, 'interest', 'interest'),
      {
        ...figure(made, 'principal', 'principal'),
        // What is repaid between bills stands where principal does, as on the instrument's page.
        cell: (row) =>
          Number(row['extra']) === 0
            ? shownFigure('principal', row['principal'])
            : showDecimal(String(row['extra'])),
      },
      ...more,
      figure(made, 'closing'),
    ];
  },
};

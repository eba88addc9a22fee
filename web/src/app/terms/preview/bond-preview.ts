import { showDecimal, showRate } from '@coffer/contract';
import { figure, rowHead } from './preview-columns';
import type { PreviewKind } from './preview-kind';
import type { SchedulePreview } from './schedule-preview';

/** Bonds as they are previewed: what they bring and cost. */
export const bondPreview: PreviewKind = {
  facts(made) {
    const money = (text: string | undefined): string => showDecimal((text ?? '').replace('-', ''));
    const rate = (text: string | undefined): string => `${trimmed((text ?? '').replace('%', ''), 4)}%`;
    const premium = made.discount?.startsWith('-') ?? false;
    return [
      ['Price', trimmed(made.price ?? '', 4)],
      ['Yield', rate(made.yield ?? made.effectiveRate)],
      ...(made.yield === undefined ? [] : [['Rate net of costs', rate(made.effectiveRate)] as const]),
      ['Proceeds', money(made.proceeds)],
      ...(made.accruedReceived === undefined
        ? []
        : [['Of it accrued coupon', money(made.accruedReceived)] as const]),
      [
        premium ? 'Premium' : 'Discount',
        `${money(made.discount)} · ${showRate(made.discountOfFace ?? '')} of face`,
      ],
      ['Expense in all', money(made.totals['expense'])],
    ];
  },
  columns: (made) => [
    ...rowHead(made),
    ...(pays(made) ? [figure(made, 'coupon', 'principal')] : []),
    figure(made, 'expense', 'interest'),
    figure(made, 'amortization'),
    figure(made, 'unamortized'),
    figure(made, 'closing'),
  ],
  parts: ['coupon', 'amortized'],
  legend: (made) => [
    ...(pays(made) ? [{ text: '■ coupon', tone: 'principal' } as const] : []),
    { text: '■ amortized', tone: 'interest' },
    { text: '— carrying amount', tone: 'carrying' },
  ],
  bar(row, _between, minor) {
    const amortized = minor(row['amortization']);
    const lower = amortized < 0 ? minor(row['expense']) : minor(row['expense']) - amortized;
    return { lower, upper: Math.abs(amortized), line: minor(row['closing']) };
  },
  showsIssue: true,
};

function pays({ totals }: SchedulePreview): boolean {
  return Number(totals['coupon']) !== 0;
}

function trimmed(decimal: string, places: number): string {
  const [whole = '', decimals = ''] = decimal.split('.');
  return showRate(`${whole}.${decimals.slice(0, places).padEnd(2, '0')}`);
}

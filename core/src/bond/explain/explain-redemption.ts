import { toMinor } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import type { BondRow, BondSchedule } from '../schedule/bond-schedule.ts';
import { multiplyRatios, ratio } from '../../money/ratio.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import type { BondFigure } from './bond-figure.ts';
import { roundingText, unroundedText } from '../../explain/rounding-words.ts';
import type { ExplainStep, Explanation } from '../../explain/explanation.ts';

/** How a figure of an early redemption is made. */
export function redemptionFigure(
  schedule: BondSchedule,
  row: BondRow,
  index: number,
  figure: BondFigure,
): Explanation {
  const { terms } = schedule;
  const cell = (column: BondFigure, label: string): ExplainStep => ({
    label,
    amount: row[column],
    link: { to: 'row', row: index, column },
  });
  const on = formatDay(row.due);
  const face = row.faceBefore - row.faceAfter;
  const redeemed: ExplainStep = {
    label: 'Face redeemed',
    amount: face,
    link: { to: 'terms', key: 'redemptions' },
  };
  switch (figure) {
    case 'retired':
      return {
        title: `Carrying amount retired, ${on}`,
        amount: row.retired,
        steps: [
          cell('opening', 'Opening carrying amount'),
          cell('amortization', '+ amortized to the day on the face redeemed'),
          cell('closing', '− carrying amount of what stays'),
        ],
      };
    case 'paid': {
      const price = terms.redemptions.find(({ at }) => at === row.redemption)?.price ?? ratio(1n);
      const exact = multiplyRatios(ratio(BigInt(face)), price);
      return {
        title: `Paid for the face redeemed, ${on}`,
        amount: toMinor(terms, exact),
        steps: [redeemed, { label: '× price', text: formatPercent(price) }],
        unrounded: unroundedText(exact, terms.digits),
        rounding: roundingText(terms),
      };
    }
    case 'gain':
      return {
        title: row.gain < 0 ? `Loss on redemption, ${on}` : `Gain on redemption, ${on}`,
        amount: row.gain,
        steps: [cell('retired', 'Carrying amount retired'), cell('paid', '− paid')],
      };
    case 'coupon':
      return {
        title: `Coupon paid with the redemption, ${on}`,
        amount: row.coupon,
        steps: [redeemed, { label: 'Coupon accrued on it since the last coupon date', amount: row.coupon }],
      };
    case 'received':
      return {
        title: `Accrued coupon received at issue, ${on}`,
        amount: row.received,
        steps: [{ label: 'The part that belongs to the face redeemed', amount: row.received }],
      };
    case 'costsAmortized':
      return {
        title: `Issue costs amortized, ${on}`,
        amount: row.costsAmortized,
        steps: [{ label: 'To the day, on the face redeemed', amount: row.costsAmortized }],
      };
    case 'expense':
      return {
        title: `Interest expense to the redemption, ${on}`,
        amount: row.expense,
        steps: [
          cell('coupon', 'Coupon accrued on the face redeemed'),
          ...(row.received === 0 ? [] : [cell('received', '− accrued coupon received at issue')]),
          cell('amortization', '+ amortization to the day'),
        ],
      };
    default:
      return {
        title: `Amortized on the face redeemed, ${on}`,
        amount: row.amortization,
        steps: [
          { label: 'Amortized since the last coupon date on all, shared by face', amount: row.amortization },
        ],
      };
  }
}

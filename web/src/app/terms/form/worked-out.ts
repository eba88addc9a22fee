import { showDecimal, showRate } from '@coffer/contract';
import { readDay } from '../../typed/typed-day';
import type { PreviewAnswer, SchedulePreview } from '../preview/schedule-preview';
import type { TypedLoan } from './loan-form';
import { stretchesInPayments } from './stretch-terms';
import type { TypedTerms } from './terms-form';

type Made = Extract<PreviewAnswer, { ok: true }>;

/** The price that a typed yield makes, or the yield that a typed price makes; nothing for the one that is typed. */
export function workedOutOfBond(
  of: string,
  typed: TypedTerms['bond'],
  made: SchedulePreview | undefined,
): string {
  if (!made || (of !== 'price' && of !== 'yield') || typed[of].trim() !== '') return '';
  const text = of === 'price' ? made.price : (made.yield ?? made.effectiveRate)?.replace('%', '');
  return text === undefined
    ? ''
    : `worked out: ${showRate(Number(text).toFixed(6))}${of === 'yield' ? '%' : ''}`;
}

/** The amount or rate that was solved for a field of a loan holding a question mark. */
export function solvedOfLoan(
  of: string,
  { amount, rate }: TypedLoan,
  made: SchedulePreview | undefined,
  digits: number,
): string {
  const [typed, key] = of === 'rate' ? [rate, 'annual'] : [amount, 'amount'];
  const value = made?.solved?.[key];
  if ((of !== 'rate' && of !== 'amount') || typed.trim() !== '?' || value === undefined) return '';
  const text = String(value).replace('%', '');
  return of === 'amount'
    ? `worked out: ${showDecimal(Number(text).toFixed(digits))}`
    : `worked out: ${showRate(Number(text).toFixed(6))}%`;
}

/** What a payment or a count left open in a stretch comes to, or where what it leaves goes. */
export function workedOutInStretch(of: string, at: number, loan: TypedLoan, made: Made | undefined): string {
  const { stretches } = loan;
  if (of === 'left')
    return at < stretches.length - 1
      ? 'left for what follows'
      : loan.atEnd === 'pay'
        ? 'paid with the last'
        : 'left after the last';
  if (of === 'count' || of === 'amortizeOver') {
    const [typed, read] = [stretches[at]?.[of].trim() ?? '', stretchesInPayments(loan)[at]?.[of] ?? ''];
    if (typed !== read && typed !== '?') return `${read} payments`;
  }
  if (!made) return '';
  if (stretches[at]?.count.trim() === '?') {
    const count = made.schedule.solved?.['count'];
    return of !== 'count' || count === undefined ? '' : `worked out: ${count}`;
  }
  const payment = made.life?.payments[at];
  return of === 'payment' && payment ? `worked out: ${showDecimal(payment)}` : '';
}

/** What the payment of a renewal on a typed day comes to. */
export function workedOutInRenewal(of: string, on: string, made: Made | undefined): string {
  if (of !== 'amount') return '';
  const payment = made?.life?.renewals.find((renewal) => renewal.on === readDay(on))?.payment;
  return payment ? `worked out: ${showDecimal(payment)}` : '';
}

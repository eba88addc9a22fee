import { formatAmount, formatDay, parseAmount, parseDay, type CalendarDay } from '@coffer/core';
import { type DuePayment, type PaymentMade, showAmount, showDay, showDecimal } from '@coffer/contract';
import { readDay } from '../typed/typed-day';
import { readNumber } from '../typed/typed-number';

/** What is typed for a payment, and whether it is to be recorded. */
export interface PaymentDraft {
  readonly on: string;
  readonly amount: string;
  readonly ticked: boolean;
}

/** A payment of the month with its draft and what the draft says. */
export interface DraftedPayment {
  readonly id: string;
  readonly payment: DuePayment;
  /** Whether it is what a payment recorded short still lacks: another part of it. */
  readonly rest: boolean;
  readonly draft: PaymentDraft;
  readonly reading: DraftReading;
}

/** A draft understood, or what keeps it from being. */
export interface DraftReading {
  readonly on?: CalendarDay;
  /** Minor units. */
  readonly amount?: number;
  /** How it differs from what was agreed. */
  readonly words: string;
  readonly differs: boolean;
  readonly fault?: { readonly field: 'on' | 'amount'; readonly message: string };
}

/** Tells a payment from all others. */
export function paymentId({ instrumentId, due }: Pick<DuePayment, 'instrumentId' | 'due'>): string {
  return `${instrumentId} ${due}`;
}

/** Whether a payment fell due before the month that ends on a day. */
export function fellDueBefore({ due }: Pick<DuePayment, 'due'>, monthEnd: string): boolean {
  return due.slice(0, 7) < monthEnd.slice(0, 7);
}

/** What was paid in all the parts recorded. Minor units. */
function paidOf({ recorded }: DuePayment): number {
  return recorded.reduce((sum, { amount }) => sum + amount, 0);
}

/** A payment as recorded, or else as agreed: ticked when it is due by a day. */
export function draftOf(payment: DuePayment, by: string, digits: number): PaymentDraft {
  const { recorded, due, amount } = payment;
  const last = recorded.at(-1);
  return {
    on: showDay(last?.on ?? due),
    amount: showAmount(last ? paidOf(payment) : amount, digits),
    ticked: !last && due <= by,
  };
}

/** What a payment recorded short still lacks, as a part of its own; nothing for one that is not. */
export function restOf(payment: DuePayment, by: string, digits: number): PaymentDraft | undefined {
  const { recorded, left } = payment;
  const last = recorded.at(-1);
  if (!last || left <= 0) return undefined;
  const on = last.on > by ? last.on : by;
  return { on: showDay(on), amount: showAmount(left, digits), ticked: false };
}

/** Reads a draft against what was agreed. */
export function readDraft(
  payment: DuePayment,
  draft: PaymentDraft,
  digits: number,
  asked = payment.amount,
): DraftReading {
  const on = readDay(draft.on, parseDay(payment.due));
  const plain = readNumber(draft.amount);
  const amount = plain === undefined ? undefined : parseAmount(plain, digits);
  const words: string[] = [];
  const fault = (field: 'on' | 'amount', message: string): DraftReading => ({
    ...(on !== undefined && { on }),
    ...(amount !== undefined && { amount }),
    words: message,
    differs: true,
    fault: { field, message },
  });
  if (on === undefined)
    return fault('on', `“${draft.on}” is no date; type one such as ${showDay('2026-10-15')}`);
  if (amount === undefined)
    return fault(
      'amount',
      `“${draft.amount}” is no amount; type one such as ${showDecimal('46611.29')}, or 0 for missed`,
    );
  const late = on - (parseDay(payment.due) ?? on);
  const less = asked - amount;
  if (amount === 0 && asked === payment.amount) words.push('missed');
  else if (late !== 0) words.push(`${days(Math.abs(late))} ${late > 0 ? 'late' : 'early'}`);
  if (amount !== 0 && less !== 0)
    words.push(`${showAmount(Math.abs(less), digits)} ${less > 0 ? 'short' : 'over'}`);
  return { on, amount, words: words.join(', ') || 'as scheduled', differs: words.length > 0 };
}

function days(count: number): string {
  return `${count} ${count === 1 ? 'day' : 'days'}`;
}

/** The payment as it is sent. */
export function paymentMade({ payment, reading, rest }: DraftedPayment, digits: number): PaymentMade {
  return {
    instrumentId: payment.instrumentId,
    version: payment.version,
    due: payment.due,
    on: formatDay(reading.on ?? 0),
    amount: formatAmount(reading.amount ?? 0, digits),
    ...(rest ? { adds: true } : payment.recorded.length > 0 && { corrects: true }),
  };
}

/** What was recorded, in a sentence. */
export function recordedText({ payment, reading }: DraftedPayment, digits: number): string {
  const amount = showAmount(reading.amount ?? 0, digits);
  return `Payment ${payment.n}, due ${showDay(payment.due)}: ${amount} recorded on ${showDay(reading.on ?? 0)}.`;
}

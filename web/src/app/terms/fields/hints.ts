import { calendarFields, monthEnd, monthsBetweenPayments } from '@coffer/core';
import { showDay, showDecimal } from '@coffer/contract';
import { readPartOf } from '../../typed/part-of';
import { readDay } from '../../typed/typed-day';
import type { TypedLoan } from '../form/loan-form';
import { readNumber, readPercent } from '../../typed/typed-number';

/** What was understood of a typed amount, where it does not read so already. */
export function amountHint(typed: string): string {
  const plain = readNumber(typed);
  return plain === undefined || showDecimal(plain) === typed.trim() ? '' : showDecimal(plain);
}

/** What a typed percentage of another field comes to. */
export function partHint(typed: string, whole: string, currency: string): string {
  const part = readPartOf(typed, whole, currency);
  return part === undefined ? '' : showDecimal(part);
}

/** What was understood of a typed date, where it does not read so already. */
export function dayHint(typed: string): string {
  const day = readDay(typed);
  return day === undefined || showDay(day) === typed.trim() ? '' : showDay(day);
}

/** What was understood of a typed rate. */
export function rateHint(typed: string): string {
  const percent = readPercent(typed);
  return percent === undefined ? '' : `${percent}% a year`;
}

/** What was understood of a first payment, and on which day the others follow where that could be doubted. */
export function firstPaymentHint({ first, monthEnd: onMonthEnds, every }: TypedLoan): string {
  const day = readDay(first);
  const inMonths = monthsBetweenPayments[every] !== undefined;
  if (day === undefined || !inMonths || onMonthEnds || day !== monthEnd(day)) return dayHint(first);
  const { day: ofMonth } = calendarFields(day);
  return ofMonth === 31 ? dayHint(first) : `${showDay(day)}, then on the ${ofMonth}th`;
}

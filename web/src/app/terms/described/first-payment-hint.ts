import { calendarFields, monthEnd, monthsBetweenPayments } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { dayHint } from '../../fields/hints';
import { readDay } from '../../typed/typed-day';
import type { TypedLoan } from '../form/loan-form';

/** What was understood of a first payment, and on which day the others follow where that could be doubted. */
export function firstPaymentHint({ first, monthEnd: onMonthEnds, every }: TypedLoan): string {
  const day = readDay(first);
  const inMonths = monthsBetweenPayments[every] !== undefined;
  if (day === undefined || !inMonths || onMonthEnds || day !== monthEnd(day)) return dayHint(first);
  const { day: ofMonth } = calendarFields(day);
  return ofMonth === 31 ? dayHint(first) : `${showDay(day)}, then on the ${ofMonth}th`;
}

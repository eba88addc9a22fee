import { calendarFields, cycleDate, monthEnd, monthsBetweenPayments, type CalendarDay } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { dayHint } from '../../fields/hints';
import { readDay } from '../../typed/typed-day';
import type { TypedLoan } from './loan-form';

/** What the day of the first payment is reckoned from. */
type TypedFirst = Pick<TypedLoan, 'due' | 'every' | 'financed' | 'first' | 'monthEnd' | 'start'>;

/**
 * The day of the first payment: as typed, the start where payments fall due in advance, else a period after the start.
 * A loan that is taken on has a life behind it: its next payment must be typed.
 */
export function firstPayment(loan: TypedFirst): CalendarDay | undefined {
  const { due, every, financed, first, monthEnd: keepMonthEnd, start } = loan;
  if (due === 'end' && first.trim() !== '') return readDay(first);
  const anchor = readDay(start);
  if (due === 'start' || anchor === undefined) return anchor;
  return financed === 'taken-on' ? undefined : cycleDate({ anchor, every, keepMonthEnd }, 1);
}

/** Whether a day ends a month that others are longer than. */
function endsShortMonth(day: CalendarDay | undefined): boolean {
  return day !== undefined && day === monthEnd(day) && calendarFields(day).day < 31;
}

const inMonths = ({ every }: TypedFirst): boolean => monthsBetweenPayments[every] !== undefined;

/** Whether payments might be meant for the ends of months: the first, or the start, falls on one. */
export function mayKeepMonthEnds(loan: TypedFirst): boolean {
  return inMonths(loan) && [firstPayment(loan), readDay(loan.start)].some(endsShortMonth);
}

/** What was understood of a first payment or is offered for it, and on which day the others follow where that could be doubted. */
export function firstPaymentHint(loan: TypedLoan): string {
  const { first, monthEnd: onMonthEnds } = loan;
  const day = firstPayment(loan);
  if (day === undefined) return '';
  const offered = first.trim() === '' ? `${showDay(day)} if empty` : dayHint(first);
  if (onMonthEnds || !inMonths(loan) || !endsShortMonth(day)) return offered;
  return `${offered || showDay(day)}, then on the ${calendarFields(day).day}th`;
}

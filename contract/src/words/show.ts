import { calendarFields, parseDay, type CalendarDay } from '@coffer/core';

const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** Short name of a month, 1 to 12: `Oct`. */
export function monthName(month: number): string {
  return (months[month - 1] ?? '').slice(0, 3);
}

/** An amount in minor units with its thousands separated and all its decimals: `1,341,880.04`. */
export function showAmount(minor: number, digits: number): string {
  const text = Math.abs(minor)
    .toString()
    .padStart(digits + 1, '0');
  const whole = text.slice(0, text.length - digits).replaceAll(/\B(?=(\d{3})+$)/g, ',');
  return `${minor < 0 ? '−' : ''}${whole}${digits > 0 ? `.${text.slice(-digits)}` : ''}`;
}

/** The same for columns of movements, where nothing is a dash. */
export function showMovement(minor: number, digits: number): string {
  return minor === 0 ? '–' : showAmount(minor, digits);
}

/** A date as people read it: `15 Jun 2026`. */
export function showDay(day: CalendarDay | string): string {
  const known = typeof day === 'string' ? parseDay(day) : day;
  if (known === undefined) return String(day);
  const { year, month, day: ofMonth } = calendarFields(known);
  return `${ofMonth} ${monthName(month)} ${year}`;
}

/** The same without its year, where that is plain from what stands beside it: `15 Jun`. */
export function showShortDay(day: CalendarDay): string {
  const { month, day: ofMonth } = calendarFields(day);
  return `${ofMonth} ${monthName(month)}`;
}

/** A text with the dates and amounts in it as people read them. */
export function showText(text: string): string {
  return text
    .replaceAll(/\d{4}-\d{2}-\d{2}/g, (day) => showDay(day))
    .replaceAll(/(?<![\d.,])\d{4,}\.\d+/g, (amount) => showDecimal(amount));
}

/** The month of a date: `October 2026`. */
export function showMonth(day: string): string {
  const { year, month } = calendarFields(parseDay(day) as CalendarDay);
  return `${months[month - 1] ?? ''} ${year}`;
}

/** The same in short: `Oct 2026`. */
export function showShortMonth(day: CalendarDay | string): string {
  const { year, month } = calendarFields(typeof day === 'string' ? (parseDay(day) as CalendarDay) : day);
  return `${monthName(month)} ${year}`;
}

/** An amount that came as a plain decimal text, with its thousands separated. */
export function showDecimal(text: string): string {
  const [whole = '', decimals] = text.replace('-', '−').split('.');
  return `${whole.replaceAll(/\B(?=(\d{3})+$)/g, ',')}${decimals === undefined ? '' : `.${decimals}`}`;
}

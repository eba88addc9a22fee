import { type CalendarDay, calendarFields, type Count, type MinorUnits, parseDay } from '@coffer/core';
import { habitsNow, numberHabits } from './habits.ts';

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

/** The mark between whole and decimals, as the company writes it. */
export function decimalMark(): '.' | ',' {
  return numberHabits[habitsNow().numbers].mark;
}

/** A plain decimal, with what it is below zero told as amounts are. */
function written(whole: string, decimals: string | undefined, negative: boolean): string {
  const { group, mark } = numberHabits[habitsNow().numbers];
  const text = `${whole.replaceAll(/\B(?=(\d{3})+$)/g, group)}${decimals === undefined ? '' : `${mark}${decimals}`}`;
  if (!negative) return text;
  return habitsNow().belowZero === 'parentheses' ? `(${text})` : `−${text}`;
}

/** An amount in minor units with its thousands separated and all its decimals: `1,341,880.04`. */
export function showAmount(minor: MinorUnits, digits: Count): string {
  const text = Math.abs(minor)
    .toString()
    .padStart(digits + 1, '0');
  const whole = text.slice(0, text.length - digits);
  return written(whole, digits > 0 ? text.slice(-digits) : undefined, minor < 0);
}

/** The same for columns of movements, where nothing is a dash. */
export function showMovement(minor: MinorUnits, digits: Count): string {
  return minor === 0 ? '–' : showAmount(minor, digits);
}

const two = (part: number): string => String(part).padStart(2, '0');

/** A date as people read it: `15 Jun 2026`. */
export function showDay(day: CalendarDay | string): string {
  const known = typeof day === 'string' ? parseDay(day) : day;
  if (known === undefined) return String(day);
  const { year, month, day: ofMonth } = calendarFields(known);
  const shown = {
    'day-name': () => `${ofMonth} ${monthName(month)} ${year}`,
    'day-first': () => `${two(ofMonth)}/${two(month)}/${year}`,
    'day-first-dotted': () => `${two(ofMonth)}.${two(month)}.${year}`,
    'month-first': () => `${two(month)}/${two(ofMonth)}/${year}`,
    'year-first': () => `${year}-${two(month)}-${two(ofMonth)}`,
  };
  return shown[habitsNow().dates]();
}

/** The same without its year, where that is plain from what stands beside it: `15 Jun`. */
export function showShortDay(day: CalendarDay): string {
  const { month, day: ofMonth } = calendarFields(day);
  const shown = {
    'day-name': () => `${ofMonth} ${monthName(month)}`,
    'day-first': () => `${two(ofMonth)}/${two(month)}`,
    'day-first-dotted': () => `${two(ofMonth)}.${two(month)}.`,
    'month-first': () => `${two(month)}/${two(ofMonth)}`,
    'year-first': () => `${two(month)}-${two(ofMonth)}`,
  };
  return shown[habitsNow().dates]();
}

/**
 * A text with the dates and numbers in it as people read them. Sections of standards, such as `IAS 1.69`, and numbers
 * with several points stay; whole numbers do too.
 */
export function showText(text: string): string {
  return text
    .replaceAll(/\d{4}-\d{2}-\d{2}/g, (day) => showDay(day))
    .replaceAll(/(?<![\d.,§-]|IAS |IFRS |ASC )\d+\.\d+(?![\d-]|\.\d)/g, (plain) => showDecimal(plain));
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
  const negative = /^[-−]/.test(text);
  const [whole = '', decimals] = (negative ? text.slice(1) : text).split('.');
  return written(whole, decimals, negative);
}

/** A rate, a share or a price that came as a plain decimal text: `6.125%`. Below zero it keeps its sign. */
export function showRate(text: string): string {
  return text.replace('.', decimalMark()).replace(/^-/, '−');
}

/** A number of a chart's axis, with its thousands separated. */
export function showNumber(value: number): string {
  return showDecimal(String(Number(value.toFixed(3))));
}

import { showDay, showDecimal, showRate } from '@coffer/contract';
import { readPartOf } from '../typed/part-of';
import { readDay } from '../typed/typed-day';
import type { FreeField, Reads, Told } from './field';
import { readNumber, readPercent } from '../typed/typed-number';

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
  return percent === undefined ? '' : `${showRate(percent)}% a year`;
}

/** What was understood of a typed rise. */
export function riseHint(typed: string): string {
  const text = typed.trim();
  if (text === '') return '';
  const percent = text.endsWith('%') ? readPercent(text) : undefined;
  if (percent !== undefined) return `${showRate(percent)}% more each year`;
  const plain = readNumber(text);
  return plain === undefined ? '' : `${showDecimal(plain)} more each year`;
}

const understood: Readonly<Record<Reads, (typed: string) => string>> = {
  amount: amountHint,
  count: () => '',
  day: dayHint,
  days: () => '',
  price: () => '',
  rate: rateHint,
  rise: riseHint,
  'signed-rate': rateHint,
  text: () => '',
};

/** What is said beneath a field: what was understood, what was worked out for it, or what its being empty means. */
export function hintOf<Typed>(field: FreeField<Typed>, typed: Typed, told: Told): string {
  if (field.hint) return field.hint(typed, told);
  const text = String(typed[field.control]).trim();
  if (field.reads === 'count' && text !== '') return told.worked(field.control);
  if (text !== '' && text !== '?') return understood[field.reads](text);
  return told.worked(field.control) || (text === '' ? (field.empty ?? '') : '');
}

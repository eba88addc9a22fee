import * as v from 'valibot';
import { instrumentClasses } from '../api/views.ts';
import {
  companySettings,
  usualClassNames,
  type CompanySettings,
  type Setting,
  type SettingChanged,
} from '../api/settings-views.ts';
import { dateHabits, inHabits, numberHabits, usualHabits } from './habits.ts';
import { showAmount, showDay, showDecimal } from './show.ts';

/** What a setting is called. */
export const settingNames: Readonly<Record<Setting, string>> = {
  numbers: 'Numbers',
  belowZero: 'Below zero',
  dates: 'Dates',
  accruals: 'Accruals',
  materiality: 'Too small to accrue',
  closing: 'Closing a month',
  classNames: 'Classes',
  closedDays: 'Closed days',
  name: 'Name',
  currency: 'Currency',
  fiscalYearEndMonth: 'Fiscal year ends with',
  booksFrom: 'Books begin on',
};

const months = new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' });

/** A month by its name, from its number, 1 to 12. */
export function monthInWords(month: number): string {
  return months.format(new Date(Date.UTC(2000, month - 1, 1)));
}

/** What becomes of accruals, in words. */
export const accrualWords: Readonly<Record<CompanySettings['accruals'], string>> = {
  reversed: 'reversed on the first of the next month',
  standing: 'left standing until a payment clears them',
};

/** From what amount on accruals matter, in words; amounts in minor units. */
function materialityInWords({ each, sum }: CompanySettings['materiality'], digits: number): string {
  if (each === 0) return 'every accrual is booked';
  return `below ${showAmount(each, digits)} each, ${showAmount(sum, digits)} together`;
}

/** Who closes a month, in words. */
export const closingWords: Readonly<Record<CompanySettings['closing'], string>> = {
  'two-people': 'one person hands it over, and another approves it',
  'one-person': 'one person alone; every paper says so',
};

const words: { readonly [Key in Setting]: (value: CompanySettings[Key], digits: number) => string } = {
  numbers: (value) => numberHabits[value].shown,
  belowZero: (belowZero) => inHabits({ ...usualHabits, belowZero }, () => showDecimal('-1250.00')),
  dates: (value) => dateHabits[value],
  accruals: (value) => accrualWords[value],
  materiality: materialityInWords,
  closing: (value) => closingWords[value],
  classNames: (names) =>
    instrumentClasses
      .filter((each) => names[each] !== usualClassNames[each])
      .map((each) => names[each])
      .join(', ') || 'as is usual',
  closedDays: (days) => `${days.length} ${days.length === 1 ? 'day' : 'days'}`,
  name: (value) => value,
  currency: (value) => value,
  fiscalYearEndMonth: monthInWords,
  booksFrom: (value) => showDay(value),
};

/**
 * What a setting is or was, in words; empty where it is none that it can have.
 *
 * @param digits of the company's currency
 */
export function settingInWords<Key extends Setting>(setting: Key, value: unknown, digits: number): string {
  const read = v.safeParse(v.partial(companySettings), { [setting]: value });
  const known = read.success ? read.output[setting] : undefined;
  return known === undefined ? '' : words[setting](known as CompanySettings[Key], digits);
}

/** A setting that was changed, in words: `1,234,567.89 → 1.234.567,89`. */
export function changeInWords({ setting, was, is }: SettingChanged, digits: number): string {
  return `${settingInWords(setting, was, digits)} → ${settingInWords(setting, is, digits)}`;
}

import * as v from 'valibot';
import { accrualChoices } from '@coffer/core';
import { dayText, shortText } from '../document/scalars.ts';
import { habits, usualHabits } from '../words/habits.ts';
import { closingWays, newCompany } from './set-up-views.ts';
import { materiality } from './materiality.ts';
import { classNames, reasonText, type ClassNames } from './views.ts';

/** What they are called where nobody has chosen. */
export const usualClassNames: ClassNames = {
  'term-loan': 'Mortgages and term loans',
  'credit-line': 'Credit lines',
  note: 'Notes',
  bond: 'Bonds',
};

/** The most closed days that a company keeps. */
export const mostClosedDays = 1200;

/** A day on which the banks of the company are closed besides those of a published calendar, and what it is. */
export const closedDay = v.strictObject({ on: dayText, name: shortText });
export type ClosedDay = v.InferOutput<typeof closedDay>;

/** What a company decides about how it is shown and kept. */
export const companySettings = v.strictObject({
  ...habits.entries,
  /** What becomes of the accruals of a month, from the month on that it is decided for. */
  accruals: v.picklist(accrualChoices),
  /** From what amount on accruals are booked, from the month on that it is decided for. */
  materiality,
  closing: v.picklist(closingWays),
  classNames,
  /** In order, each day once. */
  closedDays: v.pipe(
    v.array(closedDay),
    v.maxLength(mostClosedDays, `expected at most ${mostClosedDays} days.`),
    v.check(
      (days) => days.every(({ on }, at) => at === 0 || on > (days[at - 1]?.on ?? '')),
      'expected the days in order, each once.',
    ),
  ),
  /** What the company is: these hold at once. */
  name: newCompany.entries.name,
  /** Of the books and of every instrument in them. */
  currency: newCompany.entries.currency,
  fiscalYearEndMonth: newCompany.entries.fiscalYearEndMonth,
  booksFrom: newCompany.entries.booksFrom,
});
export type CompanySettings = v.InferOutput<typeof companySettings>;
export type Setting = keyof CompanySettings;

/** Every setting, in the order in which they are shown. */
export const settingKeys = Object.keys(companySettings.entries) as Setting[];

/** Settings that are written beside a company; the others are the company's own facts. */
export const writtenSettings = [
  'numbers',
  'belowZero',
  'dates',
  'accruals',
  'materiality',
  'closing',
  'classNames',
  'closedDays',
] as const;
/** Of those: what is decided from a month on, open or to come; the others hold from the day they are decided. */
export const settingsOfMonths = ['accruals', 'materiality'] as const;
export type WrittenSetting = (typeof writtenSettings)[number];

/** Where nobody has decided. */
export const usualSettings: Pick<CompanySettings, WrittenSetting> = {
  ...usualHabits,
  accruals: 'reversed',
  materiality: { each: 0, sum: 0 },
  closing: 'two-people',
  classNames: usualClassNames,
  closedDays: [],
};

/** Settings that are to be, and why; they hold from today on. */
export const settingsChange = v.strictObject({
  settings: v.pipe(
    v.partial(companySettings),
    v.check((changed) => Object.keys(changed).length > 0, 'Nothing is changed.'),
  ),
  /** For accruals and from what amount on they matter: the first day of the month they hold from, open or to come; the open one where it is left out. */
  from: v.optional(dayText),
  reason: reasonText,
});
export type SettingsChange = v.InferOutput<typeof settingsChange>;

/** A setting that was changed: what it was and what it became, who decided that and why. */
export const settingChanged = v.strictObject({
  setting: v.picklist(settingKeys),
  from: dayText,
  was: v.unknown(),
  is: v.unknown(),
  reason: v.string(),
  by: v.nullable(v.string()),
  at: v.string(),
});
export type SettingChanged = v.InferOutput<typeof settingChanged>;

/** Whose published holidays are proposed: a country by its ISO 3166-1 code, or a region of it by its own. */
export const holidaysOf = v.strictObject({
  country: v.pipe(v.string(), v.regex(/^[A-Z]{2}$/, 'expected a country code such as DE.')),
  region: v.optional(
    v.pipe(v.string(), v.regex(/^[A-Za-z0-9-]{1,10}$/, 'expected a region code such as BY.')),
  ),
  from: v.pipe(
    v.string(),
    v.regex(/^\d{4}$/, 'expected a year.'),
    v.transform(Number),
    v.minValue(1970),
    v.maxValue(2100),
  ),
  to: v.pipe(
    v.string(),
    v.regex(/^\d{4}$/, 'expected a year.'),
    v.transform(Number),
    v.minValue(1970),
    v.maxValue(2100),
  ),
});

/** The countries whose holidays are known, with their regions. */
export const holidayCountries = v.strictObject({
  countries: v.array(
    v.strictObject({
      code: v.string(),
      name: v.string(),
      regions: v.array(v.strictObject({ code: v.string(), name: v.string() })),
    }),
  ),
});
export type HolidayCountries = v.InferOutput<typeof holidayCountries>['countries'];

/** The settings of a company as they hold today, and every change to them, newest first. */
export const settingsView = v.strictObject({
  settings: companySettings,
  /** Why a fact of the company stays as it is; facts that may still change are not listed. */
  fixed: v.record(v.string(), v.string()),
  /** The first day of the open month: accruals are as it has them, and can be decided from it on. */
  openFrom: dayText,
  changes: v.array(settingChanged),
});
export type SettingsView = v.InferOutput<typeof settingsView>;

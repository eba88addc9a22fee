import * as v from 'valibot';
import { accrualChoices } from '@coffer/core';
import { dayText } from '../document/scalars.ts';
import { habits, usualHabits } from '../words/habits.ts';
import { newCompany } from './set-up-views.ts';
import { classNames, reasonText, type ClassNames } from './views.ts';

/** What they are called where nobody has chosen. */
export const usualClassNames: ClassNames = {
  'term-loan': 'Mortgages and term loans',
  'credit-line': 'Credit lines',
  note: 'Notes',
  bond: 'Bonds',
};

/** What a company decides about how it is shown and kept. */
export const companySettings = v.strictObject({
  ...habits.entries,
  /** What becomes of the accruals of a month, from the month on that it is decided for. */
  accruals: v.picklist(accrualChoices),
  classNames,
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
export const writtenSettings = ['numbers', 'belowZero', 'dates', 'accruals', 'classNames'] as const;
export type WrittenSetting = (typeof writtenSettings)[number];

/** Where nobody has decided. */
export const usualSettings: Pick<CompanySettings, WrittenSetting> = {
  ...usualHabits,
  accruals: 'reversed',
  classNames: usualClassNames,
};

/** Settings that are to be, and why; they hold from today on. */
export const settingsChange = v.strictObject({
  settings: v.pipe(
    v.partial(companySettings),
    v.check((changed) => Object.keys(changed).length > 0, 'Nothing is changed.'),
  ),
  /** For accruals: the first day of the month they hold from, open or to come; the open one where it is left out. */
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

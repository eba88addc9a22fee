import { FormControl, FormGroup } from '@angular/forms';
import { addMonths, formatDay, parseDay, type CalendarDay } from '@coffer/core';
import {
  instrumentClasses,
  settingKeys,
  showDay,
  showMonth,
  type CompanySettings,
  type InstrumentClass,
  type Setting,
  type SettingsView,
} from '@coffer/contract';
import { FieldReader } from '../fields/field-reader';
import { readClosedDays, typedClosedDays } from './typed-closed-days';
import { habitControls, type HabitControls } from './habit-choice';

const control = <Of>(value: Of): FormControl<Of> => new FormControl(value, { nonNullable: true });

/** Months ahead that accruals may be decided from. */
const monthsAhead = 24;

/** Controls of the settings. */
export type SettingsForm = FormGroup<
  HabitControls & {
    accruals: FormControl<CompanySettings['accruals']>;
    closing: FormControl<CompanySettings['closing']>;
    classNames: FormGroup<Record<InstrumentClass, FormControl<string>>>;
  } & Record<
      'name' | 'currency' | 'fiscalYearEndMonth' | 'booksFrom' | 'closedDays' | 'from' | 'reason',
      FormControl<string>
    >
>;

/** The settings of a company as they are typed, begun with those that hold. */
export function settingsForm({ settings, openFrom, fixed }: SettingsView): SettingsForm {
  const form: SettingsForm = new FormGroup({
    ...habitControls(settings),
    name: control(settings.name),
    currency: control(settings.currency),
    fiscalYearEndMonth: control(String(settings.fiscalYearEndMonth)),
    booksFrom: control(showDay(settings.booksFrom)),
    accruals: control(settings.accruals),
    closing: control(settings.closing),
    from: control(openFrom),
    classNames: new FormGroup(
      Object.fromEntries(
        instrumentClasses.map((each) => [each, control(settings.classNames[each])]),
      ) as Record<InstrumentClass, FormControl<string>>,
    ),
    closedDays: control(typedClosedDays(settings.closedDays)),
    reason: control(''),
  });
  for (const key of ['currency', 'fiscalYearEndMonth', 'booksFrom'] as const) {
    if (fixed[key] !== undefined) form.controls[key].disable();
  }
  return form;
}
export type TypedSettings = ReturnType<SettingsForm['getRawValue']>;

/** Months that accruals may be decided from, as choices. */
export function monthChoices(openFrom: string): (readonly [string, string])[] {
  const open = parseDay(openFrom) as CalendarDay;
  return Array.from({ length: monthsAhead }, (_, at) => {
    const first = formatDay(addMonths(open, at));
    return [first, showMonth(first)] as const;
  });
}

/** What is typed that differs from what holds, and what of it cannot be read, by the keys of the call. */
export function readSettings(
  typed: TypedSettings,
  { settings: holds }: SettingsView,
): { readonly settings: Partial<CompanySettings>; readonly faults: Readonly<Record<string, string>> } {
  const read = new FieldReader();
  const closed = readClosedDays(typed.closedDays);
  if (closed.fault !== '') read.fault('settings.closedDays', closed.fault);
  const booksFrom = read.day('settings.booksFrom', typed.booksFrom);
  const settings: Partial<CompanySettings> = {
    numbers: typed.numbers,
    belowZero: typed.belowZero,
    dates: typed.dates,
    accruals: typed.accruals,
    closing: typed.closing,
    closedDays: [...closed.days],
    name: read.text('settings.name', typed.name) ?? '',
    currency: typed.currency,
    fiscalYearEndMonth: Number(typed.fiscalYearEndMonth),
    ...(booksFrom !== undefined && { booksFrom }),
    classNames: Object.fromEntries(
      instrumentClasses.map((each) => [
        each,
        read.text(`settings.classNames.${each}`, typed.classNames[each]) ?? '',
      ]),
    ) as CompanySettings['classNames'],
  };
  const same = (key: Setting): boolean => JSON.stringify(settings[key]) === JSON.stringify(holds[key]);
  const changed = settingKeys.filter((key) => settings[key] !== undefined && !same(key));
  return {
    settings: Object.fromEntries(changed.map((key) => [key, settings[key]])),
    faults: read.byKey(),
  };
}

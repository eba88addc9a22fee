import { FormControl, FormGroup } from '@angular/forms';
import {
  addMonths,
  type CalendarDay,
  currencyDigits,
  formatDay,
  type MinorUnits,
  parseAmount,
  parseDay,
} from '@coffer/core';
import {
  instrumentClasses,
  settingKeys,
  showAmount,
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
      | 'name'
      | 'currency'
      | 'fiscalYearEndMonth'
      | 'booksFrom'
      | 'closedDays'
      | 'smallEach'
      | 'smallSum'
      | 'from'
      | 'reason',
      FormControl<string>
    >
>;

/** The settings of a company as they are typed, begun with those that hold. */
export function settingsForm({ settings, openFrom, fixed }: SettingsView): SettingsForm {
  const digits = currencyDigits(settings.currency) ?? 2;
  const amount = (minor: MinorUnits): string => (minor === 0 ? '' : showAmount(minor, digits));
  const form: SettingsForm = new FormGroup({
    ...habitControls(settings),
    name: control(settings.name),
    currency: control(settings.currency),
    fiscalYearEndMonth: control(String(settings.fiscalYearEndMonth)),
    booksFrom: control(showDay(settings.booksFrom)),
    accruals: control(settings.accruals),
    closing: control(settings.closing),
    smallEach: control(amount(settings.materiality.each)),
    smallSum: control(amount(settings.materiality.sum)),
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

/** From what amount on accruals matter: both amounts, or neither. */
function readMateriality(
  read: FieldReader,
  { smallEach, smallSum, currency }: TypedSettings,
): CompanySettings['materiality'] | undefined {
  if (smallEach.trim() === '' && smallSum.trim() === '') return { each: 0, sum: 0 };
  const digits = currencyDigits(currency) ?? 2;
  const minor = (key: string, typed: string): number | undefined => {
    const text = read.amount(key, typed);
    const amount = text === undefined ? undefined : parseAmount(text, digits);
    if (text !== undefined && amount === undefined) read.fault(key, `Found more than ${digits} decimals.`);
    return amount;
  };
  const each = minor('settings.materiality.each', smallEach);
  const sum = minor('settings.materiality.sum', smallSum);
  if (each === undefined || sum === undefined) return undefined;
  if (each > 0 && sum >= each) return { each, sum };
  read.fault(
    'settings.materiality.sum',
    each === 0
      ? 'Leave both empty where every accrual is booked.'
      : 'What is left out together is at least what one accrual may be.',
  );
  return undefined;
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
  const materiality = readMateriality(read, typed);
  const settings: Partial<CompanySettings> = {
    numbers: typed.numbers,
    belowZero: typed.belowZero,
    dates: typed.dates,
    accruals: typed.accruals,
    closing: typed.closing,
    ...(materiality && { materiality }),
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

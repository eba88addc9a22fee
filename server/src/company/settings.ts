import type { Knex } from 'knex';
import * as v from 'valibot';
import { formatDay, monthEnd, type CalendarDay } from '@coffer/core';
import {
  companySettings,
  settingKeys,
  type settingsOfMonths,
  usualSettings,
  writtenSettings,
  type ClassNames,
  type CompanySettings,
  type Habits,
  type Setting,
  type SettingChanged,
  type SettingsView,
  type WrittenSetting,
} from '@coffer/contract';
import { monthStart, openPeriod } from '../periods/period-store.ts';
import { companyOf } from './company-store.ts';

type Written = Pick<CompanySettings, WrittenSetting>;

const written = v.partial(v.pick(companySettings, [...writtenSettings]));

/** What a company has decided that holds on a day, and what is usual where it has decided nothing. */
export async function writtenSettingsOn(database: Knex, companyId: number, day: string): Promise<Written> {
  const rows = await database('setting')
    .distinctOn('key')
    .where({ company_id: companyId })
    .whereIn('key', [...writtenSettings])
    .andWhere('holds_from', '<=', day)
    .orderBy([{ column: 'key' }, { column: 'holds_from', order: 'desc' }, { column: 'id', order: 'desc' }])
    .select<{ key: string; value: unknown }[]>('key', 'value');
  const decided = v.parse(written, Object.fromEntries(rows.map(({ key, value }) => [key, value])));
  return { ...usualSettings, ...decided } as Written;
}

/** How a company writes numbers and days, and what it calls its classes. */
export async function habitsOf(
  database: Knex,
  companyId: number,
): Promise<{ readonly habits: Habits; readonly classNames: ClassNames }> {
  // They hold from the day they are decided on, never from one to come.
  const { numbers, belowZero, dates, classNames } = await writtenSettingsOn(database, companyId, 'infinity');
  return { habits: { numbers, belowZero, dates }, classNames };
}

/** What becomes of the accruals of a month that opens, and from what amount on they matter, by its first day. */
export async function accruingFrom(
  database: Knex,
  companyId: number,
  firstDay: string,
): Promise<Pick<CompanySettings, (typeof settingsOfMonths)[number]>> {
  const { accruals, materiality } = await writtenSettingsOn(database, companyId, firstDay);
  return { accruals, materiality };
}

/** All settings of a company as they hold on a day. */
export async function settingsOn(database: Knex, companyId: number, day: string): Promise<CompanySettings> {
  const { name, currency, fiscalYearEndMonth, booksFrom } = await companyOf(database, companyId);
  return {
    ...(await writtenSettingsOn(database, companyId, day)),
    name,
    currency,
    fiscalYearEndMonth,
    booksFrom,
  };
}

/** Why facts of a company cannot be changed any more, by their setting. */
export async function fixedFacts(
  database: Knex,
  companyId: number,
): Promise<Readonly<Partial<Record<Setting, string>>>> {
  const closed = await database('period').where({ company_id: companyId, state: 'closed' }).first('ends_on');
  const kept = await database('instrument').where({ company_id: companyId }).first('name');
  const held = await database('ledger_balance').where({ company_id: companyId }).first('code');
  const month = 'A month is closed';
  const year = closed && `${month}, and another fiscal year would move it to another one.`;
  const money =
    (closed && `${month} in this currency.`) ??
    (kept && `${kept.name} is kept in this currency; books have one.`) ??
    (held && 'Balances of the ledger are typed in this currency.');
  const handed = await database('period_step').where({ company_id: companyId }).first('step');
  const begun =
    (closed && `${month}, and the books begin with it.`) ??
    (handed && 'A month was handed over, and the books begin with it.') ??
    (kept && `${kept.name} has come on with its balance at the close of the day before.`);
  return {
    ...(year && { fiscalYearEndMonth: year }),
    ...(money && { currency: money }),
    ...(begun && { booksFrom: begun }),
  };
}

/** The settings of a company as they are shown. */
export async function settingsView(
  database: Knex,
  companyId: number,
  today: CalendarDay,
): Promise<SettingsView> {
  const openFrom = await openMonth(database, companyId, today);
  const rows = await database('setting')
    .leftJoin('person', 'person.id', 'setting.kept_by')
    .where('setting.company_id', companyId)
    .orderBy('setting.id', 'desc')
    .select<Changed[]>('key', 'was', 'value', 'holds_from', 'reason', 'kept_at', 'person.name as by');
  return {
    settings: {
      ...(await settingsOn(database, companyId, formatDay(today))),
      ...(await accruingFrom(database, companyId, openFrom)),
    },
    fixed: await fixedFacts(database, companyId),
    openFrom,
    changes: rows.flatMap(({ key, ...row }): SettingChanged[] => {
      const setting = settingKeys.find((each) => each === key);
      if (setting === undefined) return [];
      const { was, value, holds_from: from, reason, by, kept_at: at } = row;
      return [{ setting, from, was, is: value, reason, by, at: at.toISOString() }];
    }),
  };
}

interface Changed {
  readonly key: string;
  readonly was: unknown;
  readonly value: unknown;
  readonly holds_from: string;
  readonly reason: string;
  readonly kept_at: Date;
  readonly by: string | null;
}

/** The first day of the open month; of today's, where none is open. */
export async function openMonth(database: Knex, companyId: number, today: CalendarDay): Promise<string> {
  const open = await openPeriod(database, companyId);
  return formatDay(monthStart(open?.ends_on ?? formatDay(monthEnd(today))));
}

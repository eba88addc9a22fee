import { isDeepStrictEqual } from 'node:util';
import type { Knex } from 'knex';
import {
  calendarFields,
  currencyDigits,
  formatDay,
  monthEnd,
  parseDay,
  type CalendarDay,
} from '@coffer/core';
import {
  settingsOfMonths,
  writtenSettings,
  type Fault,
  type Setting,
  type SettingsChange,
} from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { faultyInput } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import { monthStart, openPeriod } from '../periods/period-store.ts';
import { accruingFrom, fixedFacts, openMonth, settingsOn, writtenSettingsOn } from './settings.ts';
import { takenName } from './taken-name.ts';

/**
 * Changes settings of a company, all or none, each with what it was, who decided it, from when and why. What is as it
 * was is left out. Throws Refusal 422, at the settings that cannot be so.
 */
export async function changeSettings(
  database: Knex,
  by: Maker,
  { settings, from, reason }: SettingsChange,
  today: CalendarDay,
): Promise<void> {
  const { companyId } = by;
  // The month before the company, as a close holds them: neither waits for the other for ever.
  await database('period')
    .where({ company_id: companyId })
    .whereNot({ state: 'closed' })
    .forUpdate()
    .select('ends_on');
  await database('company').where({ id: companyId }).forUpdate().select('id');
  const opens = await openMonth(database, companyId, today);
  const month = from ?? opens;
  const before = {
    ...(await settingsOn(database, companyId, formatDay(today))),
    ...(await accruingFrom(database, companyId, month)),
  };
  const forOpen = await accruingFrom(database, companyId, opens);
  const changed = (Object.keys(settings) as Setting[]).filter(
    (key) => settings[key] !== undefined && !isDeepStrictEqual(settings[key], before[key]),
  );
  const faults = await faultsOf(database, companyId, settings, changed);
  const ofMonths = settingsOfMonths.filter((key) => changed.includes(key));
  if (ofMonths.length > 0) faults.push(...faultsOfMonth(month, opens));
  if (faults.length > 0) throw faultyInput(faults);
  if (changed.length === 0) return;
  const kept = changed.map((key) => ({
    key,
    was: before[key],
    value: settings[key],
    from: settingsOfMonths.some((each) => each === key) ? month : formatDay(today),
  }));
  await keepSettings(database, by, kept, reason);
  await changeFacts(database, by, settings, changed);
  if (ofMonths.length > 0) await giveOpenMonth(database, by, forOpen);
  const told = kept.map(({ key, was, value: is, from: holds }): [Setting, object] => [
    key,
    { was, is, from: holds },
  ]);
  await audit(database, by, 'settings-changed', [
    { subject: changed.join(', '), detail: { reason, settings: Object.fromEntries(told) } },
  ]);
}

/** Writes settings down, each from its day on. */
export async function keepSettings(
  database: Knex,
  by: Maker,
  settings: readonly {
    readonly key: Setting;
    readonly was: unknown;
    readonly value: unknown;
    readonly from: string;
  }[],
  reason: string,
): Promise<void> {
  await database('setting').insert(
    settings.map(({ key, was, value, from }) => ({
      company_id: by.companyId,
      key,
      was: JSON.stringify(was),
      value: JSON.stringify(value),
      holds_from: from,
      reason,
      kept_by: by.id,
    })),
  );
}

async function faultsOf(
  database: Knex,
  companyId: number,
  settings: SettingsChange['settings'],
  changed: readonly Setting[],
): Promise<Fault[]> {
  const fixed = await fixedFacts(database, companyId);
  const faults = changed.flatMap((key): Fault[] =>
    fixed[key] === undefined ? [] : [{ key: `settings.${key}`, message: fixed[key] }],
  );
  if (changed.includes('currency')) {
    const { each } =
      settings.materiality ?? (await writtenSettingsOn(database, companyId, 'infinity')).materiality;
    const message =
      'Say anew, in the other currency, from what amount on accruals matter, or leave it empty.';
    if (each > 0 && settings.materiality === undefined) faults.push({ key: 'settings.materiality', message });
  }
  if (changed.includes('name')) {
    faults.push(...(await takenName(database, settings.name ?? '', 'settings.name', companyId)));
  }
  return faults;
}

/** What is wrong with a month that accruals are to be decided from. */
function faultsOfMonth(from: string, opens: string): Fault[] {
  if (calendarFields(parseDay(from) as CalendarDay).day !== 1)
    return [{ key: 'from', message: 'Accruals are decided from the first day of a month.' }];
  if (from >= opens) return [];
  const message = `That month is closed and its accruals are booked; the open one begins on ${opens}.`;
  return [{ key: 'from', message }];
}

/** Facts stand with the company itself. */
async function changeFacts(
  database: Knex,
  by: Maker,
  settings: SettingsChange['settings'],
  changed: readonly Setting[],
): Promise<void> {
  const facts = changed.filter((key) => !writtenSettings.some((written) => written === key));
  if (facts.length === 0) return;
  const { companyId } = by;
  const { name, currency, fiscalYearEndMonth, booksFrom } = settings;
  await database('company')
    .where({ id: companyId })
    .update({
      ...(name !== undefined && { name }),
      ...(currency !== undefined && { currency, digits: currencyDigits(currency) ?? 2 }),
      ...(fiscalYearEndMonth !== undefined && { fiscal_year_end_month: fiscalYearEndMonth }),
      ...(booksFrom !== undefined && { books_from: booksFrom }),
    });
  if (booksFrom === undefined || !changed.includes('booksFrom')) return;
  await database('period')
    .where({ company_id: companyId })
    .whereNot({ state: 'closed' })
    .update({ ends_on: formatDay(monthEnd(parseDay(booksFrom) as CalendarDay)) });
  await giveOpenMonth(database, by);
}

/** The open month goes by what is decided from its first day on. */
async function giveOpenMonth(
  database: Knex,
  { companyId }: Maker,
  before?: Awaited<ReturnType<typeof accruingFrom>>,
): Promise<void> {
  const open = await openPeriod(database, companyId);
  if (!open) return;
  const now = await accruingFrom(database, companyId, formatDay(monthStart(open.ends_on)));
  // What was chosen for the month alone stays, unless the settings decide otherwise for it.
  const accruals = before?.accruals === now.accruals ? open.accruals : now.accruals;
  if (accruals === open.accruals) return;
  await database('period').where({ company_id: companyId, ends_on: open.ends_on }).update({ accruals });
}

import type { Knex } from 'knex';
import {
  closeEntries,
  firstDay,
  amortizedBetween,
  interestExpense,
  parseDay,
  type AccountRole,
  type Balances,
  type CalendarDay,
  type CloseEntries,
} from '@coffer/core';
import type { CloseRow, Unworkable } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { newestVersions } from '../instruments/instrument-store.ts';
import { figuresOn, isSettled, workedOut, type KnownInstrument } from '../instruments/known-instruments.ts';
import { inShares } from '../workers/shares.ts';
import { accrualChoicesOf, monthStart, type AccrualChoices, type PeriodRow } from './period-store.ts';

/** What closing a month makes of one instrument. */
export interface InstrumentWork extends CloseEntries {
  readonly instrument: KnownInstrument;
  readonly row: CloseRow;
}

/** What closing a month makes of all instruments, and those that cannot be worked out. */
export interface MonthWork {
  readonly work: readonly InstrumentWork[];
  readonly unworkable: readonly Unworkable[];
}

/** Works out the month of every instrument that has begun by its end, in order of name. */
export async function monthWork(database: Knex, companyId: number, period: PeriodRow): Promise<MonthWork> {
  const endsOn = period.ends_on;
  const choices = await accrualChoicesOf(database, companyId, period);
  const stored = await newestVersions(database, companyId);
  const { booksFrom } = await companyOf(database, companyId);
  const posted = await postedBalances(database, companyId);
  const work: InstrumentWork[] = [];
  const unworkable: Unworkable[] = [];
  await inShares(stored, (version) => {
    const held = posted.get(version.id) ?? new Map<AccountRole, number>();
    const worked = workedOut(version, (instrument) =>
      instrumentWork(instrument, endsOn, booksFrom, held, choices),
    );
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made) work.push(worked.made);
  });
  return { work, unworkable };
}

/** The month of one instrument; `undefined` when it has not begun, or is settled and needs nothing. */
export function instrumentWork(
  instrument: KnownInstrument,
  endsOn: string,
  booksFrom: string,
  posted: Balances,
  choices: AccrualChoices,
): InstrumentWork | undefined {
  const { id, version, schedule, document } = instrument;
  const end = parseDay(endsOn) as CalendarDay;
  if (firstDay(schedule) > end) return undefined;
  const before = monthStart(endsOn) - 1;
  const begun = parseDay(booksFrom) as CalendarDay;
  const made = closeEntries(schedule, end, begun, posted, choices.before, choices.now);
  const figures = figuresOn(instrument, end);
  const figuresBefore = figuresOn(instrument, before);
  const settled = isSettled(instrument, figures, end) && isSettled(instrument, figuresBefore, before);
  if (settled && made.inPeriod.length === 0) return undefined;
  const row: CloseRow = {
    id,
    name: document.name,
    version,
    figures,
    expense: interestExpense(schedule, before, end),
    amortized: amortizedBetween(schedule, before, end),
    currentChange: figures.current - figuresBefore.current,
  };
  return { ...made, instrument, row };
}

/** What the books hold for each instrument, by account. */
async function postedBalances(
  database: Knex,
  companyId: number,
): Promise<Map<string, Map<AccountRole, number>>> {
  const rows = await linesByInstrument(database, companyId);
  const balances = new Map<string, Map<AccountRole, number>>();
  for (const { instrument_id: id, role, amount } of rows) {
    const ofInstrument = balances.get(id) ?? new Map<AccountRole, number>();
    balances.set(id, ofInstrument.set(role, Number(amount)));
  }
  return balances;
}

/** What the books hold for one instrument, by account. */
export async function postedBalancesOf(database: Knex, companyId: number, id: string): Promise<Balances> {
  const rows = await linesByInstrument(database, companyId).where({ instrument_id: id });
  return new Map(rows.map(({ role, amount }) => [role, Number(amount)]));
}

interface BalanceRow {
  readonly instrument_id: string;
  readonly role: AccountRole;
  readonly amount: string;
}

function linesByInstrument(database: Knex, companyId: number): Knex.QueryBuilder<object, BalanceRow[]> {
  return database('entry')
    .join('entry_line', (on) => {
      on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
    })
    .where({ 'entry.company_id': companyId })
    .groupBy('instrument_id', 'role')
    .select('instrument_id', 'role', database.raw('sum(debit::numeric - credit::numeric) as amount'));
}

import { positionFigureKeys } from '@coffer/core';
import type { BundleFile } from '@coffer/contract';
import { columnOf } from '../database/tables.ts';

/** Where the rows of a file of a bundle stand in the database. */
interface Source {
  /** What is selected, each by the name it has in the file; `company_id = :company` is asked by `where`. */
  readonly select: string;
  readonly from: string;
  readonly where?: string;
  readonly order: string;
  /** Rows that are read at once; fewer where one is large. */
  readonly atATime?: number;
}

/** The places of instruments within a bundle, from 1. */
const place = `(select instrument_place.place from instrument_place where instrument_place.id = instrument_id) as instrument`;

const figures = [...positionFigureKeys.map(columnOf), 'expense', 'amortized', 'current_change']
  .map((column) => `"${column}"`)
  .join(', ');

/**
 * The files of a bundle in the order in which they are written and read. Columns are named by the database; a file has
 * them in the words of the contract.
 */
export const bundleSources: Readonly<Record<BundleFile, Source>> = {
  settings: {
    select: 'key, was, value, holds_from, reason, kept_at',
    from: 'setting',
    order: 'id',
  },
  accounts: { select: 'code, name', from: 'account', order: 'code' },
  accountsOfRoles: { select: 'role, code', from: 'account_of_role', order: 'role' },
  ledgerBalances: { select: 'code, balance', from: 'ledger_balance', order: 'code' },
  indexes: { select: 'name, key, revision', from: 'rate_index', order: 'id' },
  fixings: {
    select: 'index_place.place as index, on_day, rate, source, reason, kept_at',
    from: `fixing join (select id, row_number() over (order by id) as place from rate_index
             where company_id = :company) index_place on index_place.id = index_id`,
    where: 'true',
    order: 'fixing.id',
  },
  instruments: {
    select: `name, kind, version, created_at, withdrawn_at, withdrawn_because, cost_centre`,
    from: 'instrument join instrument_place using (id)',
    order: 'place',
  },
  versions: {
    select: `${place}, version, document, reason, made_at`,
    from: 'instrument_version join instrument_place on instrument_place.id = instrument_id',
    where: 'true',
    order: 'place, version',
    atATime: 500,
  },
  accountsOfInstruments: {
    select: `${place}, role, code`,
    from: 'account_of_instrument',
    order: 'instrument, role',
  },
  papers: {
    select: `${place}, name, type, bytes, encode(sha256, 'hex') as sha256, kept_at, taken_away_at, taken_away_because`,
    from: 'paper',
    order: 'instrument, kept_at, sha256',
  },
  periods: {
    // A month that is handed over is open where it comes to: nobody there has prepared it.
    select: `ends_on, case state when 'closed' then state else 'open' end as state, closed_at, accruals, settled, reversals`,
    from: 'period',
    order: 'ends_on',
  },
  entries: {
    select: `number, period_end, date, kind, memo, ${place}, instrument_version, row_number, posted_at, for_period,
             cost_centre, (select jsonb_agg(jsonb_build_object('role', role, 'code', account_code, 'debit', debit,
               'credit', credit) order by line) from entry_line
               where entry_line.company_id = entry.company_id and entry_line.number = entry.number) as lines`,
    from: 'entry',
    order: 'number',
  },
  reported: {
    select: `period_end, ${place}, instrument_version, ${figures}`,
    from: 'reported_position',
    order: 'period_end, instrument',
  },
  reportedFunds: {
    select: `period_end, ${place}, instrument_version, balance, accrued_interest, deposited, earned, to_goal`,
    from: 'reported_fund',
    order: 'period_end, instrument',
  },
  leftOut: {
    select: `period_end, ${place}, made_good, role, amount`,
    from: 'left_out',
    order: 'period_end, instrument, made_good, role',
  },
  scenarios: {
    select: 'name, revision, changed_at',
    from: 'scenario',
    order: 'lower(name)',
  },
  scenarioChanges: {
    select: `scenario_place.place as scenario, scenario_change.place, ${place}, instrument_version, change`,
    from: `scenario_change join (select id, row_number() over (order by lower(name)) as place from scenario
             where company_id = :company) scenario_place on scenario_place.id = scenario_id`,
    where: 'true',
    order: 'scenario, scenario_change.place',
  },
};

/** Instruments in the order in which they came: a place that holds in whatever database they are. */
export const instrumentPlaces = `create temporary table instrument_place on commit drop as
  select id, row_number() over (order by created_at, lower(name), id) as place from instrument where company_id = :company`;

/** A column of the database in the words of a file, and back. */
export const inFile = (column: string): string =>
  column.replaceAll(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());
export const inDatabase = (key: string): string =>
  key.replaceAll(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

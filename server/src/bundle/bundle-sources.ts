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

/** The order in which instruments came: their place in it, from 1, holds in whatever database they are. */
export const came = 'instrument.created_at, lower(instrument.name), instrument.id';
const ofInstrument = 'join instrument on instrument.id = instrument_id';
/** In a file the place of the instrument stands for its id. */
const instrument = 'instrument_id as instrument';

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
    from: 'instrument',
    order: came,
  },
  versions: {
    select: `${instrument}, instrument_version.version, document, reason, made_at`,
    from: `instrument_version ${ofInstrument}`,
    where: 'instrument.company_id = :company',
    order: `${came}, instrument_version.version`,
    atATime: 500,
  },
  accountsOfInstruments: {
    select: `${instrument}, role, code`,
    from: `account_of_instrument ${ofInstrument}`,
    where: 'account_of_instrument.company_id = :company',
    order: `${came}, role`,
  },
  papers: {
    select: `${instrument}, paper.name, type, bytes, encode(sha256, 'hex') as sha256, kept_at, taken_away_at,
      taken_away_because`,
    from: `paper ${ofInstrument}`,
    where: 'paper.company_id = :company',
    order: `${came}, kept_at, sha256`,
  },
  periods: {
    // A month that is handed over is open where it comes to: nobody there has prepared it.
    select: `ends_on, case state when 'closed' then state else 'open' end as state, closed_at, accruals, settled, reversals`,
    from: 'period',
    order: 'ends_on',
  },
  entries: {
    select: `number, period_end, date, kind, memo, ${instrument}, instrument_version, row_number, posted_at, for_period,
             cost_centre, (select jsonb_agg(jsonb_build_object('role', role, 'code', account_code, 'debit', debit,
               'credit', credit) order by line) from entry_line
               where entry_line.company_id = entry.company_id and entry_line.number = entry.number) as lines`,
    from: 'entry',
    order: 'number',
  },
  reported: {
    select: `period_end, ${instrument}, instrument_version, ${figures}`,
    from: `reported_position ${ofInstrument}`,
    where: 'reported_position.company_id = :company',
    order: `period_end, ${came}`,
  },
  reportedFunds: {
    select: `period_end, ${instrument}, instrument_version, balance, accrued_interest, deposited, earned, to_goal`,
    from: `reported_fund ${ofInstrument}`,
    where: 'reported_fund.company_id = :company',
    order: `period_end, ${came}`,
  },
  leftOut: {
    select: `period_end, ${instrument}, made_good, role, amount`,
    from: `left_out ${ofInstrument}`,
    where: 'left_out.company_id = :company',
    order: `period_end, ${came}, made_good, role`,
  },
  toldAtClose: {
    select: `period_end, ${instrument}, told`,
    from: `told_at_close ${ofInstrument}`,
    where: 'told_at_close.company_id = :company',
    order: `period_end, ${came}`,
  },
  scenarios: {
    select: 'name, revision, changed_at',
    from: 'scenario',
    order: 'lower(name)',
  },
  scenarioChanges: {
    select: `scenario_place.place as scenario, scenario_change.place, ${instrument}, instrument_version, change`,
    from: `scenario_change join (select id, row_number() over (order by lower(name)) as place from scenario
             where company_id = :company) scenario_place on scenario_place.id = scenario_id`,
    where: 'true',
    order: 'scenario, scenario_change.place',
  },
};

/** A column of the database in the words of a file, and back. */
export const inFile = (column: string): string =>
  column.replaceAll(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());
export const inDatabase = (key: string): string =>
  key.replaceAll(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

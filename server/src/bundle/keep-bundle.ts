import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { currencyDigits, formatDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import {
  bundleFiles,
  type BundleFile,
  type BundleHead,
  type BundleRow,
  type BundleRows,
} from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { trailHead } from '../audit/trail.ts';
import { takenName } from '../company/taken-name.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import { paperTypeOf } from '../papers/paper-type.ts';
import { verifyCompany } from '../verify/verify-books.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { inDatabase } from './bundle-sources.ts';
import type { ReadBundle } from './read-bundle.ts';

/** Rows that are written at once. */
const atATime = 2000;

/**
 * Makes a company of a bundle, administered by who brings it: everything is written through the same guards as it was
 * the first time, month by month, and held against what it should agree with; where anything does not, all of it is
 * refused. Gives the company's id. Throws {@link Refusal} 422.
 *
 * @param name what the company is called here; as in the bundle where it is left out
 */
export async function keepBundle(
  database: Knex,
  figures: FigureThreads,
  by: number,
  { head, rows, papers }: ReadBundle,
  name = head.name,
): Promise<number> {
  const taken = await takenName(database, name, 'name');
  if (taken.length > 0) throw faultyInput(taken);
  refuseGaps(head, rows);
  const [made] = await database('company')
    .insert({
      name,
      currency: head.currency,
      digits: currencyDigits(head.currency) ?? 2,
      fiscal_year_end_month: head.fiscalYearEndMonth,
      books_from: head.booksFrom,
      last_entry_number: rows.entries.length,
    })
    .returning('id');
  const companyId = made?.id ?? 0;
  await database('member').insert({ company_id: companyId, person_id: by, role: ['prepare', 'administer'] });
  await written(() => new KeptBundle(database, companyId, rows).all(papers));
  const [wrong] = await verifyCompany(database, figures, companyId);
  if (wrong) throw disagrees(wrong.message);
  // Last of all: whoever writes into the trail holds it until all is done.
  await audit(database, { companyId, id: by }, 'company-brought', [
    { subject: name, detail: { from: head.name, madeAt: head.madeAt } },
  ]);
  return companyId;
}

/** Months follow each other from the first day of the books on, the last of them open. */
function refuseGaps({ booksFrom }: BundleHead, { periods }: BundleRows): void {
  let first = parseDay(booksFrom) as CalendarDay;
  periods.forEach(({ endsOn, state }, at) => {
    const last = at === periods.length - 1;
    if (endsOn !== formatDay(monthEnd(first)) || (state === 'closed') === last)
      throw disagrees(`The month to ${endsOn} does not follow the one before it.`);
    first = monthEnd(first) + 1;
  });
  if (periods.length === 0) throw disagrees('It has no month.');
}

const disagrees = (message: string): Refusal =>
  new Refusal(
    422,
    'no-bundle',
    `What the file holds does not agree with itself: ${message} Nothing was kept.`,
  );

/** What the database refuses of a bundle, by constraint or by what a value cannot be, is the bundle's fault. */
async function written(write: () => Promise<void>): Promise<void> {
  try {
    await write();
  } catch (error) {
    const { code, constraint, detail } = error as { code?: string; constraint?: string; detail?: string };
    if (code === undefined || !/^(22|23)/.test(code)) throw error;
    throw disagrees(`${[detail, constraint].filter(Boolean).join(' ')}.`);
  }
}

/** What is written of one bundle: instruments, indexes and scenarios by ids of their own here. */
class KeptBundle {
  private readonly instruments: readonly string[];
  private readonly scenarios: readonly string[];

  constructor(
    private readonly database: Knex,
    private readonly companyId: number,
    private readonly rows: BundleRows,
  ) {
    this.instruments = rows.instruments.map(() => randomUUID());
    this.scenarios = rows.scenarios.map(() => randomUUID());
  }

  async all(papers: ReadBundle['papers']): Promise<void> {
    const { rows } = this;
    await this.insert('setting', 'settings', rows.settings);
    await this.insert('account', 'accounts', rows.accounts);
    await this.insert('account_of_role', 'accountsOfRoles', rows.accountsOfRoles);
    await this.insert('ledger_balance', 'ledgerBalances', rows.ledgerBalances);
    await this.fixings();
    await this.insert(
      'instrument',
      'instruments',
      rows.instruments.map((row, at) => ({ ...row, id: this.instruments[at] })),
      ['id'],
    );
    await this.insert('instrument_version', 'versions', rows.versions.map(this.ofInstrument), [], false);
    await this.insert(
      'account_of_instrument',
      'accountsOfInstruments',
      rows.accountsOfInstruments.map(this.ofInstrument),
    );
    await this.papers(papers);
    for (const period of rows.periods) await this.month(period);
    await this.scenariosOf();
    // What is looked at when a transaction ends is looked at here, where it can still be told.
    await this.database.raw('set constraints all immediate');
  }

  private readonly ofInstrument = <Row extends { readonly instrument: number }>(row: Row): Row & object => ({
    ...row,
    instrumentId: this.idOf(row.instrument),
  });

  /** A moment to the microsecond, as it was kept. */
  private at(moment: string): Knex.Raw {
    return this.database.raw('?::timestamptz', [moment]);
  }

  private idOf(instrument: number): string {
    const id = this.instruments[instrument - 1];
    if (id === undefined) throw disagrees(`There is no instrument ${instrument}.`);
    return id;
  }

  /** Writes rows into a table, in the columns that their file has. */
  private async insert(
    table: string,
    file: BundleFile,
    rows: readonly object[],
    more: readonly string[] = [],
    ofCompany = true,
  ): Promise<void> {
    const own = Object.keys(bundleFiles[file].entries).filter((key) => key !== 'lines');
    const columns = [...own, ...more].map((key) => (key === 'instrument' ? 'instrumentId' : key));
    const list = columns.map((key) => `"${inDatabase(key)}"`).join(', ');
    for (let from = 0; from < rows.length; from += atATime) {
      const chunk = rows
        .slice(from, from + atATime)
        .map((row) =>
          Object.fromEntries(Object.entries(row).map(([key, value]) => [inDatabase(key), value as unknown])),
        );
      await this.database.raw(
        `insert into ${table} (${ofCompany ? 'company_id, ' : ''}${list})
         select ${ofCompany ? '?, ' : ''}${list} from jsonb_populate_recordset(null::${table}, ?::jsonb)`,
        [...(ofCompany ? [this.companyId] : []), JSON.stringify(chunk)],
      );
    }
  }

  private async fixings(): Promise<void> {
    const ids: number[] = [];
    for (const { name, key, revision } of this.rows.indexes) {
      const [row] = await this.database('rate_index')
        .insert({ company_id: this.companyId, name, key, revision })
        .returning('id');
      ids.push(row?.id ?? 0);
    }
    const rows = this.rows.fixings.map(({ index, ...fixing }) => {
      const id = ids[index - 1];
      if (id === undefined) throw disagrees(`There is no index ${index}.`);
      return {
        index_id: id,
        on_day: fixing.onDay,
        rate: fixing.rate,
        source: fixing.source,
        reason: fixing.reason,
        kept_by: null,
        kept_at: this.at(fixing.keptAt),
      };
    });
    for (let from = 0; from < rows.length; from += atATime)
      await this.database('fixing').insert(rows.slice(from, from + atATime));
  }

  private async papers(papers: ReadBundle['papers']): Promise<void> {
    for (const [at, paper] of this.rows.papers.entries()) {
      const content = papers.get(at + 1);
      if ((content === undefined) !== (paper.takenAwayAt !== null))
        throw disagrees(`The paper ${paper.name} is not in it.`);
      if (content !== undefined && (await paperTypeOf(content)) !== paper.type)
        throw disagrees(`The paper ${paper.name} is not what it is said to be.`);
      await this.database('paper').insert({
        company_id: this.companyId,
        instrument_id: this.idOf(paper.instrument),
        name: paper.name,
        type: paper.type,
        bytes: paper.bytes,
        sha256: Buffer.from(paper.sha256, 'hex'),
        content: content === undefined ? null : Buffer.from(content),
        kept_by: null,
        kept_at: this.at(paper.keptAt),
        ...(paper.takenAwayAt !== null && {
          taken_away_at: this.at(paper.takenAwayAt),
          taken_away_because: paper.takenAwayBecause,
        }),
      });
    }
  }

  /** A month as it was kept: opened, posted to, reported, closed. */
  private async month({
    endsOn,
    state,
    closedAt,
    accruals,
    settled,
    reversals,
  }: BundleRow<'periods'>): Promise<void> {
    const { database, companyId, rows } = this;
    await database('period').insert({ company_id: companyId, ends_on: endsOn, state: 'open', accruals });
    const ofMonth = <Row extends { readonly periodEnd: string }>(all: readonly Row[]): Row[] =>
      all.filter(({ periodEnd }) => periodEnd === endsOn);
    const entries = ofMonth(rows.entries);
    for (let from = 0; from < entries.length; from += atATime) {
      const chunk = entries.slice(from, from + atATime);
      await this.insert('entry', 'entries', chunk.map(this.ofInstrument));
      const lines = chunk.flatMap(({ number, lines: of }) =>
        of.map(({ role, code, debit, credit }, at) => ({
          company_id: companyId,
          number,
          line: at + 1,
          role,
          account_code: code,
          debit,
          credit,
        })),
      );
      await database.raw(
        `insert into entry_line select * from jsonb_populate_recordset(null::entry_line, ?::jsonb)`,
        [JSON.stringify(lines)],
      );
    }
    await this.insert('reported_position', 'reported', ofMonth(rows.reported).map(this.ofInstrument));
    await this.insert('reported_fund', 'reportedFunds', ofMonth(rows.reportedFunds).map(this.ofInstrument));
    await this.insert('left_out', 'leftOut', ofMonth(rows.leftOut).map(this.ofInstrument));
    await this.insert('told_at_close', 'toldAtClose', ofMonth(rows.toldAtClose).map(this.ofInstrument));
    if (state !== 'closed') return;
    await database('period')
      .where({ company_id: companyId, ends_on: endsOn })
      .update({
        state,
        closed_at: this.at(closedAt ?? ''),
        closed_as: 'brought',
        seen_to: (await trailHead(database))?.event ?? 0,
        settled,
        reversals,
      });
  }

  private async scenariosOf(): Promise<void> {
    await this.insert(
      'scenario',
      'scenarios',
      this.rows.scenarios.map((row, at) => ({ ...row, id: this.scenarios[at] })),
      ['id'],
    );
    const changes = this.rows.scenarioChanges.map((row) => {
      const scenarioId = this.scenarios[row.scenario - 1];
      if (scenarioId === undefined) throw disagrees(`There is no scenario ${row.scenario}.`);
      return {
        scenario_id: scenarioId,
        place: row.place,
        instrument_id: this.idOf(row.instrument),
        instrument_version: row.instrumentVersion,
        change: JSON.stringify(row.change),
      };
    });
    if (changes.length > 0) await this.database('scenario_change').insert(changes);
  }
}

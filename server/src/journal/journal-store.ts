import type { Knex } from 'knex';
import type { EntryView } from '@coffer/contract';
import { accountsOf } from '../accounts/accounts.ts';
import { entryLines } from './entry-lines.ts';
import { postedViews, type PostedLine } from './entry-view.ts';

/** Which posted entries are asked for: by date, both days included, and of one instrument or all. */
export interface JournalSpan {
  readonly companyId: number;
  readonly from: string;
  readonly to: string;
  readonly instrument?: string | undefined;
}

const atATime = 500;

function inSpan(entries: Knex.QueryBuilder, span: JournalSpan): Knex.QueryBuilder {
  const query = entries
    .where({ 'entry.company_id': span.companyId })
    .whereBetween('entry.date', [span.from, span.to]);
  if (span.instrument !== undefined) query.andWhere({ 'entry.instrument_id': span.instrument });
  return query;
}

/** Posted entries by number, at most 500, and the number to go on after. */
export async function journalPage(
  database: Knex,
  span: JournalSpan,
  after = 0,
): Promise<{ entries: EntryView[]; next: number | null }> {
  const numbers = await inSpan(database('entry'), span)
    .where('entry.number', '>', after)
    .orderBy('entry.number')
    .limit(atATime + 1)
    .pluck<number[]>('entry.number');
  const chosen = numbers.slice(0, atATime);
  const entries = await postedEntries(database, span.companyId, chosen);
  return { entries, next: numbers.length > atATime ? (chosen.at(-1) ?? null) : null };
}

function linesOf(database: Knex, companyId: number, numbers: readonly number[]): Promise<PostedLine[]> {
  return entryLines(database, companyId)
    .join('instrument_version', (on) => {
      on.on('instrument_version.instrument_id', 'entry.instrument_id').andOn(
        'instrument_version.version',
        'entry.instrument_version',
      );
    })
    .whereIn('entry.number', [...numbers])
    .orderBy(['entry.number', 'entry_line.line'])
    .select<PostedLine[]>(
      'entry.number',
      'entry.date',
      'entry.kind',
      'entry.memo',
      'entry.instrument_id',
      // What it was called then: a closed month keeps its names.
      database.raw(`instrument_version.document ->> 'name' as instrument`),
      'entry.instrument_version as version',
      'entry.for_period',
      'entry.row_number',
      'entry.cost_centre',
      'entry_line.account_code as code',
      'entry_line.role',
      'entry_line.debit',
      'entry_line.credit',
    );
}

/** Posted entries by their numbers. */
export async function postedEntries(
  database: Knex,
  companyId: number,
  numbers: readonly number[],
): Promise<EntryView[]> {
  const lines = await linesOf(database, companyId, numbers);
  return postedViews(await accountsOf(database, companyId), lines);
}

/** Count and sums of all entries in a span. */
export async function journalTotals(
  database: Knex,
  span: JournalSpan,
): Promise<{ count: number; debits: number; credits: number }> {
  const counted = await inSpan(database('entry'), span).count<{ many: number }[]>({ many: '*' });
  const summed = await inSpan(entryLines(database, span.companyId), span).select<
    { debits: string | null; credits: string | null }[]
  >(database.raw('sum(debit::numeric) as debits'), database.raw('sum(credit::numeric) as credits'));
  return {
    count: counted[0]?.many ?? 0,
    debits: Number(summed[0]?.debits ?? 0),
    credits: Number(summed[0]?.credits ?? 0),
  };
}

/** The entries posted for one instrument in one period. */
export async function entriesOfInstrument(
  database: Knex,
  companyId: number,
  periodEnd: string,
  instrument: string,
): Promise<EntryView[]> {
  const numbers = await database('entry')
    .where({ company_id: companyId, period_end: periodEnd, instrument_id: instrument })
    .pluck<number[]>('number');
  return postedEntries(database, companyId, numbers);
}

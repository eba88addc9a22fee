import type { Knex } from 'knex';
import type { EntryView } from '@coffer/contract';
import { trailHead } from '../../audit/trail.ts';
import { draftView } from '../../journal/entry-view.ts';
import { postedEntries } from '../../journal/journal-store.ts';
import type { Maker } from '../../instruments/instrument-store.ts';
import type { FigureThreads } from '../../workers/figure-threads.ts';
import { closeView } from '../close-view.ts';
import { differencesView } from '../differences.ts';
import { monthMade } from '../month-made.ts';
import { periodEnding } from '../period-store.ts';
import type { CloseRecord } from './close-record.ts';

/** Entries that are read at once. */
const atATime = 500;

/**
 * Everything that a working paper of a close tells. Throws Refusal 404 for a month that is none.
 *
 * @param database in a transaction that sees one moment
 */
export async function readCloseRecord(
  database: Knex,
  figures: FigureThreads,
  asking: Maker,
  endsOn: string,
): Promise<CloseRecord & { readonly listed: () => AsyncGenerator<EntryView[]> }> {
  const view = await closeView(database, figures, asking, endsOn);
  return {
    view,
    differences: await differencesView(database, figures, asking.companyId, endsOn),
    trail: await trailHead(database),
    many: view.entryCount,
    entries: [],
    listed: () => entriesOf(database, figures, asking.companyId, endsOn),
  };
}

/** The entries of a month by number, and what is still to be posted after them. */
async function* entriesOf(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
): AsyncGenerator<EntryView[]> {
  const numbers = await database('entry')
    .where({ company_id: companyId, period_end: endsOn })
    .orderBy('number')
    .pluck<number[]>('number');
  for (let at = 0; at < numbers.length; at += atATime) {
    yield await postedEntries(database, companyId, numbers.slice(at, at + atATime));
  }
  const period = await periodEnding(database, companyId, endsOn);
  if (period.state === 'closed') return;
  const { work, funds, accounts } = await monthMade(database, figures, companyId, period, false);
  for (const { row, inPeriod } of work) yield inPeriod.map((entry) => draftView(accounts, entry, row));
  for (const { fund, inPeriod } of funds) yield inPeriod.map((entry) => draftView(accounts, entry, fund));
}

import type { Knex } from 'knex';
import type { EntryView } from '@coffer/contract';
import { trailHead } from '../../audit/trail.ts';
import { draftView } from '../../journal/entry-view.ts';
import { postedEntries } from '../../journal/journal-store.ts';
import type { Maker } from '../../instruments/instrument-store.ts';
import type { FigureThreads } from '../../workers/figure-threads.ts';
import { closedView, unclosedView } from '../close-view.ts';
import { closedDifferences, unclosedDifferences } from '../differences.ts';
import { monthMade, type MonthMade } from '../month-made.ts';
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
  const { companyId } = asking;
  const period = await periodEnding(database, companyId, endsOn);
  const made =
    period.state === 'closed' ? undefined : await monthMade(database, figures, companyId, period, false);
  const view = made
    ? await unclosedView(database, asking, made)
    : await closedView(database, companyId, period);
  const differences = made
    ? await unclosedDifferences(database, figures, companyId, endsOn, made.work)
    : await closedDifferences(database, figures, companyId, endsOn);
  return {
    view,
    differences,
    trail: await trailHead(database),
    many: view.entryCount,
    entries: [],
    listed: () => entriesOf(database, companyId, endsOn, made),
  };
}

/** The entries of a month by number, and what is still to be posted after them. */
async function* entriesOf(
  database: Knex,
  companyId: number,
  endsOn: string,
  made: MonthMade | undefined,
): AsyncGenerator<EntryView[]> {
  const numbers = await database('entry')
    .where({ company_id: companyId, period_end: endsOn })
    .orderBy('number')
    .pluck<number[]>('number');
  for (let at = 0; at < numbers.length; at += atATime) {
    yield await postedEntries(database, companyId, numbers.slice(at, at + atATime));
  }
  if (!made) return;
  const { work, funds, accounts } = made;
  for (const { row, inPeriod } of work) yield inPeriod.map((entry) => draftView(accounts, entry, row));
  for (const { fund, inPeriod } of funds) yield inPeriod.map((entry) => draftView(accounts, entry, fund));
}

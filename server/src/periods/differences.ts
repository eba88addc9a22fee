import type { Knex } from 'knex';
import { comparedFigures, formatDay, parseDay, type CalendarDay, type Entry } from '@coffer/core';
import type { CloseRow, DifferenceLine, DifferencesView, FiguresView } from '@coffer/contract';
import { newestVersions } from '../instruments/instrument-store.ts';
import type { StoredVersion } from '../instruments/known-instruments.ts';
import { noFigures, reportedPositions } from '../instruments/reported-positions.ts';
import { entryLines } from '../journal/entry-lines.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import {
  allBecause,
  booked,
  lineOf,
  type Compared,
  type ComparedInstrument,
} from './difference-of-instrument.ts';
import { figuresNotBooked, notBookedOf, type NotBooked } from './left-out.ts';
import { keptLeftOut } from './left-out-store.ts';
import { monthWork, type MonthWork } from './month-work.ts';
import { monthStart, periodEnding } from './period-store.ts';
import { toldBy } from './told-at-close.ts';

/** Holds a month against the month before as reported, each figure of each instrument with its reasons. */
export async function differencesView(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
): Promise<DifferencesView> {
  const period = await periodEnding(database, companyId, endsOn);
  if (period.state === 'closed') return closedDifferences(database, figures, companyId, endsOn);
  const { work } = await monthWork(database, figures, companyId, period, false);
  return unclosedDifferences(database, figures, companyId, endsOn, work);
}

/** The same of a month that is worked out. */
export async function unclosedDifferences(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
  work: MonthWork['work'],
): Promise<DifferencesView> {
  return heldAgainst(database, figures, companyId, endsOn, await unclosedMonth(database, companyId, work));
}

/** The same of a closed month: as it was approved, where that was kept, else as it was reported. */
export async function closedDifferences(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
): Promise<DifferencesView> {
  const told = await toldBy(database, companyId, endsOn);
  if (!told)
    return heldAgainst(database, figures, companyId, endsOn, await closedMonth(database, companyId, endsOn));
  return {
    endsOn,
    before: await monthBefore(database, companyId, endsOn),
    lines: inOrder([...told].map(([id, { name, difference }]) => ({ id, name, ...difference }))),
  };
}

/** What the month before reported, left out and caught up, by instrument. */
interface MonthBefore {
  readonly reported: ReadonlyMap<string, CloseRow>;
  readonly caught: ReadonlyMap<string, number>;
  readonly leftOut: ReadonlyMap<string, NotBooked>;
}

async function heldAgainst(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
  month: Month,
): Promise<DifferencesView> {
  const last = formatDay(monthStart(endsOn) - 1);
  const before: MonthBefore = {
    reported: new Map((await reportedPositions(database, companyId, last)).map(({ row }) => [row.id, row])),
    caught: await caughtUpIn(database, companyId, last),
    leftOut: await keptLeftOut(database, companyId, last),
  };
  const lines: DifferenceLine[] = [];
  const items: ComparedInstrument[] = [];
  const all = [...month.of, ...(await noMoreIn(database, companyId, endsOn, month, before))];
  for (const { row, version, reason, catchUp, notBooked } of all) {
    const was = before.reported.get(row.id);
    const then = was && comparedOf(was.figures, was.expense);
    const caught = { now: catchUp, before: before.caught.get(row.id) ?? 0 };
    const leftOut = { now: leftOutOf(notBooked), before: leftOutOf(before.leftOut.get(row.id)) };
    const now = comparedOf(row.figures, row.expense);
    if (version) items.push({ version, now, before: then, leftOut, catchUp: caught });
    else {
      const line = lineOf(
        row.id,
        row.name,
        allBecause(reason, now, then && booked(then, leftOut.before), caught),
      );
      if (comparedFigures.some((figure) => line[figure].parts.length > 0)) lines.push(line);
    }
  }
  const end = parseDay(endsOn) as CalendarDay;
  for (const worked of await figures.each('difference', { end }, items)) {
    if (!('unworkable' in worked)) lines.push(worked.made);
  }
  return { endsOn, before: await monthBefore(database, companyId, endsOn), lines: inOrder(lines) };
}

/** The end of the month before; null where the books have none. */
async function monthBefore(database: Knex, companyId: number, endsOn: string): Promise<string | null> {
  const last = formatDay(monthStart(endsOn) - 1);
  return (await database('period').where({ company_id: companyId, ends_on: last }).first('ends_on'))
    ? last
    : null;
}

/** What the month before reported or caught up of and this one does not tell: settled, or withdrawn by its close. */
async function noMoreIn(
  database: Knex,
  companyId: number,
  endsOn: string,
  { of, caught }: Month,
  before: MonthBefore,
): Promise<OfMonth[]> {
  const told = new Set(of.map(({ row }) => row.id));
  const ids = [...new Set([...before.reported.keys(), ...before.caught.keys(), ...caught.keys()])].filter(
    (id) => !told.has(id),
  );
  if (ids.length === 0) return [];
  const found = await database('instrument')
    .leftJoin('period', (join) => {
      join.on('period.company_id', 'instrument.company_id').andOnVal('period.ends_on', endsOn);
    })
    .where('instrument.company_id', companyId)
    .where({ kind: 'debt' })
    .whereIn('instrument.id', ids)
    .orderBy('instrument.id')
    .select<{ id: string; name: string; version: number; withdrawn: boolean }[]>(
      'id',
      'name',
      'version',
      database.raw(
        'withdrawn_at is not null and withdrawn_at <= coalesce(period.closed_at, withdrawn_at) as withdrawn',
      ),
    );
  const nothing = { figures: noFigures, expense: 0, amortized: 0, currentChange: 0 };
  return found.map(({ id, name, version, withdrawn }) => ({
    row: { id, version, name: before.reported.get(id)?.name ?? name, ...nothing },
    version: undefined,
    reason: withdrawn ? 'withdrawn' : 'settled',
    catchUp: caught.get(id) ?? 0,
    notBooked: undefined,
  }));
}

/** A month as it is held against the one before. */
interface Month {
  readonly of: readonly OfMonth[];
  /** Expense of closed months that is posted in it, by instrument. */
  readonly caught: ReadonlyMap<string, number>;
}

/** An instrument of a month; without a version where the month reports nothing of it, for a reason. */
interface OfMonth {
  readonly row: CloseRow;
  readonly version: StoredVersion | undefined;
  readonly reason: 'withdrawn' | 'settled';
  /** Expense of closed months that is booked in this one. */
  readonly catchUp: number;
  readonly notBooked: NotBooked | undefined;
}

async function unclosedMonth(database: Knex, companyId: number, work: MonthWork['work']): Promise<Month> {
  const versions = new Map((await newestVersions(database, companyId)).map((each) => [each.id, each]));
  const of = work.map((done): OfMonth => ({
    row: done.row,
    version: done.withdrawn ? undefined : versions.get(done.row.id),
    reason: 'withdrawn',
    catchUp: expenseForClosed(done.inPeriod),
    notBooked: notBookedOf(done),
  }));
  // Nothing of it is posted yet.
  return { of, caught: new Map() };
}

async function closedMonth(database: Knex, companyId: number, endsOn: string): Promise<Month> {
  const caught = await caughtUpIn(database, companyId, endsOn);
  const notBooked = await keptLeftOut(database, companyId, endsOn);
  const of = (await reportedPositions(database, companyId, endsOn)).map(({ row, version }): OfMonth => ({
    row,
    version,
    reason: 'settled',
    catchUp: caught.get(row.id) ?? 0,
    notBooked: notBooked.get(row.id),
  }));
  return { of, caught };
}

/** Expense of closed months in entries that are not posted yet. */
function expenseForClosed(entries: readonly Entry[]): number {
  return entries
    .filter(({ belongsTo }) => belongsTo !== undefined)
    .flatMap(({ lines }) => lines)
    .filter(({ account }) => account === 'interest-expense')
    .reduce((sum, { debit, credit }) => sum + debit - credit, 0);
}

/** Expense of months closed before that a month has booked, by instrument. Minor units. */
async function caughtUpIn(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<ReadonlyMap<string, number>> {
  const rows = await entryLines(database, companyId)
    .where({ period_end: endsOn, role: 'interest-expense' })
    .whereNotNull('for_period')
    .groupBy('instrument_id')
    .select<{ id: string; amount: string }[]>(
      'instrument_id as id',
      database.raw('sum(debit::numeric - credit::numeric) as amount'),
    );
  return new Map(rows.map(({ id, amount }) => [id, Number(amount)]));
}

/** What of the compared figures is not booked. */
function leftOutOf(notBooked: NotBooked | undefined): Compared {
  if (!notBooked) return { accrued: 0, expense: 0, carrying: 0, current: 0 };
  const { accrued, expense, carrying } = figuresNotBooked(notBooked);
  return { accrued, expense, carrying, current: 0 };
}

function comparedOf(at: FiguresView, expense: number): Compared {
  return {
    accrued: at.accruedInterest + at.accruedFee + at.unpaidInterest,
    expense,
    carrying: at.carrying,
    current: at.current,
  };
}

/** What nothing explains first, then what has a cause, then what ran as scheduled; each the largest change first. */
function inOrder(lines: readonly DifferenceLine[]): DifferenceLine[] {
  const size = (line: DifferenceLine): number =>
    Math.max(...comparedFigures.map((figure) => Math.abs(line[figure].change)));
  const rank = (line: DifferenceLine): number => {
    const open = comparedFigures.some((figure) =>
      line[figure].parts.some(({ reason }) => reason === 'unexplained'),
    );
    return open ? 0 : line.asScheduled ? 2 : 1;
  };
  return lines
    .map((line) => ({ line, rank: rank(line), size: size(line) }))
    .sort(
      (one, other) =>
        one.rank - other.rank || other.size - one.size || one.line.name.localeCompare(other.line.name),
    )
    .map(({ line }) => line);
}

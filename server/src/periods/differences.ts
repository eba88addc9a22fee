import type { Knex } from 'knex';
import { comparedFigures, formatDay, parseDay, type CalendarDay, type Entry } from '@coffer/core';
import type { CloseRow, DifferenceLine, DifferencesView, FiguresView } from '@coffer/contract';
import { newestVersions } from '../instruments/instrument-store.ts';
import type { StoredVersion } from '../instruments/known-instruments.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
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

/** The same of a closed month, as it was reported. */
export async function closedDifferences(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
): Promise<DifferencesView> {
  return heldAgainst(database, figures, companyId, endsOn, await closedMonth(database, companyId, endsOn));
}

async function heldAgainst(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
  month: readonly OfMonth[],
): Promise<DifferencesView> {
  const last = formatDay(monthStart(endsOn) - 1);
  const known = await database('period').where({ company_id: companyId, ends_on: last }).first('ends_on');
  const reported = new Map(
    (await reportedPositions(database, companyId, last)).map(({ row }) => [row.id, row]),
  );
  const caughtBefore = await caughtUpIn(database, companyId, last);
  const leftBefore = await keptLeftOut(database, companyId, last);
  const lines: DifferenceLine[] = [];
  const items: ComparedInstrument[] = [];
  for (const { row, version, catchUp, notBooked } of month) {
    const was = reported.get(row.id);
    const before = was && comparedOf(was.figures, was.expense);
    const caught = { now: catchUp, before: caughtBefore.get(row.id) ?? 0 };
    const leftOut = { now: leftOutOf(notBooked), before: leftOutOf(leftBefore.get(row.id)) };
    const now = comparedOf(row.figures, row.expense);
    if (version) items.push({ version, now, before, leftOut, catchUp: caught });
    else {
      const was = before && booked(before, leftOut.before);
      lines.push(lineOf(row.id, row.name, allBecause('withdrawn', now, was, caught)));
    }
  }
  const end = parseDay(endsOn) as CalendarDay;
  for (const worked of await figures.each('difference', { end }, items)) {
    if (!('unworkable' in worked)) lines.push(worked.made);
  }
  return { endsOn, before: known ? last : null, lines: inOrder(lines) };
}

/** An instrument of a month; without a version where it was withdrawn. */
interface OfMonth {
  readonly row: CloseRow;
  readonly version: StoredVersion | undefined;
  /** Expense of closed months that is booked in this one. */
  readonly catchUp: number;
  readonly notBooked: NotBooked | undefined;
}

async function unclosedMonth(database: Knex, companyId: number, work: MonthWork['work']): Promise<OfMonth[]> {
  const versions = new Map((await newestVersions(database, companyId)).map((each) => [each.id, each]));
  return work.map((done) => ({
    row: done.row,
    version: done.withdrawn ? undefined : versions.get(done.row.id),
    catchUp: expenseForClosed(done.inPeriod),
    notBooked: notBookedOf(done),
  }));
}

async function closedMonth(database: Knex, companyId: number, endsOn: string): Promise<OfMonth[]> {
  const caught = await caughtUpIn(database, companyId, endsOn);
  const notBooked = await keptLeftOut(database, companyId, endsOn);
  return (await reportedPositions(database, companyId, endsOn)).map(({ row, version }) => ({
    row,
    version,
    catchUp: caught.get(row.id) ?? 0,
    notBooked: notBooked.get(row.id),
  }));
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

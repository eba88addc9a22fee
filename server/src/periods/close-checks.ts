import type { Knex } from 'knex';
import { parseDay, type AccountRole, type CalendarDay, type Entry, type MinorUnits } from '@coffer/core';
import type { CloseCheck, CloseFund, CloseRow } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { Refusal } from '../http/refusal.ts';
import { entryLines } from '../journal/entry-lines.ts';
import type { NotBooked } from './left-out.ts';

/**
 * Interest payable, what is held to repay debt, expense and current portion of a month, each over the instruments and over the journal, with what
 * openings and corrections bring of closed months named apart, and what is too small to be booked. They agree, or something is wrong.
 */
export async function closeChecks(
  database: Knex,
  companyId: number,
  endsOn: string,
  rows: readonly CloseRow[],
  funds: readonly CloseFund[],
  drafts: readonly Entry[],
  { leftOut, madeGood }: NotBooked,
): Promise<CloseCheck[]> {
  const drafted = movedBy(drafts);
  const { booksFrom } = await companyOf(database, companyId);
  const posted = await postedIn(database, companyId, endsOn, booksFrom);
  const begun = parseDay(booksFrom) as CalendarDay;
  const before = (opening: boolean): ReadonlyMap<AccountRole, number> =>
    movedBy(drafts.filter(({ belongsTo }) => belongsTo !== undefined && belongsTo < begun === opening));
  const [draftedOpening, draftedForClosed] = [before(true), before(false)];
  const all = (role: AccountRole): number => (posted.get(role)?.moved ?? 0) + (drafted.get(role) ?? 0);
  const forClosed = (role: AccountRole): number =>
    (posted.get(role)?.forClosed ?? 0) + (draftedForClosed.get(role) ?? 0);
  const opened = (role: AccountRole): number =>
    (posted.get(role)?.opening ?? 0) + (draftedOpening.get(role) ?? 0);
  const standing = async (role: AccountRole): Promise<number> =>
    (await standingIn(database, companyId, endsOn, role)) + (drafted.get(role) ?? 0);
  const payable = 0 - (await standing('interest-payable'));
  const sum = (of: (row: CloseRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  const check = (
    of: CloseCheck['of'],
    instruments: number,
    [opening, fromClosed]: readonly [number, number],
    left: number,
    journal: number,
  ): CloseCheck => ({
    of,
    instruments,
    opening,
    fromClosed,
    leftOut: left,
    journal,
    difference: journal - instruments - opening - fromClosed + left,
  });
  const standsAlone = [0, 0] as const;
  const owed = sum(({ figures: at }) => at.accruedInterest + at.accruedFee + at.unpaidInterest);
  return [
    check('interest-payable', owed, standsAlone, 0 - (leftOut.get('interest-payable') ?? 0), payable),
    check(
      'funds',
      funds.reduce((sum, { figures }) => sum + figures.balance + figures.accruedInterest, 0),
      standsAlone,
      leftOut.get('sinking-fund') ?? 0,
      await standing('sinking-fund'),
    ),
    check(
      'expense',
      sum((row) => row.expense),
      [opened('interest-expense'), forClosed('interest-expense')],
      (leftOut.get('interest-expense') ?? 0) - (madeGood.get('interest-expense') ?? 0),
      all('interest-expense'),
    ),
    check(
      'current-portion',
      sum((row) => row.currentChange),
      [0 - opened('current-portion'), 0 - forClosed('current-portion')],
      0,
      0 - all('current-portion'),
    ),
  ];
}

/** A month whose checks fail is not locked. Throws {@link Refusal} 409, naming each with its figures. */
export function refuseWhatDoesNotTie(
  checks: readonly CloseCheck[],
  money: (minor: MinorUnits) => string,
): void {
  const failing = checks.filter(({ difference }) => difference !== 0);
  if (failing.length === 0) return;
  const said = failing.map(
    ({ of, instruments, opening, fromClosed, leftOut, journal, difference }) =>
      `${names[of]}: ${money(instruments)} over the instruments, ${money(opening)} from opening balances and ` +
      `${money(fromClosed)} from closed months, ` +
      `${money(leftOut)} left out, but ` +
      `${money(journal)} in the journal, off by ${money(difference)}`,
  );
  throw new Refusal(
    409,
    'does-not-tie',
    `Nothing was done, because the journal would not hold what the instruments say. ${said.join('; ')}.`,
  );
}

const names: Readonly<Record<CloseCheck['of'], string>> = {
  'interest-payable': 'Interest payable',
  expense: 'Expense',
  'current-portion': 'Current portion moved',
  funds: 'Held to repay debt',
};

/** What entries move, debits positive. */
function movedBy(entries: readonly Entry[]): ReadonlyMap<AccountRole, number> {
  const moved = new Map<AccountRole, number>();
  for (const { account, debit, credit } of entries.flatMap(({ lines }) => lines)) {
    moved.set(account, (moved.get(account) ?? 0) + debit - credit);
  }
  return moved;
}

/** What entries moved in an account, and what of it stands for the time before the books and for closed months. */
interface Moved {
  readonly moved: number;
  readonly opening: number;
  readonly forClosed: number;
}

/** What the posted entries of a month moved, and what of that stands for closed months: debits positive. */
async function postedIn(
  database: Knex,
  companyId: number,
  endsOn: string,
  booksFrom: string,
): Promise<ReadonlyMap<AccountRole, Moved>> {
  const sum = 'sum(debit::numeric - credit::numeric)';
  const rows = await entryLines(database, companyId)
    .where({ period_end: endsOn })
    .groupBy('role')
    .select<{ role: AccountRole; moved: string; opening: string | null; for_closed: string | null }[]>(
      'role',
      database.raw(`${sum} as moved`),
      database.raw(`${sum} filter (where for_period < ?) as opening`, [booksFrom]),
      database.raw(`${sum} filter (where for_period >= ?) as for_closed`, [booksFrom]),
    );
  return new Map(
    rows.map((row) => [
      row.role,
      {
        moved: Number(row.moved),
        opening: Number(row.opening ?? 0),
        forClosed: Number(row.for_closed ?? 0),
      },
    ]),
  );
}

/** Where an account stands in the books at the end of a month; a debit balance is positive. Minor units. */
async function standingIn(
  database: Knex,
  companyId: number,
  endsOn: string,
  role: AccountRole,
): Promise<number> {
  const [sum] = await entryLines(database, companyId)
    .where({ role })
    .where('period_end', '<=', endsOn)
    .select<{ balance: string | null }[]>(database.raw('sum(debit::numeric - credit::numeric) as balance'));
  return Number(sum?.balance ?? 0);
}

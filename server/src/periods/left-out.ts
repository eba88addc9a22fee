import {
  accrualEntry,
  balancesOf,
  closeEntries,
  formatDay,
  leftOutOf,
  smallAccrual,
  type AccountRole,
  type AnySchedule,
  type Balances,
  type Books,
  type CalendarDay,
  type CloseEntries,
  type Entry,
  type Materiality,
  type SmallAccrual,
} from '@coffer/core';
import type { NotBookedFigures } from '@coffer/contract';
import { monthStart, type AccrualChoices } from './period-store.ts';

/** What closing a month books for one instrument or fund, and what it does not because it is too small to matter. */
export interface EntriesOfMonth extends CloseEntries {
  /** Its accrual where it is small by itself, and the entries without it. */
  readonly small?: SmallAccrual & { readonly without: CloseEntries };
  /** Its accrual, which is not booked. */
  readonly leftOut?: SmallAccrual;
  /** The accrual that the month before left out: this month charges it. */
  readonly madeGood?: Entry;
}

/** The entries of a month, with and without an accrual that is small by itself. */
export function entriesOfMonth(
  schedule: AnySchedule,
  end: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
  { before, now }: AccrualChoices,
  materiality: Materiality,
): EntriesOfMonth {
  const made = (leaveOut: boolean): CloseEntries =>
    closeEntries(schedule, end, booksFrom, books, { before, now, leaveOut });
  const small = smallAccrual(schedule, end, materiality);
  const last = monthStart(formatDay(end)) - 1;
  const madeGood = books.leftOut.has(last) ? accrualEntry(schedule, last) : undefined;
  return {
    ...made(false),
    ...(small && { small: { ...small, without: made(true) } }),
    ...(madeGood && { madeGood }),
  };
}

/** Which of the accruals of a month are left out, by the ids of what they are of. */
export function smallIds(
  made: readonly (readonly [id: string, made: EntriesOfMonth])[],
  materiality: Materiality,
): ReadonlySet<string> {
  const small = made.flatMap(([id, { small: one }]) => (one ? [{ id, amount: one.amount }] : []));
  return new Set(leftOutOf(small, materiality).map(({ id }) => id));
}

/** What a month makes, its accrual left out. */
export function withoutAccrual<Made extends EntriesOfMonth>(made: Made): Made {
  const { small } = made;
  if (!small) return made;
  const { without, ...leftOut } = small;
  return { ...made, ...without, leftOut };
}

/** What a month does not book, or charges because the month before did not book it; debits positive, minor units. */
export interface NotBooked {
  readonly leftOut: Balances;
  readonly madeGood: Balances;
}

const carried: readonly AccountRole[] = ['bond-discount', 'bond-premium', 'issue-costs'];

/** By how much the books hold less than figures of a month say; minor units. */
export function figuresNotBooked({ leftOut, madeGood }: NotBooked): Omit<NotBookedFigures, 'id'> {
  const of = (balances: Balances, roles: readonly AccountRole[]): number =>
    roles.reduce((sum, role) => sum + (balances.get(role) ?? 0), 0);
  const moved = (roles: readonly AccountRole[]): number => of(leftOut, roles) - of(madeGood, roles);
  return {
    accrued: 0 - of(leftOut, ['interest-payable']),
    expense: moved(['interest-expense']),
    amortized: 0 - moved([...carried, 'deferred-costs']),
    carrying: 0 - of(leftOut, carried),
    // Of a credit line they are an asset: not amortized, the books hold more of it.
    deferredCosts: of(leftOut, ['deferred-costs']),
  };
}

/** What is not booked of all of them together. */
export function notBookedAltogether(all: readonly NotBooked[]): NotBooked {
  return {
    leftOut: sumOf(all.map(({ leftOut }) => leftOut)),
    madeGood: sumOf(all.map(({ madeGood }) => madeGood)),
  };
}

function sumOf(all: readonly Balances[]): Balances {
  const sum = new Map<AccountRole, number>();
  for (const balances of all) {
    for (const [role, amount] of balances) sum.set(role, (sum.get(role) ?? 0) + amount);
  }
  return sum;
}

/** What is not booked of an instrument whose month is worked out. */
export function notBookedOf({ leftOut, madeGood }: EntriesOfMonth): NotBooked {
  return {
    leftOut: balancesOf(leftOut ? [leftOut.accrual] : []),
    madeGood: balancesOf(madeGood ? [madeGood] : []),
  };
}

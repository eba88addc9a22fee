import { addMonths, formatDay, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';
import { firstDay } from '../instrument/instrument.ts';
import type { AnySchedule } from '../kinds/schedules.ts';
import { isDebt } from '../kinds/kinds.ts';
import type { AccountRole } from './account-role.ts';
import { difference } from './balances.ts';
import { clearStanding, type AccrualChoice } from './accruals.ts';
import { accrualEntry, currentPortionEntry, sourceOf } from './entries.ts';
import { entryOf, inOrder, reversalOf, type Entry, type Posting } from './entry.ts';
import { standingBalances, type Balances } from './standing-balances.ts';
import type { MinorUnits } from '../units/units.ts';

/** What closing a month posts for one instrument. */
export interface CloseEntries {
  /** Dated in the month closed. */
  readonly inPeriod: readonly Entry[];
  /** The reversal of the accrual, on the first day of the month that opens. */
  readonly opening: Entry | undefined;
}

/** Accounts whose balances from before the books began are not the books' own. */
const outsideTheBooks: readonly AccountRole[] = [
  'cash',
  'asset',
  'interest-expense',
  'fees',
  'interest-income',
  'redemption-gain-loss',
];

/** What entries made of the accounts, by the month that they belong to. */
export interface MonthBooked {
  /** Last day of the month. */
  readonly end: CalendarDay;
  readonly moved: Balances;
}

/** What the books hold for one instrument as a month is closed. */
export interface Books {
  /** Of the closed months, in order; all at once under the last of them where they agree with the schedule. */
  readonly closed: readonly MonthBooked[];
  /** Of the open month: the reversals that it opened with. */
  readonly open: Balances;
  /** Whether a close has reported the instrument before, if only with nothing to post. */
  readonly known: boolean;
  /** Last day of the month that its opening stands for; what came before is in that. */
  readonly openedAt?: CalendarDay | undefined;
  /** Last days of the closed months whose accrual was too small to be booked; that stands whatever is known later. */
  readonly leftOut: ReadonlySet<CalendarDay>;
}

/** The books of an instrument that no close has seen. */
export const unseen: Books = { closed: [], open: new Map(), known: false, leftOut: new Set() };

/** What becomes of the accruals about the month that is closed. */
export interface Accruing {
  /** Of the month before: reversed as this month opened, or left standing. */
  readonly before: AccrualChoice;
  /** Of this month's. */
  readonly now: AccrualChoice;
  /** Whether this month's is too small to be booked: the next payment charges the whole interest. */
  readonly leaveOut: boolean;
}

/**
 * The entries that closing a month makes for one instrument, given what the books hold for it: its entries of
 * the month, led by an opening (an instrument older than the books, or entered late, with its accrual and the
 * reversal of that) or by corrections (terms or events changed for months already closed), one for each closed month
 * that comes out otherwise. Closed months are never touched; what they should have held falls in the open one
 * (IAS 8.42 leaves immaterial errors to the period in which they are found), and each entry says the month it is for.
 * What has evened out by the last closed month is left as it is: nothing would be posted for it.
 *
 * @param month any day of the month to close
 * @param booksFrom first day the books cover
 *
 * @example
 * closeEntries(loan, day('2025-01-31'), day('2025-01-01'), unseen, { before: 'reversed', now: 'reversed' })
 *   .inPeriod.map(({ kind }) => kind)
 * // [ 'issue', 'accrual', 'current-portion' ]
 */
export function closeEntries(
  schedule: AnySchedule,
  month: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
  { before, now, leaveOut }: Accruing,
): CloseEntries {
  const end = monthEnd(month);
  const from = addMonths(end, -1, true) + 1;
  const standing = before === 'standing' ? bookedAccrual(schedule, from - 1, books) : undefined;
  const accrual = leaveOut ? undefined : accrualEntry(schedule, end);
  const ofMonth = inOrder([
    ...clearStanding(standing, sourceOf(schedule).own(from, end), accrual, end),
    isDebt(schedule) ? currentPortionEntry(schedule, end, 'month') : undefined,
  ]);
  const seen = books.known || books.closed.length > 0;
  const brought = seen
    ? corrections(schedule, from, booksFrom, books, before)
    : opening(schedule, from, booksFrom, before);
  return {
    inPeriod: [...brought, ...ofMonth],
    opening: now === 'reversed' && accrual ? reversalOf(accrual, end + 1) : undefined,
  };
}

/**
 * The entries that take an instrument out of the books that was taken on by mistake: what each closed month holds of it
 * goes, and what had accrued at the last is not reversed twice. What was reported stays as it was reported.
 *
 * @param month any day of the open month
 *
 * @example
 * withdrawalEntries(day('2025-02-28'), unseen, 'reversed') // []
 */
export function withdrawalEntries(month: CalendarDay, books: Books, before: AccrualChoice): Entry[] {
  const from = addMonths(monthEnd(month), -1, true) + 1;
  const entries = books.closed.map(({ end, moved }) => {
    const memo = `Withdrawn: what the month to ${formatDay(end)} held`;
    const entry = entryOf(from, 'correction', memo, null, difference(moved, new Map()));
    return entry && { ...entry, belongsTo: end };
  });
  const memo = `Reversal: what had accrued to ${formatDay(from - 1)} was withdrawn`;
  const reversal =
    before === 'reversed'
      ? entryOf(from, 'reversal', memo, null, difference(books.open, new Map()))
      : undefined;
  return [...entries, reversal].filter((entry) => entry !== undefined);
}

/**
 * Whether the books of the closed months come out otherwise than the schedule: then each of them is looked at.
 *
 * @example
 * booksDiffer(loan, day('2025-02-01'), day('2025-01-01'), unseen) // false
 */
export function booksDiffer(
  schedule: AnySchedule,
  month: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
): boolean {
  return booksOff(schedule, month, booksFrom, books).length > 0;
}

/**
 * By how much accounts of the closed months hold more than the schedule says; debits positive, minor units.
 *
 * @example
 * booksOff(loan, day('2025-02-01'), day('2025-01-01'), unseen) // []
 */
export function booksOff(
  schedule: AnySchedule,
  month: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
): Posting[] {
  if (!books.known && books.closed.length === 0) return [];
  const last = addMonths(monthEnd(month), -1, true);
  return difference(expectedAt(schedule, last, booksFrom, books), sumOf(books.closed));
}

/**
 * What the open month books for closed ones where terms or events are changed, over all of them; debits positive, minor
 * units. Nothing where it evens out by the last of them.
 *
 * @param through last day of the last closed month
 * @param booksFrom first day the books cover
 *
 * @example
 * correctionsOf(loan, loan, day('2025-02-28'), day('2025-01-01')) // []
 */
export function correctionsOf(
  before: AnySchedule,
  after: AnySchedule,
  through: CalendarDay,
  booksFrom: CalendarDay,
): Posting[] {
  return difference(
    expectedAt(before, through, booksFrom, unseen),
    expectedAt(after, through, booksFrom, unseen),
  );
}

/** What brings an instrument into the books that they have not seen, and the reversal of what had accrued. */
function opening(
  schedule: AnySchedule,
  from: CalendarDay,
  booksFrom: CalendarDay,
  before: AccrualChoice,
): Entry[] {
  const memo = `Balances brought in as of ${formatDay(from - 1)}`;
  const entry = entryOf(from, 'opening', memo, null, [...expectedAt(schedule, from - 1, booksFrom, unseen)]);
  if (!entry) return [];
  const accrual = before === 'reversed' ? accrualEntry(schedule, from - 1) : undefined;
  return [{ ...entry, belongsTo: from - 1 }, ...(accrual ? [reversalOf(accrual, from)] : [])];
}

/** What each closed month should have held and did not, and the reversal of what of it had accrued at the last. */
function corrections(
  schedule: AnySchedule,
  from: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
  before: AccrualChoice,
): Entry[] {
  const entries = booksDiffer(schedule, from, booksFrom, books)
    ? ofClosedMonths(schedule, from, booksFrom, books)
    : [];
  // What had accrued may have become due by then with the same sum owed: what is reversed differs all the same.
  if (before === 'standing') return entries;
  const reversed = new Map<AccountRole, MinorUnits>();
  for (const { account, debit, credit } of bookedAccrual(schedule, from - 1, books)?.lines ?? []) {
    reversed.set(account, credit - debit);
  }
  const memo = `Reversal: what had accrued otherwise to ${formatDay(from - 1)}`;
  const reversal = entryOf(from, 'reversal', memo, null, difference(books.open, reversed));
  return reversal ? [...entries, reversal] : entries;
}

function ofClosedMonths(
  schedule: AnySchedule,
  from: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
): Entry[] {
  const entries: Entry[] = [];
  const booked = new Map<AccountRole, MinorUnits>();
  let soFar: Posting[] = [];
  const earliest = Math.min(firstDay(schedule), books.closed[0]?.end ?? from);
  const first = books.openedAt ?? monthEnd(Math.max(booksFrom, earliest));
  for (let end = first; end < from; end = addMonths(end, 1, true)) {
    const ofMonth = books.closed.filter((month) => month.end === end);
    for (const { moved } of ofMonth) addTo(booked, moved);
    const through = difference(booked, expectedAt(schedule, end, booksFrom, books));
    const memo = `Correction of the month to ${formatDay(end)}`;
    const entry = entryOf(from, 'correction', memo, null, difference(new Map(soFar), new Map(through)));
    if (entry) entries.push({ ...entry, belongsTo: end });
    soFar = through;
  }
  return entries;
}

function sumOf(months: readonly MonthBooked[]): Balances {
  const sum = new Map<AccountRole, MinorUnits>();
  for (const { moved } of months) addTo(sum, moved);
  return sum;
}

function addTo(sum: Map<AccountRole, MinorUnits>, moved: Balances): void {
  for (const [role, amount] of moved) sum.set(role, (sum.get(role) ?? 0) + amount);
}

/** Where the books should stand at a period end, its accrual in them, with what lies before them against opening balances. */
function expectedAt(
  schedule: AnySchedule,
  periodEnd: CalendarDay,
  booksFrom: CalendarDay,
  books: Books,
): Map<AccountRole, MinorUnits> {
  const expected = new Map(standingBalances(schedule, periodEnd));
  addLines(expected, bookedAccrual(schedule, periodEnd, books));
  if (firstDay(schedule) >= booksFrom) return expected;
  const before = new Map(standingBalances(schedule, booksFrom - 1));
  addLines(before, accrualEntry(schedule, booksFrom - 1));
  let moved = 0;
  for (const role of outsideTheBooks) {
    const amount = before.get(role) ?? 0;
    expected.set(role, (expected.get(role) ?? 0) - amount);
    moved += amount;
  }
  expected.set('opening-balances', moved + (expected.get('opening-balances') ?? 0));
  return expected;
}

/** The accrual of a closed month, as the books should hold it. */
function bookedAccrual(schedule: AnySchedule, end: CalendarDay, { leftOut }: Books): Entry | undefined {
  return leftOut.has(end) ? undefined : accrualEntry(schedule, end);
}

function addLines(balances: Map<AccountRole, MinorUnits>, entry: Entry | undefined): void {
  for (const { account, debit, credit } of entry?.lines ?? []) {
    balances.set(account, (balances.get(account) ?? 0) + debit - credit);
  }
}

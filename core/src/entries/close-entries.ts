import { addMonths, formatDay, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';
import { firstDay, type Schedule } from '../instrument/instrument.ts';
import type { AccountRole } from './account-role.ts';
import { difference } from './balances.ts';
import { clearStanding, type AccrualChoice } from './accruals.ts';
import { accrualEntry, currentPortionEntry, sourceOf } from './entries.ts';
import { entryOf, inOrder, reversalOf, type Entry } from './entry.ts';
import { standingBalances, type Balances } from './standing-balances.ts';

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

/**
 * The entries that closing a month makes for one instrument, given what the books hold for it: its entries of
 * the month, led by an opening (an instrument older than the books, or entered late, with its accrual and the
 * reversal of that) or a correction (terms or events changed for months already closed) wherever the books and
 * the schedule differ at the month's start. Closed months are never touched; the difference falls in the open
 * one (IAS 8.42 leaves immaterial errors to the period in which they are found).
 *
 * @param month any day of the month to close
 * @param booksFrom first day the books cover
 * @param posted balances of the entries posted for the instrument, reversals on the month's first day included
 * @param before what became of the accruals of the month before: reversed as this month opened, or left standing
 * @param now what becomes of this month's
 */
export function closeEntries(
  schedule: Schedule,
  month: CalendarDay,
  booksFrom: CalendarDay,
  posted: Balances,
  before: AccrualChoice = 'reversed',
  now: AccrualChoice = 'reversed',
): CloseEntries {
  const end = monthEnd(month);
  const from = addMonths(end, -1, true) + 1;
  const standing = before === 'standing' ? accrualEntry(schedule, from - 1) : undefined;
  const accrual = accrualEntry(schedule, end);
  const ofMonth = inOrder([
    ...clearStanding(standing, sourceOf(schedule).own(from, end), accrual, end),
    currentPortionEntry(schedule, end, 'month'),
  ]);
  return {
    inPeriod: [...broughtForward(schedule, from, booksFrom, posted, before), ...ofMonth],
    opening: now === 'reversed' && accrual ? reversalOf(accrual, end + 1) : undefined,
  };
}

/** What brings the books to the schedule at a month's start; nothing where they agree. */
function broughtForward(
  schedule: Schedule,
  from: CalendarDay,
  booksFrom: CalendarDay,
  posted: Balances,
  before: AccrualChoice,
): Entry[] {
  const asOf = formatDay(from - 1);
  const expected = expectedAt(schedule, from - 1, booksFrom);
  const accrual = accrualEntry(schedule, from - 1);
  // Books that hold nothing yet are opened with the accrual; others have it where it was left standing.
  const stands = posted.size === 0 || before === 'standing';
  for (const { account, debit, credit } of (stands && accrual?.lines) || []) {
    expected.set(account, (expected.get(account) ?? 0) + debit - credit);
  }
  if (posted.size > 0) {
    const memo = `Correction of closed periods, as of ${asOf}`;
    const correction = entryOf(from, 'correction', memo, null, difference(posted, expected));
    return correction ? [correction] : [];
  }
  const opening = entryOf(from, 'opening', `Balances brought in as of ${asOf}`, null, [...expected]);
  const reversed = before === 'reversed' && accrual ? [reversalOf(accrual, from)] : [];
  return [...(opening ? [opening] : []), ...reversed];
}

/** Where the books should stand at a period end, with what lies before them against opening balances. */
function expectedAt(
  schedule: Schedule,
  periodEnd: CalendarDay,
  booksFrom: CalendarDay,
): Map<AccountRole, number> {
  const expected = new Map(standingBalances(schedule, periodEnd));
  if (firstDay(schedule) >= booksFrom) return expected;
  const before = new Map(standingBalances(schedule, booksFrom - 1));
  const accrued = accrualEntry(schedule, booksFrom - 1)?.lines ?? [];
  for (const { account, debit, credit } of accrued) {
    before.set(account, (before.get(account) ?? 0) + debit - credit);
  }
  let moved = 0;
  for (const role of outsideTheBooks) {
    const amount = before.get(role) ?? 0;
    expected.set(role, (expected.get(role) ?? 0) - amount);
    moved += amount;
  }
  expected.set('opening-balances', moved + (expected.get('opening-balances') ?? 0));
  return expected;
}

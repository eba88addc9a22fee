import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { AccountRole } from './account-role.ts';
import { entryOf, reversalOf, type Entry } from './entry.ts';
import { periodEnds, type PeriodLength } from './period-ends.ts';

/**
 * What becomes of an accrual after its period end, as the company chooses: it is reversed on the first day of the
 * next period, or left standing and cleared by the payment. Every period has the same expense either way.
 */
export const accrualChoices = ['reversed', 'standing'] as const;
export type AccrualChoice = (typeof accrualChoices)[number];

/** Where entries come from: what is booked by itself on its day, and what is accrued at a period end. */
export interface EntrySource {
  own(from: CalendarDay, to: CalendarDay): readonly Entry[];
  accrual(end: CalendarDay): Entry | undefined;
}

/** The entries from one day to another, both included: a source's own, and what period ends make; in no order. */
export function withAccruals(
  source: EntrySource,
  from: CalendarDay,
  to: CalendarDay,
  periods: PeriodLength,
  choice: AccrualChoice,
): Entry[] {
  if (choice === 'standing') return withStanding(source, from, to, periods);
  const found = [...source.own(from, to)];
  for (const end of periodEnds(periods, from - 1, to)) {
    const accrual = source.accrual(end);
    if (!accrual) continue;
    if (end >= from) found.push(accrual);
    if (end + 1 >= from && end + 1 <= to) found.push(reversalOf(accrual, end + 1));
  }
  return found;
}

/** Days that reach back over a whole year, to find the period end before any day. */
const overAYear = 370;

function withStanding(
  source: EntrySource,
  from: CalendarDay,
  to: CalendarDay,
  periods: PeriodLength,
): Entry[] {
  const before = periodEnds(periods, from - overAYear, from - 1).at(-1);
  const ends = [...(before === undefined ? [] : [before]), ...periodEnds(periods, from, to)];
  const found: Entry[] = [];
  let accrued = before === undefined ? undefined : source.accrual(before);
  let begins = before === undefined ? from : before + 1;
  for (const end of ends.slice(before === undefined ? 0 : 1)) {
    const accrual = source.accrual(end);
    found.push(...clearStanding(accrued, source.own(begins, end), accrual, end));
    accrued = accrual;
    begins = end + 1;
  }
  // In a period that has not ended, only what pays an accrual clears it.
  if (begins <= to) found.push(...paidStanding(accrued, source.own(begins, to)).entries);
  return found.filter(({ date }) => date >= from);
}

/**
 * The entries of a period, with an accrual that stood at its beginning cleared: by the first entry that charges as
 * much or more, else by the accrual at the period's end, which then books the difference.
 *
 * @param standing the accrual of the period end before
 * @param own what is booked in the period by itself, in order of date
 * @param accrual all that is accrued at the period's end
 */
export function clearStanding(
  standing: Entry | undefined,
  own: readonly Entry[],
  accrual: Entry | undefined,
  end: CalendarDay,
): Entry[] {
  const { entries, cleared } = paidStanding(standing, own);
  if (!standing || cleared) return accrual ? [...entries, accrual] : entries;
  const rest = accrual ? merged(accrual, standing) : reversalOf(standing, end);
  return rest ? [...entries, rest] : entries;
}

function paidStanding(
  standing: Entry | undefined,
  own: readonly Entry[],
): { readonly entries: Entry[]; readonly cleared: boolean } {
  const entries = [...own];
  const at = standing ? own.findIndex((entry) => charged(entry) >= charged(standing)) : -1;
  if (!standing || at < 0 || charged(standing) <= 0) return { entries, cleared: false };
  const paying = merged(own[at] as Entry, standing);
  entries.splice(at, 1, ...(paying ? [paying] : []));
  return { entries, cleared: true };
}

const charges: readonly AccountRole[] = ['interest-expense', 'fees', 'interest-income'];

/** Interest and fees that an entry charges, or a fund's earns; minor units. */
function charged({ lines }: Entry): number {
  return lines.reduce((sum, { account, debit, credit }) => {
    if (!charges.includes(account)) return sum;
    return sum + (account === 'interest-income' ? credit - debit : debit - credit);
  }, 0);
}

/** An entry with what an accrual booked taken out of it. */
function merged(entry: Entry, standing: Entry): Entry | undefined {
  const amounts = new Map<AccountRole, number>();
  const add = (account: AccountRole, amount: number): unknown =>
    amounts.set(account, (amounts.get(account) ?? 0) + amount);
  for (const { account, debit, credit } of entry.lines) add(account, debit - credit);
  for (const { account, debit, credit } of standing.lines) add(account, credit - debit);
  return entryOf(entry.date, entry.kind, entry.memo, entry.row, [...amounts]);
}

import { addMonths, calendarFields, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Contract } from '../loan/plan/contract.ts';
import { paidSchedule } from '../loan/plan/paid-schedule.ts';
import { levelBy, planLoan, rowsAfter, type PlannedRow } from '../loan/plan/plan-loan.ts';
import { regularContract, type RegularContract } from '../loan/plan/regular-contract.ts';
import { ratioToNumber } from '../money/ratio.ts';
import { rateAt } from '../rates/rate-timeline.ts';
import { firstWhere } from '../search/first-where.ts';
import { byContract, type PlanMember } from './plan.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** How a budget is used: for one common day, by rate or by balance one loan after another, or in an order by name. */
export type BudgetUse = 'same-day' | 'highest-rate' | 'smallest-balance' | readonly string[];

/** What a monthly budget comes to. Amounts in minor units. */
export interface BudgetOutcome {
  readonly clears: CalendarDay;
  readonly interest: MinorUnits;
  /** Of the last day of each month; up to the last in which something is paid. */
  readonly months: readonly { readonly month: CalendarDay; readonly paid: MinorUnits }[];
  readonly members: readonly {
    readonly name: string;
    readonly clears: CalendarDay;
    /** What is paid on it. */
    readonly rows: readonly PlannedRow[];
  }[];
  /** What one common day leaves of the budget each month; nothing where loans take turns. */
  readonly unspent: MinorUnits;
}

/** One instrument as the budget pays it. */
interface Account {
  readonly name: string;
  readonly perYear: Count;
  readonly least: MinorUnits;
  readonly contract: Contract | undefined;
  readonly regular: RegularContract | undefined;
  /** What its contract asks, or what is paid on it once its turn has come. */
  rows: readonly PlannedRow[];
}

/**
 * What the contracts ask in a year, minor units: each first payment by how often a year it is made.
 *
 * @example
 * contractualYearly(members, day('2025-06-30')) // 106_620
 */
export function contractualYearly(members: readonly PlanMember[], on: CalendarDay): MinorUnits {
  return members.reduce(
    (sum, { schedule }) => sum + byContract(schedule, on).payment * paymentsPerYear[schedule.terms.every],
    0,
  );
}

/**
 * What a monthly budget comes to after a day. What may not be repaid early is paid as its contract asks. The budget
 * covers what the contracts ask; see {@link contractualYearly}.
 *
 * @example
 * formatDay(budgetOutcome(members, day('2025-06-30'), 20_000, 'highest-rate').clears) // '2025-10-01'
 */
export function budgetOutcome(
  members: readonly PlanMember[],
  on: CalendarDay,
  monthly: MinorUnits,
  use: BudgetUse,
): BudgetOutcome {
  const accounts = members.map(({ name, schedule, least, prepay }): Account => {
    const contract = prepay ? debtKindOf(schedule).contract(schedule, on) : undefined;
    return {
      name,
      perYear: paymentsPerYear[schedule.terms.every],
      least,
      contract,
      regular: contract && regularContract(contract),
      rows: byContract(schedule, on).rows,
    };
  });
  const unspent = use === 'same-day' ? toOneDay(accounts, monthly) : 0;
  if (use !== 'same-day') inTurn(accounts, inOrder(accounts, on, use), on, monthly);
  return outcomeOf(accounts, on, unspent);
}

const lastPaid = (rows: readonly PlannedRow[], on: CalendarDay): CalendarDay =>
  rows.findLast(({ paid }) => paid > 0)?.on ?? on;

function outcomeOf(accounts: readonly Account[], on: CalendarDay, unspent: number): BudgetOutcome {
  const ends = accounts.map(({ name, rows }) => ({ name, clears: lastPaid(rows, on), rows }));
  const clears = Math.max(on, ...ends.map((end) => end.clears));
  const rows = accounts.flatMap((account) => account.rows);
  const months: { month: CalendarDay; paid: number }[] = [];
  for (let month = monthEnd(on + 1); month <= monthEnd(clears); month = addMonths(month, 1, true)) {
    const paid = rows.reduce((sum, row) => sum + (monthEnd(row.on) === month ? row.paid : 0), 0);
    months.push({ month, paid });
  }
  const interest = rows.reduce((sum, row) => sum + row.interest, 0);
  return { clears, interest, months, members: ends, unspent };
}

/** Clears everything by the earliest common day that the budget allows; gives what it leaves each month. */
function toOneDay(accounts: readonly Account[], monthly: number): number {
  const days = [...new Set(accounts.flatMap(({ contract }) => contract?.dues.map((due) => due.on) ?? []))];
  days.sort((a, b) => a - b);
  const yearly = (day: CalendarDay): number =>
    accounts.reduce((sum, account) => sum + levelFor(account, day) * account.perYear, 0);
  const within = (at: number): boolean => yearly(days[at] as number) <= 12 * monthly;
  const day = days[firstWhere(-1, days.length - 1, within)];
  if (day === undefined) return 0;
  const left = Math.floor(monthly - yearly(day) / 12);
  for (const account of accounts) {
    const planned = account.contract && planLoan(account.contract, day, account.least);
    if (planned && 'rows' in planned) account.rows = planned.rows;
  }
  return left;
}

/** What one instrument is paid each time to be cleared by a day; beyond any budget where it cannot be. */
function levelFor({ contract, regular, least, rows }: Account, day: CalendarDay): number {
  if (!contract) return rows.find(({ paid }) => paid > 0)?.paid ?? 0;
  const found = levelBy(contract, regular, day, least);
  return 'earliest' in found ? Infinity : Math.max(found.level, least, contract.dues[0]?.amount ?? 0);
}

/** The instruments that may be repaid early, in the order in which their turns come. */
function inOrder(
  accounts: readonly Account[],
  on: CalendarDay,
  use: Exclude<BudgetUse, 'same-day'>,
): Account[] {
  const raisable = accounts.filter(({ contract }) => contract !== undefined);
  const rate = ({ contract }: Account): number => {
    const rates = contract?.schedule.rates ?? [];
    return ratioToNumber(rates[rateAt(rates, on)]?.annualRate ?? { num: 0n, den: 1n });
  };
  const balance = ({ contract }: Account): number => contract?.balance ?? 0;
  if (use === 'highest-rate') return raisable.toSorted((a, b) => rate(b) - rate(a));
  if (use === 'smallest-balance') return raisable.toSorted((a, b) => balance(a) - balance(b));
  const place = ({ name }: Account): number => (use.includes(name) ? use.indexOf(name) : use.length);
  return raisable.toSorted((a, b) => place(a) - place(b));
}

/**
 * Each month the budget comes in; what the contracts ask is paid or set aside evenly over the months up to it, and the
 * rest goes to the one whose turn it is, on its next due date. What a cleared one asked for is free from the month after,
 * and what its last payment left goes on to the next.
 */
function inTurn(
  accounts: readonly Account[],
  turns: readonly Account[],
  on: CalendarDay,
  monthly: MinorUnits,
): void {
  let since = on;
  let left = 0;
  let spent = monthNumber(on + 1) - 1;
  for (const account of turns) {
    const { contract } = account;
    if (!contract || contract.balance === 0 || lastPaid(account.rows, on) < since) continue;
    const asked = asides(
      accounts.map((each) => each.rows),
      on,
    );
    const rest = (month: number): number => Math.max(0, monthly - (asked.get(month) ?? 0));
    let pool = left;
    const amounts = contract.dues.map((due) => {
      // What the one before left on a day may go on on the same day.
      if (due.on < since) return due.amount;
      for (const until = monthNumber(due.on); spent < until;) pool += rest((spent += 1));
      const amount = due.amount + pool;
      pool = 0;
      return amount;
    });
    const made = paidSchedule(contract, amounts);
    // One that is drawn on again once it is repaid is paid as its contract asks.
    if (!made) continue;
    account.rows = rowsAfter(made, on);
    const cleared = lastPaid(account.rows, on);
    const paid = account.rows.reduce((sum, row) => sum + row.paid, 0);
    const meant = amounts.reduce(
      (sum, amount, at) => sum + ((contract.dues[at]?.on ?? 0) <= cleared ? amount : 0),
      0,
    );
    left = Math.max(0, meant - paid);
    since = Math.max(since, cleared);
    spent = Math.max(monthNumber(on + 1) - 1, monthNumber(since));
  }
}

/** Months counted on, so that the one after has the next number. */
function monthNumber(day: CalendarDay): number {
  const { year, month } = calendarFields(day);
  return 12 * year + month;
}

/** What is set aside in each month for payments to come: each evenly over the months since the payment before. */
function asides(all: readonly (readonly PlannedRow[])[], on: CalendarDay): ReadonlyMap<number, number> {
  const sums = new Map<number, number>();
  for (const rows of all) {
    let before = monthNumber(on + 1) - 1;
    for (const row of rows) {
      if (row.paid === 0) continue;
      const month = monthNumber(row.on);
      const first = Math.min(before + 1, month);
      const many = month - first + 1;
      for (let at = 0; at < many; at += 1) {
        const part = Math.floor((row.paid * (at + 1)) / many) - Math.floor((row.paid * at) / many);
        sums.set(first + at, (sums.get(first + at) ?? 0) + part);
      }
      before = month;
    }
  }
  return sums;
}

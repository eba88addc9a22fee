import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { paidSchedule } from '../../loan/plan/paid-schedule.ts';
import { rowsAfter, type PlannedRow } from '../../loan/plan/plan-loan.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { rateAt } from '../../rates/rate-timeline.ts';
import type { MinorUnits } from '../../units/units.ts';
import { paymentsOf, type DatedAmount } from '../present-value.ts';
import type { Raisable } from '../raisable.ts';
import { duesOf, lastPaid, type BudgetAccount } from './budget-account.ts';
import { cashMonths, monthNumber, paidByMonth, type CashMonth } from './cash-account.ts';

/** How a budget is used where one instrument after another gets the rest: by rate, by balance, or in an order by name. */
export type Turns = 'highest-rate' | 'smallest-balance' | readonly string[];

/** The instruments that may be repaid early, in the order in which their turns come. */
export function inOrder(accounts: readonly BudgetAccount[], on: CalendarDay, turns: Turns): BudgetAccount[] {
  const open = accounts.filter(({ raisable }) => raisable !== undefined);
  const rate = ({ raisable }: BudgetAccount): number => {
    const rates = raisable?.contract.schedule.rates ?? [];
    return ratioToNumber(rates[rateAt(rates, on)]?.annualRate ?? { num: 0n, den: 1n });
  };
  if (turns === 'highest-rate') return open.toSorted((a, b) => rate(b) - rate(a));
  if (turns === 'smallest-balance') return open.toSorted((a, b) => a.balance - b.balance);
  const place = ({ name }: BudgetAccount): number =>
    turns.includes(name) ? turns.indexOf(name) : turns.length;
  return open.toSorted((a, b) => place(a) - place(b));
}

/**
 * Each month the budget comes in and pays what the contracts ask. What is beyond goes to the one whose turn it is, on its
 * first due date of the month, but for what is set aside: evenly over the months up to each payment of the others, and
 * besides as much as is needed so that no later month asks for more than is there by then. A turn ends with the last
 * payment of the one that has it; the next begins on that day.
 *
 * Source: common practice; the rule is Coffer's, told in `docs/guide/several.md`.
 */
export function inTurn(
  accounts: readonly BudgetAccount[],
  turns: readonly BudgetAccount[],
  on: CalendarDay,
  monthly: MinorUnits,
): void {
  let since = on;
  for (const account of turns) {
    if (!account.raisable || account.balance === 0 || lastPaid(account.rows, on) < since) continue;
    const others = accounts.filter((each) => each !== account).map(({ rows }) => rows);
    const rows = paidInTurn(account, account.raisable, others, { since, on, monthly });
    // One that is drawn on again once it is repaid is paid as its contract asks.
    if (!rows) continue;
    account.rows = rows;
    since = Math.max(since, lastPaid(rows, on));
  }
}

/** When a turn begins, and what there is. */
interface Turn {
  readonly since: CalendarDay;
  readonly on: CalendarDay;
  readonly monthly: MinorUnits;
}

/** What is paid on one whose turn it is, and never more than is there; `undefined` where its own rules refuse it. */
function paidInTurn(
  { rows: agreed }: BudgetAccount,
  raisable: Raisable,
  others: readonly (readonly PlannedRow[])[],
  turn: Turn,
): readonly PlannedRow[] | undefined {
  const { on, monthly } = turn;
  const dues = duesOf(raisable);
  const cashOf = (rows: readonly PlannedRow[]): readonly CashMonth[] =>
    cashMonths(paymentsOf([...others.flat(), ...rows]), on, monthly);
  const alone = cashOf(agreed);
  let amounts = amountsOf(dues, others, turn);
  for (;;) {
    const made = paidSchedule(raisable.contract, amounts);
    if (!made) return undefined;
    const rows = rowsAfter(made, on);
    const lower = lowered(amounts, dues, cashOf(rows), alone);
    if (!lower) return rows;
    amounts = lower;
  }
}

/**
 * The same amounts without what leaves a month short that is not short by what is agreed alone: where nothing is rounded,
 * fractions of a minor unit come together in one month or another. Nothing where no month is.
 */
function lowered(
  amounts: readonly MinorUnits[],
  dues: readonly DatedAmount[],
  made: readonly CashMonth[],
  alone: readonly CashMonth[],
): MinorUnits[] | undefined {
  const lower = [...amounts];
  let given = 0;
  for (const [at, { month, cash }] of made.entries()) {
    let missing = (alone[at]?.cash ?? 0) < 0 ? 0 : Math.max(0, -(cash + given));
    let due = dues.findLastIndex((each) => each.on <= month);
    for (; missing > 0 && due >= 0; due -= 1) {
      const back = Math.min(missing, (lower[due] as number) - (dues[due]?.amount ?? 0));
      lower[due] = (lower[due] as number) - back;
      missing -= back;
      given += back;
    }
  }
  return given > 0 ? lower : undefined;
}

/** What is paid on each due of the one whose turn it is; once it is cleared, what goes beyond is not paid. */
function amountsOf(
  dues: readonly DatedAmount[],
  others: readonly (readonly PlannedRow[])[],
  { since, on, monthly }: Turn,
): MinorUnits[] {
  const most = mostExtra(dues, others, on, monthly);
  const first = monthNumber(on + 1);
  let extra = 0;
  return dues.map(({ on: day, amount }) => {
    if (day < since) return amount;
    const more = Math.max(0, (most[monthNumber(day) - first] ?? 0) - extra);
    extra += more;
    return amount + more;
  });
}

/**
 * The most that may have been paid beyond by the end of each month. What is paid beyond is asked for less at the end of
 * the agreement, so that a month after which less than that is still asked for bounds nothing.
 */
function mostExtra(
  dues: readonly DatedAmount[],
  others: readonly (readonly PlannedRow[])[],
  on: CalendarDay,
  monthly: MinorUnits,
): MinorUnits[] {
  const own = paidByMonth(dues, on);
  const theirs = paidByMonth(paymentsOf(others.flat()), on);
  const aside = setAside(others, on);
  const length = Math.max(own.length, theirs.length);
  const there: MinorUnits[] = [];
  const after: MinorUnits[] = Array.from({ length: length + 1 }, () => 0);
  for (let at = 0; at < length; at += 1)
    there.push((there[at - 1] ?? 0) + monthly - (own[at] ?? 0) - (theirs[at] ?? 0));
  for (let at = length - 1; at >= 0; at -= 1) after[at] = (after[at + 1] as number) + (own[at + 1] ?? 0);
  const most: MinorUnits[] = [];
  let bound = Infinity;
  for (let at = length - 1; at >= 0; at -= 1) {
    const [cash, asked] = [there[at] as number, after[at] as number];
    if (asked > 0 && cash < asked) bound = Math.min(bound, cash);
    most[at] = Math.min(bound, cash - (aside.get(at) ?? 0));
  }
  return most;
}

/** What is set aside by the end of each month for payments to come: each evenly over the months since the one before. */
function setAside(all: readonly (readonly PlannedRow[])[], on: CalendarDay): ReadonlyMap<number, MinorUnits> {
  const sums = new Map<number, MinorUnits>();
  for (const rows of all) {
    let before = -1;
    paidByMonth(paymentsOf(rows), on).forEach((paid, month) => {
      if (paid === 0) return;
      for (let at = before + 1; at < month; at += 1) {
        const part = Math.floor((paid * (at - before)) / (month - before));
        sums.set(at, (sums.get(at) ?? 0) + part);
      }
      before = month;
    });
  }
  return sums;
}

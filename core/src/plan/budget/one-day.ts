import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { planLoan } from '../../loan/plan/plan-loan.ts';
import { firstWhere } from '../../search/first-where.ts';
import type { MinorUnits } from '../../units/units.ts';
import { paymentsOf } from '../present-value.ts';
import { raisedBy, yearlyCashBy, type Raisable } from '../raisable.ts';
import type { BudgetAccount } from './budget-account.ts';
import { leastBudget, paidByMonth } from './cash-account.ts';

/** The common day that a budget reaches, or the least budget that reaches one. Minor units. */
export type OneDay =
  | { readonly reached: true; readonly unspent: MinorUnits; readonly outOfReach: readonly string[] }
  | { readonly reached: false; readonly least: MinorUnits };

type Open = BudgetAccount & { readonly raisable: Raisable };

/**
 * Clears everything by the earliest common day for which the payments of a month stay within the budget and no month asks
 * for more than is there. What no payment clears is paid as its contract asks, and told.
 */
export function toOneDay(accounts: readonly BudgetAccount[], on: CalendarDay, monthly: MinorUnits): OneDay {
  const open = accounts.filter((account): account is Open => account.raisable !== undefined);
  const all = [...new Set(open.flatMap(({ raisable }) => raisable.contract.dues.map((due) => due.on)))];
  all.sort((a, b) => a - b);
  const last = all.at(-1) ?? on;
  const reached = open.filter(({ raisable }) => raisedBy(raisable, last) !== undefined);
  const days = reached.length > 0 ? all : [last];
  const trial = new Trial(
    reached.map(({ raisable }) => raisable),
    accounts.filter((account) => !reached.some((each) => each === account)),
    on,
  );
  const stretches = stretchesOf(days, reached);
  const least = trial.least(stretches.map(({ last: at }) => days[at] as number));
  if (least > monthly) return { reached: false, least };
  const { length } = days;
  const first = firstWhere(-1, length - 1, (at) => trial.yearlyCash(days[at] as number) <= 12 * monthly);
  const within = (at: number): boolean => trial.budget(days[at] as number) <= monthly;
  const stretch = stretches.find((each) => each.last >= first && within(each.last));
  const day =
    days[stretch ? firstWhere(Math.max(stretch.before, first - 1), stretch.last, within) : -1] ?? last;
  for (const account of reached) {
    const { contract, least: stated } = account.raisable;
    const planned = planLoan(contract, day, stated);
    if ('rows' in planned) account.rows = planned.rows;
  }
  const outOfReach = open.filter((account) => !reached.includes(account)).map(({ name }) => name);
  return { reached: true, unspent: Math.floor(monthly - trial.yearlyCash(day) / 12), outOfReach };
}

/**
 * The days parted before each on which an agreement asks for more than ever before. Within a part the least budget falls as
 * the day is later; it may rise where one begins, as with a balloon that an earlier day does not reach.
 */
function stretchesOf(
  days: readonly CalendarDay[],
  open: readonly Open[],
): { readonly before: number; readonly last: number }[] {
  const rises = new Set<CalendarDay>();
  for (const { raisable } of open) {
    let most = 0;
    for (const { on, amount } of raisable.contract.dues) {
      if (amount > most) rises.add(on);
      most = Math.max(most, amount);
    }
  }
  const lasts = days.flatMap((_, at) =>
    at === days.length - 1 || rises.has(days[at + 1] as number) ? [at] : [],
  );
  return lasts.map((last, at) => ({ before: lasts[at - 1] ?? -1, last }));
}

/** What clearing by one day or another asks for. */
class Trial {
  private readonly fixed: MinorUnits[];
  private readonly fixedYearly: MinorUnits;

  constructor(
    private readonly open: readonly Raisable[],
    rest: readonly BudgetAccount[],
    private readonly on: CalendarDay,
  ) {
    this.fixed = paidByMonth(
      rest.flatMap(({ rows }) => paymentsOf(rows)),
      on,
    );
    this.fixedYearly = rest.reduce(
      (sum, { rows, perYear }) => sum + (rows.find(({ paid }) => paid > 0)?.paid ?? 0) * perYear,
      0,
    );
  }

  /** Each payment by how often a year it is made, together; falls as the day is later. */
  yearlyCash(day: CalendarDay): MinorUnits {
    return this.open.reduce((sum, each) => sum + yearlyCashBy(each, day), this.fixedYearly);
  }

  /** The least budget by which everything can be cleared by a day. */
  budget(day: CalendarDay): MinorUnits {
    const made = this.open.map((each) => raisedBy(each, day));
    if (made.some((each) => each === undefined)) return Infinity;
    const paid = paidByMonth(
      made.flatMap((each) => each?.payments ?? []),
      this.on,
    );
    const length = Math.max(paid.length, this.fixed.length);
    const sums = Array.from({ length }, (_, at) => (paid[at] ?? 0) + (this.fixed[at] ?? 0));
    return Math.max(Math.ceil(this.yearlyCash(day) / 12), leastBudget(sums));
  }

  /** The least budget by which everything can be cleared by one of some days, given in order. */
  least(days: readonly CalendarDay[]): MinorUnits {
    let least = Infinity;
    for (const day of days.toReversed()) {
      if (Math.ceil(this.yearlyCash(day) / 12) >= least) break;
      least = Math.min(least, this.budget(day));
    }
    return least;
  }
}

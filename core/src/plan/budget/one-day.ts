import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { planLoan } from '../../loan/plan/plan-loan.ts';
import { firstWhere } from '../../search/first-where.ts';
import type { MinorUnits } from '../../units/units.ts';
import { paymentsOf } from '../present-value.ts';
import { raisedBy, type Raisable, type RaisedMember } from '../raisable.ts';
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
  const day = earliest(days, stretches, trial, monthly);
  if (day === undefined)
    return { reached: false, least: trial.least(stretches.map(({ last: at }) => days[at] as number)) };
  for (const account of reached) {
    const { contract, least: stated } = account.raisable;
    const planned = planLoan(contract, day, stated);
    if ('rows' in planned) account.rows = planned.rows;
  }
  const outOfReach = open.filter((account) => !reached.includes(account)).map(({ name }) => name);
  return { reached: true, unspent: Math.floor(monthly - trial.by(day).yearlyCash / 12), outOfReach };
}

/** Days between two places among all of them, the first left out. */
interface Stretch {
  readonly before: number;
  readonly last: number;
}

/** The earliest day that a budget reaches; none where it reaches none. */
function earliest(
  days: readonly CalendarDay[],
  stretches: readonly Stretch[],
  trial: Trial,
  monthly: MinorUnits,
): CalendarDay | undefined {
  const asked = (at: number): Asked => trial.by(days[at] as number);
  const affordable = (at: number): boolean => asked(at).yearlyCash <= 12 * monthly;
  const within = (at: number): boolean => asked(at).budget <= monthly;
  if (!affordable(days.length - 1)) return undefined;
  const first = firstWhere(-1, days.length - 1, affordable);
  if (within(first)) return days[first];
  const stretch = stretches.find(({ last }) => last > first && within(last));
  return stretch && days[firstWhere(Math.max(stretch.before, first), stretch.last, within)];
}

/**
 * The days parted before each on which an agreement asks for more than ever before. Within a part the least budget falls as
 * the day is later; it may rise where one begins, as with a balloon that an earlier day does not reach.
 */
function stretchesOf(days: readonly CalendarDay[], open: readonly Open[]): Stretch[] {
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

/** What clearing by a day asks for. Minor units. */
interface Asked {
  /** Each payment by how often a year it is made, together; falls as the day is later. */
  readonly yearlyCash: MinorUnits;
  /** The least budget by which it can be done. */
  readonly budget: MinorUnits;
}

/** What clearing by one day or another asks for, each worked out once. */
class Trial {
  private readonly fixed: MinorUnits[];
  private readonly fixedYearly: MinorUnits;
  private readonly known = new Map<CalendarDay, Asked>();

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

  /** What a day asks for; beyond any cash where it is out of reach. */
  by(day: CalendarDay): Asked {
    const asked = this.known.get(day) ?? this.worked(day);
    this.known.set(day, asked);
    return asked;
  }

  private worked(day: CalendarDay): Asked {
    const made: RaisedMember[] = [];
    for (const each of this.open) {
      const raised = raisedBy(each, day);
      if (!raised) return { yearlyCash: Infinity, budget: Infinity };
      made.push(raised);
    }
    const yearlyCash = made.reduce((sum, each) => sum + each.yearlyCash, this.fixedYearly);
    const paid = paidByMonth(
      made.flatMap(({ payments }) => payments),
      this.on,
    );
    const length = Math.max(paid.length, this.fixed.length);
    const sums = Array.from({ length }, (_, at) => (paid[at] ?? 0) + (this.fixed[at] ?? 0));
    return { yearlyCash, budget: Math.max(Math.ceil(yearlyCash / 12), leastBudget(sums)) };
  }

  /** The least budget by which everything can be cleared by one of some days, given in order. */
  least(days: readonly CalendarDay[]): MinorUnits {
    let least = Infinity;
    for (const day of days.toReversed()) {
      const { yearlyCash, budget } = this.by(day);
      if (Math.ceil(yearlyCash / 12) >= least) break;
      least = Math.min(least, budget);
    }
    return least;
  }
}

import { addMonths, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { PlannedLoan } from '../loan/plan/plan-loan.ts';
import { byContract, type PlanMember } from './plan.ts';
import { planFund, type FundRule } from './plan-fund.ts';
import { raisableOf, raisedBy, type Raisable, type RaisedMember } from './raisable.ts';
import { paymentsOf, rateOfNoValue, type DatedAmount } from './present-value.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** Horizons to compare: each month or each year up to a number of them. */
export interface Horizons {
  readonly every: 'month' | 'year';
  readonly count: Count;
}

/** What clearing everything by a day comes to. Amounts in minor units. */
export interface Horizon {
  readonly clearBy: CalendarDay;
  /** In years from the day that the plan starts after. */
  readonly years: number;
  readonly interest: MinorUnits;
  /** The payments of a month times twelve: each payment by how often a year it is made. */
  readonly yearlyCash: MinorUnits;
  /** Everything paid, by day; what a fund pays out counts against it. */
  readonly payments: readonly DatedAmount[];
  /** Members of which nothing falls due by the day. */
  readonly without: MinorUnits;
}

/** A horizon beside the one before; `undefined` for the first, and where other members are in reach. */
export interface Step {
  readonly addedInterest: MinorUnits;
  readonly freedYearlyCash: MinorUnits;
  /** Yearly effective rate at which the difference of the payments has no value; where there is one. */
  readonly priceOfWaiting: number | undefined;
}

/** The last days of some horizons: the same day so many months or years on; a month end stays one. */
export function horizonDays({ every, count }: Horizons, on: CalendarDay): CalendarDay[] {
  const months = every === 'year' ? 12 : 1;
  const keep = on === monthEnd(on);
  return Array.from({ length: count }, (_, at) => addMonths(on, months * (at + 1), keep));
}

interface Provided {
  readonly perYear: Count;
  readonly member: PlanMember;
  readonly unchanged: PlannedLoan;
}

/**
 * Works out each horizon as it is asked for, so that it can be shown, or left off, on the way.
 *
 * @example
 * [...frontier(members, day('2025-06-30'), { every: 'month', count: 3 }, fundRule)].length
 * // 3
 */
export function* frontier(
  members: readonly PlanMember[],
  on: CalendarDay,
  horizons: Horizons,
  fund: FundRule,
): Generator<Horizon> {
  const raisable: Raisable[] = [];
  const provided: Provided[] = [];
  for (const member of members) {
    const { schedule } = member;
    const raised = raisableOf(member, on);
    if (raised) raisable.push(raised);
    else {
      const perYear = paymentsPerYear[schedule.terms.every];
      provided.push({ perYear, member, unchanged: byContract(schedule, on) });
    }
  }
  const months = horizons.every === 'year' ? 12 : 1;
  for (const [at, clearBy] of horizonDays(horizons, on).entries()) {
    const found = [
      ...raisable.map((each) => raisedBy(each, clearBy)),
      ...provided.map((each) => ofProvided(each, on, clearBy, fund)),
    ];
    const reached = found.filter((each): each is RaisedMember => each !== undefined);
    yield {
      clearBy,
      years: (months * (at + 1)) / 12,
      interest: reached.reduce((sum, { interest }) => sum + interest, 0),
      yearlyCash: reached.reduce((sum, { yearlyCash }) => sum + yearlyCash, 0),
      payments: reached.flatMap(({ payments }) => payments),
      without: found.length - reached.length,
    };
  }
}

function ofProvided(
  { perYear, member, unchanged }: Provided,
  on: CalendarDay,
  clearBy: CalendarDay,
  rule: FundRule,
): RaisedMember | undefined {
  const { schedule } = member;
  const payments = paymentsOf(unchanged.rows);
  const contractual = { interest: unchanged.interest, yearlyCash: unchanged.payment * perYear };
  const goal = debtKindOf(schedule).owed(schedule, clearBy);
  if (goal === 0) return { ...contractual, payments };
  const fund = planFund(rule, schedule.terms, on, clearBy, goal);
  if ('earliest' in fund) return undefined;
  const deposits = fund.rows.map(({ due, deposit }) => ({ on: due, amount: deposit }));
  return {
    interest: contractual.interest,
    yearlyCash: contractual.yearlyCash + (fund.deposit ?? 0) * paymentsPerYear[rule.every],
    payments: [...payments, ...deposits, { on: clearBy, amount: -goal }],
  };
}

/**
 * A horizon against the one before it.
 *
 * @example
 * stepFrom(...frontier(members, day('2025-06-30'), { every: 'month', count: 2 }, fundRule), day('2025-06-30')).addedInterest
 * // 300
 */
export function stepFrom(before: Horizon | undefined, to: Horizon, on: CalendarDay): Step | undefined {
  if (!before || before.without !== to.without) return undefined;
  const more = [...to.payments, ...before.payments.map((paid) => ({ ...paid, amount: -paid.amount }))];
  return {
    addedInterest: to.interest - before.interest,
    freedYearlyCash: before.yearlyCash - to.yearlyCash,
    priceOfWaiting: rateOfNoValue(more, on),
  };
}

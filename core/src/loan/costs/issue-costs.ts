import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { fact } from '../../facts/facts.ts';
import { asKnownOn } from '../terms/as-known-on.ts';
import { eventsOf, type Fee } from '../terms/loan-events.ts';
import { lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { amortizedBy, costPlan, type CostPlan, type PlanRate } from './cost-plan.ts';
import type { MinorUnits } from '../../units/units.ts';

/** A rate that costs are amortized at, from a day on. */
export interface EffectiveRate extends PlanRate {
  readonly from: CalendarDay;
}

/** How the costs of a loan are amortized over its rows. Amounts in minor units, one element a row. */
export interface CostAmortization {
  readonly amortized: Float64Array;
  /** Effective annual rates in turn: the first from the start, later ones after events. */
  readonly effectiveRates: readonly EffectiveRate[];
}

/** A plan, and what had been amortized before it. */
interface PlannedFrom {
  readonly plan: CostPlan;
  /** Minor units. */
  readonly before: MinorUnits;
}

interface Planned extends CostAmortization {
  readonly plans: readonly PlannedFrom[];
}

const none: Planned = { amortized: new Float64Array(0), effectiveRates: [], plans: [] };

/**
 * Whether a fee is amortized: one that comes with or after the last payment, as is known on its day, is an expense like
 * any other.
 */
export function isDeferred(schedule: LoanSchedule, fee: Fee): boolean {
  return deferredFees(schedule).has(fee);
}

const deferredFees = fact((schedule: LoanSchedule): ReadonlySet<Fee> => {
  const fees = eventsOf(schedule.terms.events, 'fee').filter((fee) => {
    if (fee.treatment !== 'defer') return false;
    const { length, date } = asKnownOn(schedule, fee.on, 'going-on');
    return length > 0 && fee.on < (date[length - 1] as number);
  });
  return new Set(fees);
});

/** Costs of the loan and fees deferred, up to and with a day. Minor units. */
export function costsThrough(schedule: LoanSchedule, on: CalendarDay): MinorUnits {
  const { terms } = schedule;
  let sum = on >= terms.start ? (terms.issueCosts?.amount ?? 0) : 0;
  for (const fee of deferredFees(schedule)) if (fee.on <= on) sum += fee.amount;
  return sum;
}

/**
 * The amortization of issue costs and deferred fees, row by row. What is amortized by a day follows from what is known
 * on that day and never moves: where an event changes what is to come, or brings a fee, what is then left is spread anew
 * from its day on.
 *
 * @example
 * costAmortization(buildLoanSchedule(thousand([level(12)], { issueCosts: { amount: 3_000, method: 'straight-line' } })))
 *   .amortized[0]
 * // 250
 */
export function costAmortization(schedule: LoanSchedule): CostAmortization {
  return planned(schedule);
}

/** The most times that the costs of a loan may have to be spread, at its start and anew; found without doing it. */
export function costPlansOf(schedule: LoanSchedule): number {
  const { issueCosts, events } = schedule.terms;
  const any = issueCosts ?? events.find((event) => event.type === 'fee' && event.treatment === 'defer');
  return any && schedule.length > 0 ? newsDays(schedule).length : 0;
}

/** Costs amortized through a day: with each row, and for the running period its share by days. Minor units. */
export function amortizedCosts(schedule: LoanSchedule, on: CalendarDay): MinorUnits {
  return amortizedOn(schedule, planned(schedule).plans, on);
}

/** Issue costs and deferred fees not yet amortized on a day. Minor units. */
export function unamortizedCosts(schedule: LoanSchedule, on: CalendarDay): MinorUnits {
  return planned(schedule) === none ? 0 : costsThrough(schedule, on) - amortizedCosts(schedule, on);
}

const planned = fact((schedule: LoanSchedule): Planned => {
  const any = schedule.terms.issueCosts !== undefined || deferredFees(schedule).size > 0;
  return any && schedule.length > 0 ? amortize(schedule) : none;
});

function amortize(schedule: LoanSchedule): Planned {
  const plans: PlannedFrom[] = [];
  for (const day of newsDays(schedule)) {
    const known = asKnownOn(schedule, day, 'going-on');
    const latest = plans.at(-1);
    const through = latest ? latest.before + amortizedBy(latest.plan, day) : 0;
    const left = costsThrough(schedule, day) - through;
    const goesOn =
      latest !== undefined &&
      left === latest.plan.left - (through - latest.before) &&
      sameAfter(latest.plan.known, known, day);
    if (!goesOn) plans.push({ plan: costPlan(known, day, left), before: through });
  }
  const amortized = new Float64Array(schedule.length);
  let before = 0;
  for (const row of bookingRows(schedule)) {
    const through = amortizedOn(schedule, plans, schedule.date[row] as number);
    amortized[row] = through - before;
    before = through;
  }
  const effectiveRates = plans.flatMap(({ plan: { from, rate } }) => (rate ? [{ from, ...rate }] : []));
  return { amortized, effectiveRates, plans };
}

/** The rows that book what is amortized: the last payment of each day, whatever else happens on it, and the last row. */
function bookingRows({ length, date, n }: LoanSchedule): number[] {
  const rows: number[] = [];
  for (let row = length - 1; row >= 0; row -= 1) {
    const mayBook = (n[row] as number) > 0 || row === length - 1;
    if (mayBook && date[row] !== date[rows.at(-1) ?? length]) rows.push(row);
  }
  return rows.reverse();
}

function amortizedOn(schedule: LoanSchedule, plans: readonly PlannedFrom[], on: CalendarDay): MinorUnits {
  if (plans.length === 0) return 0;
  if (on >= (schedule.date[schedule.length - 1] as number)) return costsThrough(schedule, on);
  const at = plans.findLast(({ plan }) => plan.from <= on);
  return at ? at.before + amortizedBy(at.plan, on) : 0;
}

/** The start, and every day on which something may change what is to come. */
function newsDays(schedule: LoanSchedule): CalendarDay[] {
  const { terms, length, date } = schedule;
  const last = date[length - 1] as number;
  const days = terms.events.flatMap((event): CalendarDay[] => {
    if (event.type === 'presentation' || event.type === 'paid') return [];
    if (event.type === 'fee' && event.treatment === 'expense') return [];
    return [event.type === 'extra-each-payment' ? event.from : event.on];
  });
  const news = [...days, ...paidOtherwise(schedule)].filter((day) => day > terms.start && day < last);
  return [...new Set([terms.start, ...news])].sort((a, b) => a - b);
}

/**
 * Days on which what was paid changes what is to come: more was paid than was asked for, or something due before the
 * payment before is still owed, or is paid at last. A few days late in between changes nothing that costs are spread by.
 */
function paidOtherwise(schedule: LoanSchedule): CalendarDay[] {
  const { length, date, n, due, extra, unpaid, deferred, principalInArrears, receipts } = schedule;
  if (receipts.byDue.size === 0) return [];
  const owing = (row: number): boolean =>
    row >= 0 && (unpaid[row] as number) - (deferred[row] as number) + (principalInArrears[row] as number) > 0;
  const days: CalendarDay[] = [];
  let behind = false;
  for (let row = 0; row < length; row += 1) {
    const ofPayment = (n[row] as number) > 0;
    const recorded = receipts.byDue.has(due[row] as number);
    const missed = ofPayment && owing(row - 1);
    if (missed || (behind && !owing(row)) || (recorded && (extra[row] as number) > 0)) {
      days.push(date[row] as number);
    }
    behind = missed || (behind && owing(row));
  }
  return days;
}

/** Whether two schedules go on alike after a day. */
function sameAfter(one: LoanSchedule, other: LoanSchedule, day: CalendarDay): boolean {
  let a = lastRowOn(one.date, one.length, day) + 1;
  let b = lastRowOn(other.date, other.length, day) + 1;
  if (one.length - a !== other.length - b) return false;
  if (one.closing[a - 1] !== other.closing[b - 1]) return false;
  for (; a < one.length; a += 1, b += 1) {
    if (one.closing[a] !== other.closing[b] || one.date[a] !== other.date[b]) return false;
  }
  return true;
}

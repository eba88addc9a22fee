import { Decimal } from 'decimal.js';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { asKnownOn } from './as-known-on.ts';
import { solveEffectiveRate, type CashFlow } from './effective-rate.ts';
import { eventDay, eventsOf, type Fee } from './loan-events.ts';
import { interestSegments } from './loan-interest.ts';
import { chargesInterest, kindOfRow, lastRowOn, type LoanSchedule } from './loan-schedule.ts';
import { grainsPerMinorUnit } from './loan-terms.ts';

/** A rate that costs are amortized at. */
export interface EffectiveRate {
  readonly from: CalendarDay;
  /** Annual, as a fraction. */
  readonly rate: string;
  /** It comes on top of the agreed rate, because that is known to change. */
  readonly overAgreed: boolean;
}

/** How the costs of a loan are amortized over its rows. Amounts in minor units, one element a row. */
export interface CostAmortization {
  readonly amortized: Float64Array;
  /** Effective annual rates in turn, as fractions: the first from the start, later ones after events. */
  readonly effectiveRates: readonly EffectiveRate[];
}

/** What is amortized in each row as long as nothing new is known. */
interface Plan {
  readonly known: LoanSchedule;
  readonly equal?: number;
  readonly rate?: Decimal;
  /** The rate comes on top of the agreed one. */
  readonly overAgreed?: boolean;
  /** Growth at the rate by share of a year: few shares differ. */
  readonly growths: Map<string, Decimal>;
}

const none: CostAmortization = { amortized: new Float64Array(0), effectiveRates: [] };
const amortizationOf = new WeakMap<LoanSchedule, CostAmortization>();

/** Whether a fee is amortized: one that comes with or after the last payment is an expense like any other. */
export function isDeferred({ length, date }: LoanSchedule, fee: Fee): boolean {
  return fee.treatment === 'defer' && length > 0 && fee.on < (date[length - 1] as number);
}

/** Costs of the loan and fees deferred, up to and with a day. Minor units. */
export function costsThrough(schedule: LoanSchedule, on: CalendarDay): number {
  const { terms } = schedule;
  const deferred = eventsOf(terms.events, 'fee').filter((fee) => fee.on <= on && isDeferred(schedule, fee));
  const atStart = on >= terms.start ? (terms.issueCosts?.amount ?? 0) : 0;
  return deferred.reduce((sum, fee) => sum + fee.amount, atStart);
}

/**
 * The amortization of issue costs and deferred fees, row by row: at the rate that makes the remaining payments worth
 * the carrying amount, or in equal parts; the last row takes what is left. What an event changes is spread from the
 * row before it on, and never earlier. Where the agreed rate is known to change, the rate sought comes on top of it, so
 * that interest stays what is agreed and only the costs are spread (as IFRS 9 B5.4.5 does for rates that move). Sources: ASC 310-20-35-18 and 835-30-35-2; IFRS 9 B5.4.1 to B5.4.4.
 */
export function costAmortization(schedule: LoanSchedule): CostAmortization {
  const { terms } = schedule;
  if (!terms.issueCosts && !eventsOf(terms.events, 'fee').some((fee) => isDeferred(schedule, fee)))
    return none;
  let found = amortizationOf.get(schedule);
  if (!found) amortizationOf.set(schedule, (found = amortize(schedule)));
  return found;
}

function amortize(schedule: LoanSchedule): CostAmortization {
  const { terms, length, date, closing } = schedule;
  const amortized = new Float64Array(length);
  const effectiveRates: EffectiveRate[] = [];
  const news = [...new Set([terms.start, ...terms.events.map(eventDay)])].sort((a, b) => a - b);
  const charging = Array.from({ length }, (_, row) => row).filter((row) => chargesInterest(schedule, row));
  let plan: Plan | undefined;
  let spread = 0;
  let newsAt = -1;
  charging.forEach((row, place) => {
    const before = charging[place - 1] ?? -1;
    const latest = news.findLastIndex((day) => day < (date[row] as number) || day === terms.start);
    const left = costsThrough(schedule, news[latest] as number) - spread;
    if (latest !== newsAt) {
      const known = asKnownOn(schedule, news[latest] as number);
      const changed = !plan || left !== planned(plan, left) || !sameFrom(plan.known, known, before + 1);
      if (changed) {
        plan = planOf(known, before, left);
        const from = before < 0 ? terms.start : (schedule.chargedTo[before] as number);
        if (plan.rate) {
          const rate = plan.rate.toSignificantDigits(20).toFixed();
          effectiveRates.push({ from, rate, overAgreed: plan.overAgreed === true });
        }
      }
      newsAt = latest;
    }
    const last = place === charging.length - 1 && closing[length - 1] === 0;
    const share = plan?.equal ?? effectiveShare(plan as Plan, before, left, row);
    amortized[row] = last ? left : Math.max(Math.min(share, left), Math.min(left, 0));
    spread += amortized[row];
  });
  return { amortized, effectiveRates };

  function planned(of: Plan, left: number): number {
    return costsThrough(of.known, Number.MAX_SAFE_INTEGER) - spread === left ? left : NaN;
  }
}

/** Whether two schedules go on alike from a row. */
function sameFrom(one: LoanSchedule, other: LoanSchedule, from: number): boolean {
  if (one.length !== other.length) return false;
  for (let row = from; row < one.length; row += 1) {
    if (one.closing[row] !== other.closing[row] || one.date[row] !== other.date[row]) return false;
  }
  return true;
}

function planOf(known: LoanSchedule, before: number, left: number): Plan {
  if (known.terms.issueCosts?.method === 'straight-line') {
    let payments = 0;
    for (let row = before + 1; row < known.length; row += 1) if (chargesInterest(known, row)) payments += 1;
    return { known, equal: Math.round(left / Math.max(1, payments)), growths: new Map() };
  }
  const begins = before < 0 ? known.terms.start : (known.chargedTo[before] as number);
  const overAgreed = known.rates.some(({ from }) => from > begins);
  const flows = flowsAfter(known, before, known.length - 1, overAgreed);
  const carrying = carryingAfter(known, before) - left;
  const start = overAgreed ? 0 : annualStart(known);
  return { known, rate: solveEffectiveRate(carrying, flows, start), overAgreed, growths: new Map() };
}

function annualStart({ rates }: LoanSchedule): number {
  const rate = rates.at(-1)?.annualRate;
  return rate ? Number(rate.num) / Number(rate.den) : 0.05;
}

function carryingAfter(schedule: LoanSchedule, row: number): number {
  if (row < 0) return schedule.terms.amount + (schedule.terms.takenOn?.accruedInterest ?? 0);
  return (schedule.closing[row] as number) + (schedule.unpaid[row] as number);
}

/** Payments less draws after one row through another, each with the years since the one before. */
function flowsAfter(schedule: LoanSchedule, after: number, through: number, overAgreed: boolean): CashFlow[] {
  const flows: CashFlow[] = [];
  let day = after < 0 ? schedule.terms.start : (schedule.chargedTo[after] as number);
  for (let row = after + 1; row <= through; row += 1) {
    const on = Math.max(day, schedule.date[row] as number);
    const drawn = kindOfRow(schedule, row) === 'draw' ? (schedule.added[row] as number) : 0;
    const atEnd = row === schedule.length - 1 ? (schedule.closing[row] as number) : 0;
    const amount = (schedule.payment[row] as number) + (schedule.extra[row] as number) - drawn + atEnd;
    flows.push({ ...spanBetween(schedule, day, on, overAgreed), amount });
    day = on;
  }
  return flows;
}

/** The years between two days by the loan's own day count, and what the agreed interest makes of one in them. */
function spanBetween(
  schedule: LoanSchedule,
  from: CalendarDay,
  to: CalendarDay,
  overAgreed: boolean,
): Pick<CashFlow, 'years' | 'agreed'> {
  const since = { day: from, balance: 1n, nextRow: schedule.length };
  const segments = interestSegments(schedule, schedule, since, to);
  const years = segments.reduce((sum, segment) => addFractions(sum, segment.years), { num: 0, den: 1 });
  if (!overAgreed) return { years };
  const perMinorUnit = Number(grainsPerMinorUnit(schedule.terms));
  const interest = segments.reduce((sum, { estimate }) => sum + estimate, 0);
  return { years, agreed: 1 + interest * perMinorUnit };
}

function addFractions(
  a: { num: number; den: number },
  b: { num: number; den: number },
): { num: number; den: number } {
  if (a.den === b.den) return { num: a.num + b.num, den: a.den };
  return { num: a.num * b.den + b.num * a.den, den: a.den * b.den };
}

/** What a row amortizes at the plan's rate: expense on the carrying amount less the interest charged. */
function effectiveShare(plan: Plan, before: number, left: number, row: number): number {
  const { known, rate, growths, overAgreed = false } = plan;
  const growth = (rate as Decimal).plus(1);
  const opening = carryingAfter(known, before) - left;
  let value = new Decimal(opening);
  let expense = new Decimal(0);
  for (const { years, amount, agreed = 1 } of flowsAfter(known, before, row, overAgreed)) {
    const key = `${years.num}/${years.den}/${agreed}`;
    const factor = growths.get(key) ?? growth.pow(new Decimal(years.num).div(years.den)).times(agreed);
    growths.set(key, factor);
    const grown = value.times(factor);
    expense = expense.plus(grown.minus(value));
    value = grown.minus(amount);
  }
  return expense
    .minus(known.interest[row] as number)
    .toDecimalPlaces(0, Decimal.ROUND_HALF_UP)
    .toNumber();
}

/** Costs amortized through a day: with each row, and for the running period its share by days. Minor units. */
export function amortizedCosts(schedule: LoanSchedule, on: CalendarDay): number {
  if (costAmortization(schedule) === none || on < schedule.terms.start) return 0;
  const known = asKnownOn(schedule, on);
  const { amortized } = costAmortization(known);
  if (amortized.length === 0) return 0;
  const through = lastRowOn(known.date, known.length, on);
  let sum = 0;
  let since = known.terms.start;
  for (let row = 0; row <= through; row += 1) {
    sum += amortized[row] ?? 0;
    if (chargesInterest(known, row)) since = known.chargedTo[row] as number;
  }
  for (let row = through + 1; row < known.length; row += 1) {
    if (!chargesInterest(known, row)) continue;
    const until = known.chargedTo[row] as number;
    const share = ((amortized[row] as number) * Math.max(0, on - since)) / Math.max(1, until - since);
    return sum + Math.round(Math.min(share, amortized[row] as number));
  }
  return sum;
}

/** Issue costs and deferred fees not yet amortized on a day. Minor units. */
export function unamortizedCosts(schedule: LoanSchedule, on: CalendarDay): number {
  if (costAmortization(schedule) === none) return 0;
  return costsThrough(schedule, on) - amortizedCosts(schedule, on);
}

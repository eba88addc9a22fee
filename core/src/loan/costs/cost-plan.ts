import { grainsOf } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import {
  fixedOf,
  fixedOne,
  fixedProduct,
  fixedQuotient,
  fixedRatio,
  fixedText,
  roundFixed,
  type Fixed,
} from '../../money/fixed-point.ts';
import { addRatios, multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { exactInterest } from '../interest/interest-segment.ts';
import { chargedBefore, interestPeriodOn, interestSegments } from '../interest/loan-interest.ts';
import { chargesInterest, grainsAt, lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { solveEffectiveRate, type CashFlow } from './effective-rate.ts';

/** A payment that costs are spread to, and what it takes of them. */
interface Stop {
  readonly on: CalendarDay;
  /** The day that its share is counted from. */
  readonly since: CalendarDay;
  /** Minor units. */
  readonly share: number;
}

/** An effective rate found for a plan. */
export interface PlanRate {
  /** Annual, as a fraction. */
  readonly rate: string;
  /** It comes on top of the agreed rate, because that is known to change. */
  readonly overAgreed: boolean;
}

/** How costs left on a day are spread over the payments then still to come, as the loan is known on that day. */
export interface CostPlan {
  readonly known: LoanSchedule;
  readonly from: CalendarDay;
  /** Costs left to amortize, minor units. */
  readonly left: number;
  readonly stops: readonly Stop[];
  readonly rate?: PlanRate;
}

/**
 * Spreads costs from a day on: of a credit line by days; of a loan in equal parts a period, what remains of the running
 * one by its days, or at the rate that makes the remaining payments worth the carrying amount; the last payment takes
 * what is left. Where the agreed rate is
 * known to change, the rate sought comes on top of it, so that interest stays what is agreed and only the costs are
 * spread (as IFRS 9 B5.4.5 does for rates that move). Sources: ASC 310-20-35-18 and 835-30-35-2; IFRS 9 B5.4.1 to
 * B5.4.4.
 */
export function costPlan(known: LoanSchedule, from: CalendarDay, left: number): CostPlan {
  const rows = rowsAhead(known, from);
  if (left === 0 || rows.length === 0) return { known, from, left, stops: [] };
  const shares = sharesOf(known, from, left, rows);
  let spread = 0;
  const stops = rows.map((row, at): Stop => {
    const rest = left - spread;
    const planned = shares.amounts[at] ?? 0;
    // No costs are given back, nor more taken than are left.
    const share = at === rows.length - 1 ? rest : Math.max(Math.min(planned, rest), Math.min(rest, 0));
    spread += share;
    return { on: known.date[row] as number, since: sinceOf(known, from, row), share };
  });
  return { known, from, left, stops, ...(shares.rate && { rate: shares.rate }) };
}

/** What a plan has amortized through a day: with each payment, and of the running period by its days. Minor units. */
export function amortizedBy({ known, from, left, stops }: CostPlan, on: CalendarDay): number {
  if (on <= from) return 0;
  let sum = 0;
  for (const { on: day, since, share } of stops) {
    if (day > on) return sum + partOf(known, share, since, on, day);
    sum += share;
  }
  return left;
}

/** The part of an amount by the days from one day to another of a longer stretch, by the loan's own day count. */
function partOf(
  known: LoanSchedule,
  amount: number,
  since: CalendarDay,
  on: CalendarDay,
  day: CalendarDay,
): number {
  const passed = yearsBetween(known, since, on);
  const whole = yearsBetween(known, since, day);
  // A day count may give a stretch at a month's end no days at all.
  const part =
    whole.num === 0
      ? ratio(BigInt(on - since), BigInt(day - since))
      : ratio(BigInt(passed.num) * BigInt(whole.den), BigInt(passed.den) * BigInt(whole.num));
  const { ties } = known.terms.rounding;
  return Number(roundRatio(multiplyRatios(ratio(BigInt(amount)), part), ties));
}

/** The numbered rows after a day; the last row of all where there is none of them. */
function rowsAhead(known: LoanSchedule, from: CalendarDay): number[] {
  const rows: number[] = [];
  for (let row = lastRowOn(known.date, known.length, from) + 1; row < known.length; row += 1) {
    if ((known.n[row] as number) > 0) rows.push(row);
  }
  const last = known.length - 1;
  if (rows.at(-1) !== last && last >= 0 && (known.date[last] as number) > from) rows.push(last);
  return rows;
}

/** Where the period of a row begins, not before a day. */
function sinceOf(known: LoanSchedule, from: CalendarDay, row: number): CalendarDay {
  for (let before = row - 1; before >= 0; before -= 1) {
    if ((known.n[before] as number) > 0) return Math.max(from, known.date[before] as number);
  }
  return Math.max(from, known.terms.start);
}

interface Shares {
  readonly amounts: readonly number[];
  readonly rate?: PlanRate;
}

function sharesOf(known: LoanSchedule, from: CalendarDay, left: number, rows: readonly number[]): Shares {
  const { creditLine, issueCosts } = known.terms;
  if (creditLine) return sharesByDays(known, from, left, rows);
  const equal = issueCosts?.method === 'straight-line';
  return equal ? equalShares(known, from, left, rows) : effectiveShares(known, from, left, rows);
}

/** Each day of what is left of a credit line's term alike, so that bills of any length take their own days. */
function sharesByDays(known: LoanSchedule, from: CalendarDay, left: number, rows: readonly number[]): Shares {
  const ends = known.date[rows.at(-1) as number] as number;
  const through = (on: CalendarDay): number => {
    const part = ratio(BigInt(left) * BigInt(on - from), BigInt(ends - from));
    return Number(roundRatio(part, known.terms.rounding.ties));
  };
  let before = 0;
  const amounts = rows.map((row) => {
    const after = through(known.date[row] as number);
    const share = after - before;
    before = after;
    return share;
  });
  return { amounts };
}

/** Equal parts a period; the running one counts by what is left of it. */
function equalShares(known: LoanSchedule, from: CalendarDay, left: number, rows: readonly number[]): Shares {
  const [first] = rows as [number];
  const begins = sinceOf(known, known.terms.start, first);
  const ends = known.date[first] as number;
  const whole = yearsBetween(known, begins, ends);
  const rest = yearsBetween(known, Math.max(from, begins), ends);
  const running =
    from <= begins || whole.num === 0
      ? ratio(1n)
      : ratio(BigInt(rest.num) * BigInt(whole.den), BigInt(rest.den) * BigInt(whole.num));
  const all = addRatios(running, ratio(BigInt(rows.length - 1)));
  const each: Ratio = all.num === 0n ? ratio(0n) : ratio(BigInt(left) * all.den, all.num);
  const { ties } = known.terms.rounding;
  const share = Number(roundRatio(each, ties));
  const ofRunning = Number(roundRatio(multiplyRatios(each, running), ties));
  return { amounts: rows.map((_, at) => (at === 0 ? ofRunning : share)) };
}

/** Interest at the effective rate on what is carried, less the interest charged. */
function effectiveShares(
  known: LoanSchedule,
  from: CalendarDay,
  left: number,
  rows: readonly number[],
): Shares {
  const overAgreed = known.rates.some((rate) => rate.from > from);
  const grains = grainsOf(known.terms);
  const accrued = accruedOn(known, from);
  const carried = owedAfter(known, lastRowOn(known.date, known.length, from)) + accrued - fixedOf(left);
  const flows = flowsAfter(known, from, overAgreed);
  const found = solveEffectiveRate(
    carried,
    flows.map(({ flow }) => flow),
  );
  // Costs beyond what is owed, as a late fee may be, have no rate; they go in equal parts.
  if (!found) return equalShares(known, from, left, rows);
  const { rate, over } = found;
  const amounts: number[] = [];
  let value = carried;
  let expense = 0n;
  let charged = -accrued;
  let next = 0;
  for (const { row, flow } of flows) {
    const grown = fixedProduct(value, over(flow.years));
    const after = flow.agreed === undefined ? grown : fixedProduct(grown, flow.agreed);
    expense += after - value;
    value = after - flow.amount;
    charged += fixedRatio({ num: grainsAt(known, 'interest', row), den: grains });
    if (row !== rows[next]) continue;
    amounts.push(roundFixed(expense - charged, known.terms.rounding.ties));
    expense = charged = 0n;
    next += 1;
  }
  return { amounts, rate: { rate: fixedText(rate, 20), overAgreed } };
}

/** Balance and what was billed and not paid after a row, minor units. */
function owedAfter(known: LoanSchedule, row: number): Fixed {
  if (row < 0) return fixedOf(known.terms.amount);
  const owed = grainsAt(known, 'closing', row) + grainsAt(known, 'unpaid', row);
  return fixedRatio({ num: owed, den: grainsOf(known.terms) });
}

/** Interest accrued on a day and not yet charged, brought in included; minor units. */
function accruedOn(known: LoanSchedule, on: CalendarDay): Fixed {
  const row = lastRowOn(known.date, known.length, on);
  const since = chargedBefore(known, row + 1);
  const accrued = fixedRatio(exactInterest(interestSegments(known, known, since, on)));
  for (let before = 0; before <= row; before += 1) if (chargesInterest(known, before)) return accrued;
  return accrued + fixedOf(known.terms.takenOn?.accruedInterest ?? 0);
}

/** Payments after a day, each with the years since the one before. */
function flowsAfter(
  known: LoanSchedule,
  from: CalendarDay,
  overAgreed: boolean,
): { row: number; flow: CashFlow }[] {
  const flows: { row: number; flow: CashFlow }[] = [];
  const grains = grainsOf(known.terms);
  let day = from;
  for (let row = lastRowOn(known.date, known.length, from) + 1; row < known.length; row += 1) {
    const on = Math.max(day, known.date[row] as number);
    const atEnd = row === known.length - 1 ? grainsAt(known, 'closing', row) : 0n;
    const paid = grainsAt(known, 'payment', row) + grainsAt(known, 'extra', row) + atEnd;
    const years = yearsBetween(known, day, on);
    const agreed = overAgreed ? { agreed: agreedGrowth(known, day, on) } : {};
    flows.push({ row, flow: { years, amount: fixedRatio({ num: paid, den: grains }), ...agreed } });
    day = on;
  }
  return flows;
}

/** The years between two days by the loan's own day count. */
function yearsBetween(known: LoanSchedule, from: CalendarDay, to: CalendarDay): Fraction {
  const { years } = dayCounts[known.terms.dayCount];
  const parts: Fraction[] = [];
  for (let at = from; at < to;) {
    const { period, until } = interestPeriodOn(known.stretches, at);
    const ends = Math.min(to, until);
    parts.push(years(at, ends, period));
    at = ends;
  }
  return parts.length > 0 ? parts.reduce(addFractions) : { num: 0, den: 1 };
}

/** What the agreed interest makes of one between two days. */
function agreedGrowth(known: LoanSchedule, from: CalendarDay, to: CalendarDay): Fixed {
  const grains = grainsOf(known.terms);
  const balance = 10n ** 12n * grains;
  const segments = interestSegments(known, known, { day: from, balance, nextRow: known.length }, to);
  const interest = fixedRatio(exactInterest(segments));
  return fixedOne + fixedQuotient(interest, fixedOf(10 ** 12));
}

function addFractions(a: Fraction, b: Fraction): Fraction {
  const { num, den } = ratio(
    BigInt(a.num) * BigInt(b.den) + BigInt(b.num) * BigInt(a.den),
    BigInt(a.den * b.den),
  );
  return { num: Number(num), den: Number(den) };
}

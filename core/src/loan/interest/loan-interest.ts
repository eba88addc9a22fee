import { grainsOf, interestStep, toGrains, toMinor } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import type { InterestPeriod } from '../../calendar/interest-period.ts';
import { cycleIndexOnOrAfter } from '../../calendar/payment-dates.ts';
import { growsOnInterest } from '../../rates/compounding.ts';
import { rateAt, type RateTimeline } from '../../rates/rate-timeline.ts';
import { firstAbove } from '../../search/first-above.ts';
import { estimatedSteps, exactInterest, InterestSegment } from './interest-segment.ts';
import type { LoanColumns } from '../schedule/loan-columns.ts';
import { chargesInterest, grainsAt, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { type LoanTerms } from '../terms/loan-terms.ts';
import { stretchPeriod, type Stretch } from '../terms/stretch.ts';

/** What interest is worked out from besides the rows. */
export interface InterestRules {
  readonly terms: LoanTerms;
  readonly stretches: readonly Stretch[];
  readonly rates: RateTimeline;
}

/** Where interest not yet charged begins: a day, the balance then, and the first row that may change it. */
export interface ChargedUntil {
  readonly day: CalendarDay;
  /** Grains. */
  readonly balance: bigint;
  readonly nextRow: number;
  /** Grains of interest accrued before the loan was taken on, where it earns interest like what follows. */
  readonly broughtIn?: bigint;
  /** A row from `nextRow` on whose change is in the balance already: the one that charged to a day before its own. */
  readonly countedRow?: number;
}

/** Where a loan's interest begins: at its start, with what had accrued before it was taken on. */
export function chargedAtStart(terms: LoanTerms): ChargedUntil {
  const grains = grainsOf(terms);
  const accrued = growsOnInterest(terms.compounding) ? (terms.takenOn?.accruedInterest ?? 0) : 0;
  return {
    day: terms.start,
    balance: BigInt(terms.amount) * grains,
    nextRow: 0,
    broughtIn: BigInt(accrued) * grains,
  };
}

/**
 * Where interest stands charged after a row that charges it. A payment that moved for a business day charges to its
 * agreed day; what was drawn or repaid between the two counts from its own day all the same.
 */
export function chargedByRow(rows: LoanColumns, row: number): ChargedUntil {
  const day = rows.chargedTo[row] as number;
  let balance = grainsAt(rows, 'closing', row);
  let first = row;
  while (first > 0 && (rows.date[first - 1] as number) > day && !chargesInterest(rows, first - 1)) {
    first -= 1;
    balance -= grainsAt(rows, 'closing', first) - grainsAt(rows, 'opening', first);
  }
  return first === row
    ? { day, balance, nextRow: row + 1 }
    : { day, balance, nextRow: first, countedRow: row };
}

/** The interest period that a day is counted in, and the day its count ends: a renewal may end it early. */
export function interestPeriodOn(
  stretches: readonly Stretch[],
  day: CalendarDay,
): { period: InterestPeriod; until: CalendarDay } {
  let at = stretches.length - 1;
  while (at > 0 && (stretches[at] as Stretch).opens > day) at -= 1;
  const stretch = stretches[at] as Stretch;
  let payment = firstAfter(stretch, day);
  let period = stretchPeriod(stretch, payment);
  while (period.to <= day) period = stretchPeriod(stretch, ++payment);
  return { period, until: Math.min(period.to, stretches[at + 1]?.opens ?? period.to) };
}

/** The first payment after a day, or where the day is past the last, at most one before it. */
function firstAfter({ interestDays, count, cycle, cycleFrom }: Stretch, day: CalendarDay): number {
  const last = interestDays[count - 1] as number;
  if (day > last) {
    const index =
      cycleFrom === null
        ? cycleIndexOnOrAfter({ ...cycle, anchor: last }, day) + count - 1
        : cycleIndexOnOrAfter(cycle, day) - cycleFrom;
    return Math.max(count, index - 1);
  }
  return firstAbove(interestDays, count, day);
}

/** The day from which a row's closing balance counts for interest. */
function countsFrom(rows: LoanColumns, row: number): CalendarDay {
  return (chargesInterest(rows, row) ? rows.chargedTo[row] : rows.date[row]) as number;
}

/**
 * The segments from where interest was last charged to a day: cut wherever the balance or the rate changes and
 * wherever an interest period ends, since a share of a year is counted within its own period.
 */
export function interestSegments(
  rules: InterestRules,
  rows: LoanColumns,
  since: ChargedUntil,
  to: CalendarDay,
): InterestSegment[] {
  const { terms, stretches, rates } = rules;
  const segments: InterestSegment[] = [];
  let at = since.day;
  if (at >= to) return segments;
  const grains = grainsOf(terms);
  const rule = dayCounts[terms.dayCount];
  const { countedRow } = since;
  let balance = since.balance;
  let row = since.nextRow;
  let { period, until: ends } = interestPeriodOn(stretches, at);
  let rate = rateAt(rates, at);
  while (at < to) {
    for (; row < rows.length && (row === countedRow || countsFrom(rows, row) <= at); row += 1) {
      if (row !== countedRow) balance += grainsAt(rows, 'closing', row) - grainsAt(rows, 'opening', row);
    }
    const change = row < rows.length ? countsFrom(rows, row) : to;
    const until = Math.min(to, ends, change, rates[rate + 1]?.from ?? to);
    const { annualRate } = rates[rate] as RateTimeline[number];
    const years = rule.years(at, until, period);
    const days = rule.days(at, until, period);
    segments.push(
      new InterestSegment({
        from: at,
        to: until,
        grains: balance,
        perMinorUnit: grains,
        annualRate,
        compounding: terms.compounding,
        rate,
        days,
        years,
        before: segments.at(-1),
        broughtIn: since.broughtIn ?? 0n,
      }),
    );
    at = until;
    if (at >= ends) ({ period, until: ends } = interestPeriodOn(stretches, at));
    rate = rateAt(rates, at);
  }
  return segments;
}

/** Interest of segments rounded once as the loan's terms say for showing. Minor units. */
export function roundedInterest(terms: LoanTerms, segments: readonly InterestSegment[]): number {
  const step = interestStep(terms);
  const steps = estimatedSteps(segments, step);
  return steps === undefined ? toMinor(terms, exactInterest(segments)) : steps * step;
}

/** Interest of segments in grains, rounded as the terms say. */
export function interestInGrains(terms: LoanTerms, segments: readonly InterestSegment[]): bigint {
  if (grainsOf(terms) === 1n) return BigInt(roundedInterest(terms, segments));
  return toGrains(terms, exactInterest(segments));
}

/** Where interest stood charged before a row that charges it: the row that charged before, or the start. */
export function chargedBefore(schedule: LoanSchedule, row: number): ChargedUntil {
  for (let before = row - 1; before >= 0; before -= 1) {
    if (chargesInterest(schedule, before)) return chargedByRow(schedule, before);
  }
  return chargedAtStart(schedule.terms);
}

/** The segments that the interest of a row that charges it was computed from. */
export function rowSegments(schedule: LoanSchedule, row: number): InterestSegment[] {
  return interestSegments(
    schedule,
    schedule,
    chargedBefore(schedule, row),
    schedule.chargedTo[row] as number,
  );
}

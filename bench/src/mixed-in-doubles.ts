import {
  addMonths,
  compoundingsPerYear,
  dayCounts,
  ratioToNumber,
  type CalendarDay,
  type InterestPeriod,
  type LoanTerms,
} from '@coffer/core';
import type { PlainColumns } from './rows-in-doubles.ts';

/** Periods that a payment may be spread over at most. */
const longest = 600;

/** What happens between due dates, as plain amounts. */
interface PlainEvent {
  readonly on: CalendarDay;
  readonly change: number;
  readonly reLevels: boolean;
}

/**
 * The same mixed loans worked out in plain doubles, for comparison only: dates, shares of a year, powers, stretches,
 * steps, draws and extra payments as somebody would write them who trusts doubles with cents. Payments recorded a few
 * days early are taken as made on their dates.
 */
export class MixedInDoubles {
  constructor(private readonly columns: PlainColumns) {}

  /** Fills the columns with one loan's rows; the interest of the whole. */
  fill(terms: LoanTerms): number {
    const { columns } = this;
    const dues = dueDates(terms);
    const events = plainEvents(terms);
    const { years } = dayCounts[terms.dayCount];
    const times = compoundingsPerYear[terms.compounding];
    const shareOf = (from: CalendarDay, to: CalendarDay, period: InterestPeriod): number => {
      const { num, den } = years(from, to, period);
      return num / den;
    };
    // Shares of whole periods are wanted again whenever a payment is levelled anew.
    const shares = new Float64Array(longest);
    const wholeShare = (row: number): number => {
      if (shares[row] === 0) {
        const to = dues[row] ?? addMonths(terms.first, row);
        const from = row === 0 ? terms.start : (dues[row - 1] ?? addMonths(terms.first, row - 1));
        shares[row] = shareOf(from, to, periodOf(from, to));
      }
      return shares[row] as number;
    };
    const step = terms.rateSteps[0];
    let rate = ratioToNumber(terms.annualRate);
    let force = times === undefined ? 0 : times * Math.log1p(rate / times);
    const growth = (share: number): number =>
      times === undefined ? rate * share : Math.expm1(force * share);
    let balance = terms.amount;
    let total = 0;
    let event = 0;
    let row = 0;
    for (const phase of terms.phases) {
      const count = 'count' in phase ? (phase.count ?? 0) : 0;
      const over = phase.type === 'level' ? phase.amortizeOver : count;
      let set = 0;
      let levels = true;
      for (let at = 0; at < count && balance > 0; at += 1) {
        const from = row === 0 ? terms.start : (dues[row - 1] as number);
        const to = dues[row] as number;
        const period = periodOf(from, to);
        const opening = balance;
        let interest = 0;
        let since = from;
        const run = (until: CalendarDay): void => {
          const bears = times === undefined ? balance : balance + interest;
          const whole = since === from && until === to;
          interest += bears * growth(whole ? wholeShare(row) : shareOf(since, until, period));
          since = until;
        };
        while (event < events.length && (events[event] as PlainEvent).on < to) {
          const { on, change, reLevels } = events[event++] as PlainEvent;
          run(on);
          balance = Math.max(0, balance + change);
          levels ||= reLevels;
        }
        if (step && step.from > from && step.from < to) {
          run(step.from);
          rate = ratioToNumber(step.annualRate);
          if (times !== undefined) force = times * Math.log1p(rate / times);
          levels = true;
        }
        run(to);
        const charged = Math.round(interest);
        if (phase.type === 'level' && levels) set = level(balance, over - at, row, wholeShare, growth);
        if (phase.type === 'equal-principal' && levels) set = Math.round(balance / (count - at));
        levels = false;
        const paying = phase.type === 'level' ? set - charged : phase.type === 'equal-principal' ? set : 0;
        const last = row === dues.length - 1;
        const repaid = last || paying > balance ? balance : paying;
        const added = phase.type === 'no-payment' ? charged : 0;
        columns.n[row] = row + 1;
        columns.date[row] = columns.due[row] = to;
        columns.opening[row] = opening;
        columns.interest[row] = charged;
        columns.principal[row] = repaid;
        columns.payment[row] = added > 0 ? 0 : charged + repaid;
        balance += added - repaid;
        columns.closing[row] = balance;
        total += charged;
        row += 1;
      }
    }
    columns.length = row;
    return total;
  }
}

function dueDates(terms: LoanTerms): CalendarDay[] {
  const count = terms.phases.reduce((sum, phase) => sum + ('count' in phase ? (phase.count ?? 0) : 0), 0);
  return Array.from({ length: count }, (_, at) => addMonths(terms.first, at));
}

function plainEvents({ events }: LoanTerms): PlainEvent[] {
  const found: PlainEvent[] = [];
  for (const event of events) {
    if (event.type === 'extra-principal')
      found.push({ on: event.on, change: -event.amount, reLevels: event.then === 're-level' });
    if (event.type === 'draw') found.push({ on: event.on, change: event.amount, reLevels: true });
  }
  return found.sort((one, other) => one.on - other.on);
}

function periodOf(from: CalendarDay, to: CalendarDay): InterestPeriod {
  return { from, to, evenYears: { num: 1, den: 12 }, perYear: 12, boundaries: [from, to] };
}

/** The level payment by the present value of an annuity with each period's own factor. */
function level(
  balance: number,
  over: number,
  row: number,
  shareOf: (row: number) => number,
  growth: (share: number) => number,
): number {
  let discount = 1;
  let annuity = 0;
  for (let at = row; at < row + over; at += 1) {
    discount /= 1 + growth(shareOf(at));
    annuity += discount;
  }
  return Math.round(balance / annuity);
}

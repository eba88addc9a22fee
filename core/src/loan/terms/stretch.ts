import { businessDay } from '../../calendar/business-days/business-days.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { InterestPeriod } from '../../calendar/interest-period.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import { interestPeriodOf, lastPeriodOf, regularPeriod } from '../../calendar/interest-period.ts';
import { cycleDate, cycleDates, cycleIndexOnOrAfter, type DateCycle } from '../../calendar/payment-dates.ts';
import { checkStretchDates } from './check-stretch-dates.ts';
import { eventsOf, type Renewal } from './loan-events.ts';
import { mostPayments, phaseCount, type BusinessDayTerms, type LoanTerms, type Phase } from './loan-terms.ts';
import type { Count } from '../../units/units.ts';

/** A phase with the dates of its payments. */
export interface Stretch {
  readonly phase: Phase;
  /** Place among the terms' phases; renewals follow them in order. */
  readonly phaseAt: number;
  readonly renewal?: Renewal;
  /** Whether a renewal began it between due dates. */
  readonly offCycle?: boolean;
  readonly cycle: DateCycle;
  /** Place in the cycle of the first payment; `null` for listed dates. */
  readonly cycleFrom: number | null;
  /** The day that the first period begins. */
  readonly opens: CalendarDay;
  /** Whether the first period is a regular one by agreement. */
  readonly opensRegular: boolean;
  /** Whether the last payment falls on a day of its own, outside the cycle. */
  readonly oddLast: boolean;
  /** Payments made, at most {@link mostPayments}. */
  readonly count: Count;
  /** Payments agreed before a renewal cut it short: what a payment was worked out over does not change for that. */
  readonly agreedCount: Count;
  readonly openEnded: boolean;
  /** Whether a renewal ended it before its own last payment. */
  readonly cutShort: boolean;
  /** Whether the balance is cleared with the last payment. */
  readonly clears: boolean;
  /** Due dates, and further ones as far as level payments are spread over. */
  readonly dues: Int32Array;
  /** The due dates as agreed, before any moved for business days. */
  readonly agreedDays: Int32Array;
  /** The days that interest runs to: the due dates, unless only the payments move for business days. */
  readonly interestDays: Int32Array;
  readonly termination: CalendarDay | undefined;
}

/**
 * The stretches of a loan in order: its phases, cut and followed by renewals. A pure function of the terms. Throws
 * {@link TermsFault} for stretches that overlap.
 */
export function loanStretches(terms: LoanTerms): Stretch[] {
  const cycle: DateCycle = { anchor: terms.first, every: terms.every, keepMonthEnd: terms.keepMonthEnd };
  const stretches: Stretch[] = [];
  let opens = terms.start;
  let next: number | null = 0;
  terms.phases.forEach((phase, phaseAt) => {
    const last = phaseAt === terms.phases.length - 1;
    const continues = phaseAt > 0 && next !== null;
    const from: number = next ?? cycleIndexOnOrAfter(cycle, opens + 1);
    const stretch = stretchOf(terms, phase, phaseAt, cycle, from, opens, continues, last);
    stretches.push(stretch);
    opens = stretch.interestDays[stretch.count - 1] as number;
    next = phase.type === 'custom' ? null : from + stretch.count;
  });
  checkStretchDates(terms, stretches);
  const renewals = eventsOf(terms.events, 'renewal').sort((a, b) => a.on - b.on);
  for (const [at, renewal] of renewals.entries()) renew(terms, stretches, renewal, terms.phases.length + at);
  return stretches;
}

function stretchOf(
  terms: LoanTerms,
  phase: Phase,
  phaseAt: number,
  cycle: DateCycle,
  next: number,
  opens: CalendarDay,
  opensRegular: boolean,
  last: boolean,
): Stretch {
  const stated = phaseCount(phase);
  const count = Math.min(stated ?? mostPayments, mostPayments);
  const needed = phase.type === 'level' ? Math.max(count, phase.amortizeOver) : count;
  const listed = phase.type === 'custom';
  const unmoved = listed
    ? Int32Array.from(phase.payments, ({ on }) => on)
    : next === 0
      ? cycleDates(cycle, needed)
      : Int32Array.from({ length: needed }, (_, at) => cycleDate(cycle, next + at));
  const oddLast = last && !listed && stated !== undefined && terms.last !== undefined;
  if (oddLast) unmoved[count - 1] = terms.last;
  const dues = listed ? unmoved : movedDates(unmoved, terms.businessDays);
  return {
    phase,
    phaseAt,
    cycle,
    cycleFrom: listed ? null : next,
    opens,
    opensRegular: opensRegular && !listed,
    oddLast,
    count,
    agreedCount: count,
    openEnded: stated === undefined,
    cutShort: false,
    clears: last && stated !== undefined && terms.atEnd === 'pay',
    dues,
    agreedDays: unmoved,
    interestDays: terms.businessDays?.accrual === 'unmoved' ? unmoved : dues,
    termination: last && stated !== undefined ? unmoved[count - 1] : undefined,
  };
}

function movedDates(dates: Int32Array, moving: BusinessDayTerms | undefined): Int32Array {
  return moving ? dates.map((day) => businessDay(day, moving.rule, moving.calendar, moving.closed)) : dates;
}

/**
 * Ends what ran until a renewal on its day and adds what was agreed then. A stretch that had begun and not paid yet
 * stays, without payments: its first period is what the days until then are counted in.
 */
function renew(terms: LoanTerms, stretches: Stretch[], renewal: Renewal, phaseAt: number): void {
  while (stretches.length > 1 && !hasBegun(stretches.at(-1) as Stretch, stretches.at(-2), renewal.on))
    stretches.pop();
  const running = stretches.pop() as Stretch;
  let count = 0;
  while (count < running.count && (running.dues[count] as number) <= renewal.on) count += 1;
  // After a last payment that clears the loan there is nothing left to renew.
  const clears = running.clears && (running.dues[running.count - 1] as number) < renewal.on;
  stretches.push({
    ...running,
    count,
    openEnded: false,
    cutShort: running.cutShort || count < running.count,
    clears,
  });
  const paidTo = count > 0 ? (running.interestDays[count - 1] as number) : running.opens;
  const onDueDate = count > 0 && [running.dues[count - 1], paidTo].includes(renewal.on);
  // Between due dates the new periods begin on the day of the renewal itself.
  const begins = onDueDate ? paidTo : renewal.on;
  const every = renewal.every ?? terms.every;
  const sameCycle = onDueDate && running.cycleFrom !== null && every === running.cycle.every;
  const cycle: DateCycle = sameCycle
    ? running.cycle
    : { anchor: begins, every, keepMonthEnd: terms.keepMonthEnd };
  const next = sameCycle ? (running.cycleFrom as number) + count : 1;
  const { last: _last, ...unbounded } = terms;
  const phase: Phase = {
    type: 'level',
    count: renewal.count,
    amortizeOver: renewal.amortizeOver,
    ...(renewal.payment !== undefined && { payment: renewal.payment }),
  };
  const stretch = stretchOf(unbounded, phase, phaseAt, cycle, next, begins, true, true);
  stretches.push({ ...stretch, renewal, offCycle: !onDueDate });
}

/** Whether a stretch runs on a day: it opened before, and the one before it has made its last payment. */
function hasBegun({ opens }: Stretch, before: Stretch | undefined, on: CalendarDay): boolean {
  return opens < on && (!before || before.count === 0 || (before.dues[before.count - 1] as number) <= on);
}

/**
 * The interest period that ends with a payment of a stretch, counted from 0. Past its last payment the periods go on
 * as its cycle does.
 */
export function stretchPeriod(stretch: Stretch, at: number): InterestPeriod {
  const { cycle, cycleFrom, opens, agreedCount, termination } = stretch;
  const from = at === 0 ? opens : interestDay(stretch, at - 1);
  const to = interestDay(stretch, at);
  const ends = at === agreedCount - 1 && to === termination ? termination : undefined;
  if (cycleFrom === null) return interestPeriodOf(cycle, from, to, ends);
  if (stretch.oddLast && at === agreedCount - 1) return lastPeriodOf(cycle, from, to, ends);
  if (at > 0 || stretch.opensRegular) {
    return regularPeriod(from, to, { num: 1, den: paymentsPerYear[cycle.every] }, ends);
  }
  const unmovedTo = cycleDate(cycle, cycleFrom);
  const period = interestPeriodOf(cycle, Math.min(from, unmovedTo), unmovedTo, ends);
  return unmovedTo === to ? period : { ...period, to, boundaries: [...period.boundaries.slice(0, -1), to] };
}

/** The day that interest of a payment runs to; past the last payment as the cycle goes on. */
export function interestDay({ interestDays, cycle, cycleFrom, count }: Stretch, at: number): CalendarDay {
  if (at < interestDays.length) return interestDays[at] as number;
  if (cycleFrom !== null) return cycleDate(cycle, cycleFrom + at);
  return cycleDate({ ...cycle, anchor: interestDays[count - 1] as number }, at - count + 1);
}

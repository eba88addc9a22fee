import { cycleDate, cycleIndexOnOrAfter } from '../../calendar/payment-dates.ts';
import { missingFixings } from '../../rates/rate-index.ts';
import { rateTimeline, type RateStep } from '../../rates/rate-timeline.ts';
import { checkLoanTerms } from '../terms/check-loan-terms.ts';
import { eventsOf, type LoanEvent } from '../terms/loan-events.ts';
import type { LoanNotice, LoanSchedule } from './loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { LoanWalk } from './loan-walk.ts';
import { loanStretches, type Stretch } from '../terms/stretch.ts';

/**
 * A loan's schedule from its terms and events: a pure function, exact to the minor unit.
 * Throws {@link TermsFault} for terms that contradict each other or never repay, and {@link BeyondExact} when an amount
 * grows beyond exact numbers.
 *
 * @example
 * buildLoanSchedule(thousand([level(12)])).payment[0] // 8_885
 */
export function buildLoanSchedule(terms: LoanTerms): LoanSchedule {
  checkLoanTerms(terms);
  const renewed = eventsOf(terms.events, 'renewal').map(({ on, annualRate }): RateStep => ({
    from: on,
    annualRate,
    payment: 'keep',
  }));
  const rates = rateTimeline(terms.start, terms.annualRate, [...terms.rateSteps, ...renewed], terms.index);
  const schedule = new LoanWalk(terms, loanStretches(terms), rates).run();
  const more = [...fixingNotices(schedule), ...gapNotices(schedule), ...largeLastPayment(schedule)];
  return more.length === 0 ? schedule : { ...schedule, notices: [...schedule.notices, ...more] };
}

/** A notice for each list of payments that begins later than the stretch before it would have gone on. */
function gapNotices({ stretches }: LoanSchedule): LoanNotice[] {
  return stretches.slice(1).flatMap(({ phase, cycle, opens, dues }): LoanNotice[] => {
    const on = dues[0] as number;
    const regular = cycleDate(cycle, cycleIndexOnOrAfter(cycle, opens + 1));
    return phase.type === 'custom' && on > regular ? [{ on, kind: 'gap', stated: 0, applied: 0 }] : [];
  });
}

/** Events after which a last payment of any size is nobody's mistake. */
const leavesMore: readonly LoanEvent['type'][] = [
  'paid',
  'draw',
  'payment-change',
  'interest-added',
  'renewal',
];

/** A notice where payments of an agreed amount leave a last one of more than twice it, and no balloon is agreed. */
function largeLastPayment({ terms, stretches, length, payment, date }: LoanSchedule): LoanNotice[] {
  const { phase, clears } = stretches.at(-1) as Stretch;
  const regular = phase.type === 'fixed' || phase.type === 'level' ? (phase.payment ?? 0) : 0;
  const agreed =
    phase.type === 'level' && (phase.balloon !== undefined || phase.amortizeOver !== phase.count);
  const last = payment[length - 1] ?? 0;
  if (!clears || regular === 0 || agreed || last <= 2 * regular) return [];
  if (terms.events.some(({ type }) => leavesMore.includes(type))) return [];
  if (phase.type === 'fixed' && phase.rises) return [];
  return [{ on: date[length - 1] as number, kind: 'last-payment-large', stated: regular, applied: last }];
}

/** A notice for each day of the loan's life on which the rate was to be set and has no fixing. */
function fixingNotices({ terms, length, date }: LoanSchedule): LoanNotice[] {
  if (!terms.index || length === 0) return [];
  const last = (date[length - 1] as number) - 1;
  return missingFixings(terms.index, terms.start, terms.keepMonthEnd, last).map((on) => ({
    on,
    kind: 'fixing-missing',
    stated: 0,
    applied: 0,
  }));
}

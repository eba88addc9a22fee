import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { eventsOf, type PaymentChange } from '../terms/loan-events.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { Stretch } from '../terms/stretch.ts';
import { risen, wholeYears, type Rise } from './rise.ts';

/** An amount that rises in a stretch, from a day on and before another. */
interface Rising {
  readonly stretch: Stretch;
  readonly from: CalendarDay;
  readonly before: CalendarDay;
  /** Minor units. */
  readonly payment: number;
  readonly rises: Rise;
}

/**
 * Every change of the payment that is agreed, in order of day: those stated, and the yearly rises of what rises until
 * another payment is agreed or the stretch is over.
 */
export function agreedChanges(terms: LoanTerms, stretches: readonly Stretch[]): PaymentChange[] {
  const stated = eventsOf(terms.events, 'payment-change').toSorted((a, b) => a.on - b.on);
  const rising = [...risingStretches(stretches, stated), ...risingChanges(stretches, stated)];
  if (rising.length === 0) return stated;
  const rises = rising.flatMap((each) => risesOf(each, terms));
  return [...stated, ...rises].sort((a, b) => a.on - b.on);
}

/** Each year's, from the first payment that is agreed for a day on or after the same day of the year. */
function risesOf(
  { stretch, from, before, payment, rises }: Rising,
  { rounding }: LoanTerms,
): PaymentChange[] {
  const changes: PaymentChange[] = [];
  const { agreedDays, dues, count } = stretch;
  let year = 1;
  for (let at = 0; at < count; at += 1) {
    const [agreed, on] = [agreedDays[at] as number, dues[at] as number];
    if (on >= before) break;
    const years = wholeYears(from, agreed);
    if (years < year) continue;
    year = years + 1;
    changes.push({ type: 'payment-change', on, payment: risen(payment, rises, years, rounding.ties) });
  }
  return changes;
}

/** The day after the last that is due in a stretch. */
const endOf = ({ dues, count }: Stretch): CalendarDay => (dues[count - 1] ?? 0) + 1;

function risingStretches(stretches: readonly Stretch[], stated: readonly PaymentChange[]): Rising[] {
  return stretches.flatMap((stretch, at): Rising[] => {
    const { phase, agreedDays } = stretch;
    if (phase.type !== 'fixed' || !phase.rises) return [];
    const from = agreedDays[0] as number;
    const [begin, end] = [at === 0 ? -Infinity : endOf(stretches[at - 1] as Stretch), endOf(stretch)];
    // Agreed for the first payment already, another amount leaves nothing of this one to rise.
    const other = stated.find(({ on }) => on >= begin && on < end);
    return [{ stretch, from, before: other?.on ?? end, payment: phase.payment, rises: phase.rises }];
  });
}

function risingChanges(stretches: readonly Stretch[], stated: readonly PaymentChange[]): Rising[] {
  return stated.flatMap(({ on, payment, rises }, at): Rising[] => {
    if (!rises) return [];
    const stretch = stretches.find((each) => on < endOf(each));
    if (!stretch) return [];
    const other = stated[at + 1]?.on ?? Infinity;
    return [{ stretch, from: on, before: Math.min(other, endOf(stretch)), payment, rises }];
  });
}

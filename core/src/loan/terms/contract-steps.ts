import { formatDay } from '../../calendar/calendar-day.ts';
import type { RateTimeline } from '../../rates/rate-timeline.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { risen, wholeYears } from '../payment/rise.ts';
import { agreedRates, rateParts, type RatePart } from './contract-growth.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';
import { loanStretches, stretchPeriod, type Stretch } from './stretch.ts';

/** What one period of an agreement does besides growing the balance; amounts in minor units. */
export type ContractStep = { readonly parts: readonly RatePart[] } & (
  | { readonly does: 'pays'; readonly amount: number }
  | { readonly does: 'repays'; readonly amount: number }
  | { readonly does: 'pays-interest' | 'adds-interest' | 'keeps-interest' | 'adds-kept' | 'pays-kept' }
);

/** What is solved from the agreed payments, as the document names it. */
export type SolvedKey = 'amount' | 'rate.annual' | 'payment';

/**
 * The agreed payments of a loan, period by period, without events: what an unknown amount, rate or payment of
 * several phases is solved from.
 * A level payment spread over more payments than are made is followed to where it would clear the loan; a balloon is
 * what the last of its payments pays besides, whether it then is paid or left for renewal.
 * Throws {@link TermsFault} where a phase leaves open what it pays.
 *
 * @param unknown what is solved, for the messages
 */
export function contractSteps(terms: LoanTerms, unknown: SolvedKey): ContractStep[] {
  const stretches = loanStretches({ ...terms, events: [] });
  const rates = agreedRates(terms);
  refuseLevelledAnew(terms, rates, unknown);
  return stretches.flatMap((stretch, at) => {
    const last = at === stretches.length - 1;
    if (last) refuseUndetermined(stretch.phase, at, unknown);
    return stepsOf(terms, rates, stretch, last, unknown);
  });
}

function stepsOf(
  terms: LoanTerms,
  rates: RateTimeline,
  stretch: Stretch,
  last: boolean,
  unknown: SolvedKey,
): ContractStep[] {
  const { phase, phaseAt } = stretch;
  const count = phase.type === 'level' && last ? phase.amortizeOver : stretch.count;
  const balloon = (phase.type === 'level' && phase.balloon) || 0;
  const rises = phase.type === 'fixed' ? phase.rises : undefined;
  const yearsAt = (at: number): number =>
    wholeYears(stretch.agreedDays[0] as number, stretch.agreedDays[at] as number);
  return Array.from({ length: count }, (_, at): ContractStep => {
    const parts = rateParts(terms, rates, stretchPeriod(stretch, at));
    switch (phase.type) {
      case 'level':
      case 'fixed':
        if (phase.payment === undefined)
          throw leftOpen(`payments.phases.${phaseAt}.payment`, unknown, 'payment');
        return {
          parts,
          does: 'pays',
          amount:
            risen(phase.payment, rises, yearsAt(at), terms.rounding.ties) + (at === count - 1 ? balloon : 0),
        };
      case 'custom':
        return { parts, does: 'pays', amount: phase.payments[at]?.amount ?? 0 };
      case 'equal-principal':
        if (phase.principal === undefined) {
          throw leftOpen(`payments.phases.${phaseAt}.principal`, unknown, 'principal of each payment');
        }
        return { parts, does: 'repays', amount: phase.principal };
      case 'interest-only':
        return { parts, does: 'pays-interest' };
      case 'no-payment':
        if (phase.interest === 'added-each-period') return { parts, does: 'adds-interest' };
        if (at < count - 1) return { parts, does: 'keeps-interest' };
        return { parts, does: phase.then === 'pay' ? 'pays-kept' : 'adds-kept' };
    }
  });
}

/** A payment that is levelled anew over what is then owed repays any amount at any rate. */
function refuseLevelledAnew(terms: LoanTerms, rates: RateTimeline, unknown: SolvedKey): void {
  const levelled = rates.slice(1).find(({ payment }) => payment === 're-level');
  const at = terms.phases.findIndex(({ type }) => type === 'level');
  if (!levelled || at < 0) return;
  throw new TermsFault(
    unknown === 'payment' ? `payments.phases.${at}.payment` : unknown,
    `From ${formatDay(levelled.from)} the payment is levelled anew with the rate, and would repay any amount; ` +
      'have the payment stay then, or leave that change of the rate out.',
  );
}

function leftOpen(key: string, unknown: string, what: string): TermsFault {
  return new TermsFault(key, `To solve ${unknown}, this ${what} must be given; only one may be unknown.`);
}

function refuseUndetermined(phase: Phase, at: number, unknown: string): void {
  if (phase.type === 'fixed' && phase.count === undefined) {
    throw new TermsFault(
      `payments.phases.${at}.count`,
      `To solve ${unknown}, the count must be given: these payments run until the loan is cleared, whatever it is.`,
    );
  }
  if (phase.type === 'interest-only' || phase.type === 'no-payment') {
    throw new TermsFault(
      unknown,
      'The last stretch pays whatever is left, so any value would do; give the payments that repay the loan.',
    );
  }
}

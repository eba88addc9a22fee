import type { Fraction } from '../calendar/fraction.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { TermsFault } from '../terms-fault.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';
import { loanStretches, stretchPeriod, type Stretch } from './stretch.ts';

/** What one period of an agreement does besides growing the balance; amounts in minor units. */
export type ContractStep = { readonly years: Fraction } & (
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
  return stretches.flatMap((stretch, at) => {
    const last = at === stretches.length - 1;
    if (last) refuseUndetermined(stretch.phase, at, unknown);
    return stepsOf(terms, stretch, last, unknown);
  });
}

function stepsOf(terms: LoanTerms, stretch: Stretch, last: boolean, unknown: SolvedKey): ContractStep[] {
  const { phase, phaseAt } = stretch;
  const rule = dayCounts[terms.dayCount];
  const count = phase.type === 'level' && last ? phase.amortizeOver : stretch.count;
  const balloon = (phase.type === 'level' && phase.balloon) || 0;
  return Array.from({ length: count }, (_, at): ContractStep => {
    const period = stretchPeriod(stretch, at);
    const years = rule.years(period.from, period.to, period);
    switch (phase.type) {
      case 'level':
      case 'fixed':
        if (phase.payment === undefined)
          throw leftOpen(`payments.phases.${phaseAt}.payment`, unknown, 'payment');
        return { years, does: 'pays', amount: phase.payment + (at === count - 1 ? balloon : 0) };
      case 'custom':
        return { years, does: 'pays', amount: phase.payments[at]?.amount ?? 0 };
      case 'equal-principal':
        if (phase.principal === undefined) {
          throw leftOpen(`payments.phases.${phaseAt}.principal`, unknown, 'principal of each payment');
        }
        return { years, does: 'repays', amount: phase.principal };
      case 'interest-only':
        return { years, does: 'pays-interest' };
      case 'no-payment':
        if (phase.interest === 'added-each-period') return { years, does: 'adds-interest' };
        if (at < count - 1) return { years, does: 'keeps-interest' };
        return { years, does: phase.then === 'pay' ? 'pays-kept' : 'adds-kept' };
    }
  });
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

import { paymentRounding, roundedPayment } from '../../money/rounding.ts';
import type { Decimal } from 'decimal.js';
import { Precise } from '../../money/precise.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { balanceLeft, broughtInOf } from './contract-balance.ts';
import { agreedRates, growthOfParts } from './contract-growth.ts';
import { contractSteps } from './contract-steps.ts';
import type { LoanTerms } from './loan-terms.ts';

/** One payment that is unknown in several level phases: the seasons of a loan paid only part of the year. */
export interface SamePayment {
  /** Places of the phases that it is paid in. */
  readonly samePaymentIn: readonly number[];
}

/**
 * The terms with the payment that, the same in each of several level phases, leaves nothing after the last stretch;
 * what is paid, added or left between them counts. Rounded once, as the terms round payments (a payment agreed for
 * several stretches is a whole number of minor units even where nothing is rounded); the last payment absorbs it.
 *
 * The balance at the end is a − b·payment, the value at that day of what was lent and of the payments (equation of
 * value; Kellison, The Theory of Interest, section 2.2). Throws {@link TermsFault} where a change of rate levels
 * payments anew, and for payments that the other stretches leave nothing to.
 */
export function solveSamePayment(terms: LoanTerms, { samePaymentIn }: SamePayment): LoanTerms {
  const key = `payments.phases.${samePaymentIn[0]}.payment`;
  const growths = growthOfParts(terms, agreedRates(terms));
  const left = (payment: number): Decimal =>
    balanceLeft(
      contractSteps(paying(terms, samePaymentIn, payment), 'payment'),
      new Precise(terms.amount),
      growths,
      broughtInOf(terms),
    );
  const unpaid = left(0);
  const exact = unpaid.div(unpaid.minus(left(1)));
  const payment = roundedPayment(paymentRounding(terms, 'payment'), exact);
  if (payment <= 0 || !Number.isSafeInteger(payment)) {
    throw new TermsFault(key, 'The other stretches repay the loan; nothing is left for this payment.');
  }
  const value = exact
    .div(10 ** terms.digits)
    .toSignificantDigits(30)
    .toFixed();
  return {
    ...paying(terms, samePaymentIn, payment),
    solved: { unknown: 'payment', value, phases: samePaymentIn },
  };
}

function paying(terms: LoanTerms, phasesAt: readonly number[], payment: number): LoanTerms {
  const phases = terms.phases.map((phase, at) =>
    phase.type === 'level' && phasesAt.includes(at) ? { ...phase, payment } : phase,
  );
  return { ...terms, phases };
}

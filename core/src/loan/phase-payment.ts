import { roundedProduct } from '../money/rounded-product.ts';
import { formatAmount } from '../money/amount-text.ts';
import { levelPayment } from './level-payment.ts';
import { interestStep } from './loan-interest.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';
import type { PeriodGrowths } from './period-growths.ts';
import { TermsFault } from '../terms-fault.ts';

/**
 * The payment of a phase that begins with a balance, in minor units; zero for interest-only, whose payments
 * follow the interest. Throws {@link TermsFault} for a payment that does not cover the first interest.
 *
 * @param first index of the phase's first payment
 * @param at place of the phase among the phases, for naming it in a fault
 */
export function phasePayment(
  terms: LoanTerms,
  phase: Phase,
  at: number,
  balance: number,
  first: number,
  growths: PeriodGrowths,
): number {
  if (phase.type === 'interest-only') return 0;
  if (phase.payment === undefined && phase.type === 'level') {
    const each = { count: phase.amortizeOver, at: (period: number) => growths.at(first + period).exact };
    const unit = terms.rounding.payment === 'unit' ? 10 ** terms.digits : 1;
    return levelPayment(balance, each, unit, terms.rounding.payment === 'cent-up');
  }
  const payment = phase.payment as number;
  const growth = growths.at(first).toSteps;
  const interest = roundedProduct(balance, growth, terms.rounding.ties) * interestStep(terms);
  const never = phase.count === undefined && payment <= interest;
  if (payment < interest || never) {
    const least = formatAmount(interest + (phase.count === undefined ? 1 : 0), terms.digits);
    throw new TermsFault(
      `payments.phases.${at}.payment`,
      `A payment of ${formatAmount(payment, terms.digits)} does not cover the first interest of ` +
        `${formatAmount(interest, terms.digits)} and would never repay the loan; the least that would is ${least}.`,
    );
  }
  return payment;
}

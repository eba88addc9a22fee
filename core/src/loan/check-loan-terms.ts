import { formatDay } from '../calendar/calendar-day.ts';
import { mostPayments, type LoanTerms } from './loan-terms.ts';
import { TermsFault } from '../terms-fault.ts';

/**
 * Refuses terms that no schedule can be made of. Throws {@link TermsFault} naming the key at fault; what
 * only shows while computing (a payment that never repays) is refused there.
 */
export function checkLoanTerms(terms: LoanTerms): void {
  if (terms.amount <= 0) throw new TermsFault('amount', 'The amount must be more than zero.');
  if (terms.first <= terms.start) {
    throw new TermsFault(
      'payments.first',
      `The first payment falls due on ${formatDay(terms.first)}, which is not after the start, ${formatDay(terms.start)}.`,
    );
  }
  if (terms.phases.length === 0) {
    throw new TermsFault('payments.phases', 'A loan needs at least one phase of payments.');
  }
  let payments = 0;
  terms.phases.forEach((phase, at) => {
    const key = `payments.phases.${at}`;
    payments += phase.count ?? 0;
    if (phase.type === 'fixed' && phase.count === undefined && at < terms.phases.length - 1) {
      throw new TermsFault(
        `${key}.count`,
        'Fixed payments until the loan is cleared must come last; give a count.',
      );
    }
    if (phase.type === 'level' && phase.amortizeOver < phase.count) {
      throw new TermsFault(
        `${key}.amortizeOver`,
        `Spread over ${phase.amortizeOver} payments, the loan is cleared before its ${phase.count} payments are made; give ${phase.count} or more.`,
      );
    }
    if (phase.type === 'level' && phase.amortizeOver > mostPayments) {
      throw new TermsFault(`${key}.amortizeOver`, `At most ${mostPayments} payments can be spread over.`);
    }
    if (payments > mostPayments) {
      throw new TermsFault(
        `${key}.count`,
        `A loan may have at most ${mostPayments} payments; these are ${payments}.`,
      );
    }
  });
}

import { formatDay } from '../../calendar/calendar-day.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { eventDay } from './loan-events.ts';
import { mostPayments, phaseCount, type LoanTerms, type Phase } from './loan-terms.ts';

/**
 * Refuses terms that no schedule can be made of. Throws {@link TermsFault} naming the key at fault; what
 * only shows while computing (a payment that never repays, a draw above a limit) is refused there.
 */
export function checkLoanTerms(terms: LoanTerms): void {
  if (terms.amount <= 0 && !terms.creditLine)
    throw new TermsFault('amount', 'The amount must be more than zero.');
  if (terms.creditLine && terms.issueCosts?.method === 'effective') {
    throw new TermsFault(
      'issueCosts.method',
      'Costs of a credit line are amortized in equal parts over its term: what is drawn, and so a rate, is not known. ' +
        'Give straight-line, or leave it out.',
    );
  }
  const { issueCosts, takenOn } = terms;
  if (
    issueCosts &&
    !terms.creditLine &&
    issueCosts.amount >= terms.amount + (takenOn?.accruedInterest ?? 0)
  ) {
    throw new TermsFault('issueCosts.amount', 'The issue costs leave nothing of the loan; check the amount.');
  }
  checkFirst(terms);
  if (terms.phases.length === 0) {
    throw new TermsFault('payments.phases', 'A loan needs at least one phase of payments.');
  }
  let payments = 0;
  terms.phases.forEach((phase, at) => {
    payments += phaseCount(phase) ?? 0;
    checkPhase(terms, phase, at, payments);
  });
  checkEvents(terms);
}

function checkFirst({ first, start, due, last }: LoanTerms): void {
  if (due === 'start' && first !== start) {
    throw new TermsFault(
      'payments.first',
      `Payments due at the start of their period begin on the start, ${formatDay(start)}; found ${formatDay(first)}.`,
    );
  }
  if (due === 'end' && first <= start) {
    throw new TermsFault(
      'payments.first',
      `The first payment falls due on ${formatDay(first)}, which is not after the start, ${formatDay(start)}; ` +
        'give a later day, or have payments fall due in advance, at the start of each period.',
    );
  }
  if (last !== undefined && last <= first) {
    throw new TermsFault('payments.last', `The last payment must fall after the first, ${formatDay(first)}.`);
  }
}

function checkPhase(terms: LoanTerms, phase: Phase, at: number, payments: number): void {
  const key = `payments.phases.${at}`;
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
  if (phase.type === 'level' && phase.balloon !== undefined && phase.amortizeOver !== phase.count) {
    throw new TermsFault(
      `${key}.balloon`,
      'What remains follows from the payments that it is spread over; give those or the balloon, not both.',
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
  if (phase.type !== 'custom') return;
  if (phase.payments.length === 0) throw new TermsFault(`${key}.payments`, 'List at least one payment.');
  let before = terms.start - (terms.due === 'start' ? 1 : 0);
  phase.payments.forEach(({ on }, listed) => {
    if (on <= before) {
      throw new TermsFault(
        `${key}.payments.${listed}.on`,
        listed === 0
          ? `The first listed payment, ${formatDay(on)}, is not after the start, ${formatDay(terms.start)}.`
          : `Listed payments follow one another; ${formatDay(on)} is not after ${formatDay(before)}.`,
      );
    }
    before = on;
  });
}

function checkEvents({ events, start, creditLine }: LoanTerms): void {
  const settledAt = events.findIndex((event) => event.type === 'settled');
  const settled = settledAt < 0 ? undefined : events[settledAt];
  events.forEach((event, at) => {
    const day = eventDay(event);
    if (day < start) {
      const key = event.type === 'extra-each-payment' ? 'from' : 'on';
      throw new TermsFault(`events.${at}.${key}`, `This is before the loan starts, ${formatDay(start)}.`);
    }
    if (event.type === 'settled' && at !== settledAt) {
      throw new TermsFault(`events.${at}.on`, 'A loan is settled once; remove one of the two.');
    }
    if (settled && settled.type === 'settled' && day > settled.on) {
      throw new TermsFault(
        `events.${at}.on`,
        `This is after the loan is settled, ${formatDay(settled.on)}; remove it or move the settlement.`,
      );
    }
    if (event.type === 'renewal' && event.amortizeOver < event.count) {
      throw new TermsFault(
        `events.${at}.amortizeOver`,
        `Spread over ${event.amortizeOver} payments, the loan is cleared before its ${event.count} payments are made; give ${event.count} or more.`,
      );
    }
    if (event.type === 'renewal' && creditLine) {
      throw new TermsFault(`events.${at}`, 'A credit line is not renewed by an event; enter a new one.');
    }
  });
}

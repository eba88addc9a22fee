import { frequencyInWords } from '../../words/frequency.ts';
import { statedAmount, type Fact } from '../../words/fact.ts';
import { riseWords } from '../../words/rise-words.ts';
import { showDay } from '../../words/show.ts';
import type { LoanDocument, PhaseDocument } from './loan-document.ts';
import { costFacts, movingFacts, rateFacts } from './rate-facts.ts';

/** The terms of a loan as a list for people. */
export function loanFacts(document: LoanDocument): Fact[] {
  const { currency, payments, purchase, takenOn } = document;
  return [
    ...(purchase
      ? [
          ['Price', `${statedAmount(purchase.price)} ${currency}`] as const,
          ['Down payment', `${statedAmount(purchase.downPayment)} ${currency}`] as const,
        ]
      : [[takenOn ? 'Balance taken on' : 'Amount', `${statedAmount(document.amount)} ${currency}`] as const]),
    ...(takenOn ? [['Accrued by then', statedAmount(takenOn.accruedInterest)] as const] : []),
    ['Start', showDay(document.start)],
    ...rateFacts(document),
    ['Paid', `${frequencyInWords(payments.every)}, first on ${showDay(payments.first)}`],
    ...(payments.last ? [['Last payment', showDay(payments.last)] as const] : []),
    ...(payments.due === 'start' ? [['Payments', 'in advance'] as const] : []),
    ...(payments.monthEnd ? [['Month ends', 'kept'] as const] : []),
    ...movingFacts(payments.businessDays),
    ...payments.phases.map((phase, at) => [`Stretch ${at + 1}`, phaseText(phase)] as const),
    ...(payments.atEnd === 'leave' ? [['Left at the end', 'for renewal'] as const] : []),
    ...costFacts(document),
  ];
}

/** A stretch of payments in words. */
export function phaseText(phase: PhaseDocument): string {
  switch (phase.type) {
    case 'interest-only':
      return `interest only, ${phase.count} payments`;
    case 'no-payment': {
      const then = phase.then === 'pay' ? 'then paid' : 'then added';
      const interest = phase.interest === 'kept-apart' ? `kept apart, ${then}` : 'added to the balance';
      return `nothing paid for ${phase.count} periods, interest ${interest}`;
    }
    case 'custom':
      return `${phase.payments.length} listed payments`;
    case 'equal-principal': {
      const each = phase.principal === undefined ? '' : ` of ${statedAmount(phase.principal)}`;
      return `equal principal${each}, ${phase.count} payments`;
    }
    case 'fixed': {
      const count = phase.count === undefined ? 'until cleared' : `${phase.count} payments`;
      return `${statedAmount(phase.payment)} each${riseWords(phase.rises)}, ${count}`;
    }
    case 'level': {
      const amount =
        phase.payment === undefined || phase.payment === '?' ? '' : ` of ${statedAmount(phase.payment)}`;
      const count = phase.count === '?' ? 'until cleared' : `${phase.count} payments`;
      const over = phase.amortizeOver === undefined || phase.amortizeOver === phase.count;
      const balloon =
        phase.balloon === undefined ? '' : `, leaving a balloon of ${statedAmount(phase.balloon)}`;
      return `level${amount}, ${count}${over ? balloon : `, spread over ${phase.amortizeOver}; a balance remains`}`;
    }
  }
}

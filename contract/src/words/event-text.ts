import { frequencyInWords } from './frequency.ts';
import type { CreditLineEventDocument, LoanEventDocument } from '../kinds/loan/loan-events-document.ts';
import { riseWords } from './rise-words.ts';
import { showDay, showDecimal, showRate } from './show.ts';

/** An event in words. */
export function eventText(event: LoanEventDocument | CreditLineEventDocument): string {
  switch (event.type) {
    case 'paid':
      return `${showDecimal(event.amount)} paid for the payment due ${showDay(event.due)}`;
    case 'extra-principal': {
      const from = event.from === undefined ? '' : ` from ${showDay(event.from)}`;
      const to = event.to === undefined ? '' : ` to ${showDay(event.to)}`;
      const then = event.then === 're-level' ? '; the payment is levelled anew' : '';
      return `extra principal of ${showDecimal(event.amount)}${from}${to}${riseWords(event.rises)}${then}`;
    }
    case 'repayment':
      return `${showDecimal(event.amount)} repaid`;
    case 'draw':
      return `${showDecimal(event.amount)} drawn${event.then === 're-level' ? '; the payment is levelled anew' : ''}`;
    case 'payment-change':
      return `the payment becomes ${showDecimal(event.payment)}${riseWords(event.rises)}`;
    case 'fee':
      return `fee of ${showDecimal(event.amount)}, ${event.treatment === 'defer' ? 'deferred' : 'an expense'}`;
    case 'presentation': {
      const to = event.to === undefined ? '' : ` to ${showDay(event.to)}`;
      return `all of it presented as ${event.as}${to}: ${event.reason}`;
    }
    case 'interest-added':
      return 'interest added to the balance';
    case 'settled':
      return event.amount === undefined ? 'settled' : `settled for ${showDecimal(event.amount)}`;
    case 'overpayment-returned':
      return `${showDecimal(event.amount)} of what was overpaid came back`;
    case 'renewal': {
      const every = event.every ? `, ${frequencyInWords(event.every)}` : '';
      return `renewed at ${showRate(event.annual)} for ${event.count} payments${every}`;
    }
  }
}

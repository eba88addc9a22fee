import { formatDay } from '../calendar/calendar-day.ts';
import { formatAmount } from '../money/amount-text.ts';
import { TermsFault } from '../terms-fault.ts';
import type { BetweenEvent } from './between-events.ts';
import { least, noAmounts, type LoanLedger } from './loan-ledger.ts';
import { minorUnits, type LoanTerms } from './loan-terms.ts';
import type { ExactRow } from './row-writer.ts';
import type { PaymentAgreement } from './payment-agreement.ts';

/** Writes the rows of what happens between due dates, and after the last of them. */
export class BetweenRows {
  constructor(
    private readonly terms: LoanTerms,
    private readonly ledger: LoanLedger,
    private readonly agreement: PaymentAgreement,
  ) {}

  /** Something between due dates: interest owed first where it is a payment, then principal. */
  between(event: BetweenEvent): void {
    const opening = this.ledger.balance;
    const { on, due, kind } = event;
    const row = { n: 0, date: on, due, chargedTo: this.ledger.meter.chargedTo, opening, ...noAmounts };
    if (event.reLevel) this.agreement.levelNext();
    switch (kind) {
      case 'draw': {
        if (this.ledger.cleared) throw drawnTooLate(event);
        const added = this.ledger.inGrains(event.amount);
        this.refuseAboveLimit(event);
        this.ledger.balance += added;
        this.ledger.write('draw', { ...row, added });
        return;
      }
      case 'interest-added': {
        const { amount, fee } = this.ledger.meter.chargeTo(on, this.ledger.balance);
        const interest = amount + this.ledger.broughtIn;
        this.ledger.broughtIn = 0n;
        const added = interest + this.ledger.unpaid;
        this.ledger.unpaid = 0n;
        this.ledger.balance += added;
        this.ledger.write('interest-added', { ...row, chargedTo: on, interest, added, fee });
        this.ledger.meter.charged(on, this.ledger.balance);
        return;
      }
      case 'settlement': {
        const { amount, fee } = this.ledger.meter.chargeTo(on, this.ledger.balance);
        const interest = amount + this.ledger.broughtIn;
        const owed = this.ledger.balance + this.ledger.apart - this.ledger.broughtIn + interest;
        this.ledger.broughtIn = this.ledger.unpaid = this.ledger.kept = this.ledger.behind = 0n;
        this.ledger.balance = 0n;
        this.ledger.write('settlement', {
          ...row,
          chargedTo: on,
          payment: owed,
          interest,
          principal: opening,
          fee,
        });
        this.ledger.meter.charged(on, this.ledger.balance);
        this.ledger.settle(on, owed);
        return;
      }
      default:
        this.repay(event, row);
    }
  }

  /** Extra principal, or a late payment, between due dates. */
  private repay(event: BetweenEvent, row: ExactRow): void {
    const late = event.kind === 'late-payment';
    const owed = this.ledger.balance + (late ? this.ledger.unpaid : 0n);
    const available = this.ledger.cut(
      event.on,
      late ? 'payment-cut' : 'extra-cut',
      this.ledger.inGrains(event.amount),
      owed,
    );
    if (available === 0n) return;
    const interestPaid = late ? least(available, this.ledger.unpaid) : 0n;
    const principal = late ? least(available - interestPaid, this.ledger.behind) : 0n;
    const extra = available - interestPaid - principal;
    this.ledger.balance -= principal + extra;
    this.ledger.unpaid -= interestPaid;
    this.ledger.behind = least(this.ledger.balance, this.ledger.behind - principal);
    this.ledger.write(late ? 'late-payment' : 'extra', {
      ...row,
      payment: interestPaid + principal,
      principal,
      extra,
    });
  }

  /** What comes in after the last due date: charged interest to its own day, so that none is lost. */
  overdue({ on, due, amount }: BetweenEvent): void {
    const interest = this.ledger.meter.chargeTo(on, this.ledger.balance).amount + this.ledger.broughtIn;
    this.ledger.broughtIn = 0n;
    const interestOwed = this.ledger.unpaid + this.ledger.kept + interest;
    const payment = this.ledger.cut(
      on,
      'payment-cut',
      this.ledger.inGrains(amount),
      this.ledger.balance + interestOwed,
    );
    const interestPaid = least(payment, interestOwed);
    const principal = payment - interestPaid;
    const opening = this.ledger.balance;
    this.ledger.balance -= principal;
    this.ledger.unpaid = interestOwed - interestPaid;
    this.ledger.kept = 0n;
    const row = { ...noAmounts, n: 0, date: on, due, chargedTo: on, opening, payment, interest, principal };
    this.ledger.write('overdue-payment', row);
    this.ledger.meter.charged(on, this.ledger.balance);
  }

  private refuseAboveLimit(event: BetweenEvent): void {
    const limit = this.terms.creditLine?.limit;
    if (limit === undefined) return;
    const balance = minorUnits(this.terms, this.ledger.balance);
    if (balance + event.amount <= limit) return;
    const money = (minor: number): string => formatAmount(minor, this.terms.digits);
    throw new TermsFault(
      `events.${event.at}.amount`,
      `Drawing ${money(event.amount)} on ${formatDay(event.on)} takes the balance to ` +
        `${money(balance + event.amount)}, above the limit of ${money(limit)}; at most ${money(limit - balance)} can be drawn.`,
    );
  }
}

function drawnTooLate({ at, on }: BetweenEvent): TermsFault {
  return new TermsFault(
    `events.${at}.on`,
    `By ${formatDay(on)} the loan is repaid, so nothing can be drawn; lengthen its term, renew it, or remove the draw.`,
  );
}

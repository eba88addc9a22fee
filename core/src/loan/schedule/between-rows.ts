import { minorOf } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import { formatAmount } from '../../money/amount-text.ts';
import { atLeastZero, least } from '../../money/grains.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import type { BetweenEvent } from './between-events.ts';
import { noAmounts, type LoanLedger } from './loan-ledger.ts';
import { type LoanTerms } from '../terms/loan-terms.ts';
import type { ExactRow } from './row-writer.ts';
import type { PaymentAgreement } from '../payment/payment-agreement.ts';

const nothingCharged = { interest: 0n, fee: 0n };

/** Writes the rows of what happens between due dates, and after the last of them. */
export class BetweenRows {
  constructor(
    private readonly terms: LoanTerms,
    private readonly ledger: LoanLedger,
    private readonly agreement: PaymentAgreement,
  ) {}

  /** Something between due dates: interest owed first where it is a payment, then principal. */
  write(event: BetweenEvent): void {
    const { ledger } = this;
    const opening = ledger.balance;
    const { on, due } = event;
    const row = { n: 0, date: on, due, chargedTo: ledger.meter.chargedTo, opening, ...noAmounts };
    if (event.reLevel) this.agreement.levelAfter(on);
    switch (event.kind) {
      case 'draw': {
        if (ledger.cleared) throw drawnTooLate(event);
        const added = ledger.inGrains(event.amount);
        this.refuseAboveLimit(event);
        ledger.balance += added;
        ledger.write('draw', { ...row, added });
        return;
      }
      case 'interest-added': {
        const { interest, fee } = ledger.chargeTo(on);
        const added = interest + ledger.unpaid;
        ledger.unpaid = 0n;
        ledger.balance += added;
        ledger.write('interest-added', { ...row, chargedTo: on, interest, added, fee });
        ledger.meter.charged(ledger.balance);
        return;
      }
      case 'settlement':
        this.settle(event, row);
        return;
      case 'overpayment-returned':
        this.comeBack(event, row);
        return;
      case 'extra':
        this.repay(event, row);
        return;
      case 'late-payment':
        this.payLate(event, row);
        return;
      case 'early-payment':
        this.payEarly(event, row);
        return;
    }
  }

  private settle({ on }: BetweenEvent, row: ExactRow): void {
    const { ledger } = this;
    const { interest, fee } = ledger.chargeTo(on);
    const owed = ledger.balance + ledger.apart + interest + fee;
    ledger.unpaid = ledger.kept = ledger.behind = 0n;
    ledger.balance = 0n;
    ledger.write('settlement', {
      ...row,
      chargedTo: on,
      payment: owed,
      interest,
      principal: row.opening,
      fee,
    });
    ledger.meter.charged(ledger.balance);
    ledger.settle(on, owed);
  }

  /** Extra principal between due dates. */
  private repay({ on, amount }: BetweenEvent, row: ExactRow): void {
    const { ledger } = this;
    const stated = ledger.inGrains(amount);
    const before = ledger.overpaid;
    const extra = ledger.takeExtra(on, stated, atLeastZero(stated - ledger.balance));
    if (extra === 0n && ledger.overpaid === before) return;
    ledger.balance -= extra;
    ledger.behind = least(ledger.balance, ledger.behind);
    ledger.write('extra', { ...row, extra });
  }

  /** A payment after its due date: what was billed by then, principal in arrears, then beyond. */
  private payLate(event: BetweenEvent, row: ExactRow): void {
    const { ledger } = this;
    const available = ledger.inGrains(event.amount);
    const paid = ledger.allocated(nothingCharged, ledger.behind, available);
    // What repays everything pays the interest to its own day as well.
    if (paid.over > 0n) {
      this.overdue(event);
      return;
    }
    const { principal, extra } = paid;
    const interestPaid = paid.billed + paid.kept;
    ledger.unpaid -= paid.billed;
    ledger.kept -= paid.kept;
    ledger.balance -= principal + extra;
    ledger.behind = least(ledger.balance, ledger.behind - principal);
    ledger.write('late-payment', { ...row, payment: interestPaid + principal, principal, extra });
  }

  /** Part of a payment before its row: interest to its own day, then principal of that payment, then beyond. */
  private payEarly({ on, due, amount }: BetweenEvent, row: ExactRow): void {
    const { ledger } = this;
    const chargedTo = ledger.chargeDay(on);
    const { interest, fee } = ledger.chargeTo(chargedTo);
    const available = ledger.inGrains(amount);
    const scheduled = this.scheduledPrincipal(due, interest);
    const paid = ledger.allocated({ interest, fee }, ledger.behind + scheduled, available);
    ledger.overpay(on, available, paid.over);
    const { principal, extra } = paid;
    // What makes up for earlier dues is no part of this one; interest charged now is, paid or not.
    const madeUp = least(ledger.behind, principal);
    ledger.payAhead(due, interest + fee + paid.kept, principal - madeUp + extra);
    ledger.unpaid += interest + fee - paid.billed;
    ledger.kept -= paid.kept;
    ledger.balance -= principal + extra;
    ledger.behind = least(ledger.balance, ledger.behind - madeUp);
    const payment = paid.billed + paid.kept + principal;
    ledger.write('early-payment', { ...row, chargedTo, payment, interest, principal, extra, fee });
    ledger.meter.charged(ledger.balance);
  }

  /** Principal that the payment in force asks for, less what was paid for it ahead. */
  private scheduledPrincipal(due: number, interest: bigint): bigint {
    const { kind, amount } = this.agreement.now;
    const ahead = this.ledger.ahead(due);
    if (kind === 'principal') return atLeastZero(amount - ahead.principal);
    if (kind === 'interest' || kind === 'none' || kind === 'listed') return 0n;
    return atLeastZero(amount - ahead.interest - ahead.principal - interest);
  }

  /** What comes in after the last due date, or repays everything: charged interest to its own day, so that none is lost. */
  overdue({ kind, on, due, amount }: BetweenEvent): void {
    const { ledger } = this;
    const { interest, fee } = ledger.chargeTo(on);
    // What was kept apart has fallen due with the term.
    ledger.unpaid += ledger.kept;
    ledger.kept = 0n;
    const available = ledger.inGrains(amount);
    const paid = ledger.allocated({ interest, fee }, ledger.balance, available);
    if (kind === 'extra') ledger.takeExtra(on, available, paid.over);
    else ledger.overpay(on, available, paid.over);
    const payment = available - paid.over;
    const opening = ledger.balance;
    const { principal } = paid;
    ledger.balance -= principal;
    ledger.behind = least(ledger.balance, atLeastZero(ledger.behind - principal));
    ledger.unpaid += interest + fee - paid.billed;
    const row = { ...noAmounts, n: 0, date: on, due, chargedTo: on, opening };
    ledger.write('overdue-payment', { ...row, payment, interest, principal, fee });
    ledger.meter.charged(ledger.balance);
  }

  private comeBack({ at, on, amount }: BetweenEvent, row: ExactRow): void {
    const { ledger } = this;
    const back = ledger.inGrains(amount);
    if (back > ledger.overpaid) {
      const most = formatAmount(minorOf(this.terms, ledger.overpaid), this.terms.digits);
      throw new TermsFault(
        `events.${at}.amount`,
        `On ${formatDay(on)} ${most} is overpaid, so no more can come back; correct the amount or the day.`,
      );
    }
    ledger.overpaid -= back;
    ledger.write('overpayment-returned', row);
  }

  private refuseAboveLimit(event: BetweenEvent): void {
    const limit = this.terms.creditLine?.limit;
    if (limit === undefined) return;
    const balance = minorOf(this.terms, this.ledger.balance);
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

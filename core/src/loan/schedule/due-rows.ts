import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { atLeastZero, least } from '../../money/grains.ts';
import { allocate } from '../payment/allocate.ts';
import { risen, wholeYears } from '../payment/rise.ts';
import { askedPayment } from '../payment/asked-payment.ts';
import { mostRoundingLeaves } from '../payment/rounding-left.ts';
import type { BetweenEvent, EventQueue } from './between-events.ts';
import type { BetweenRows } from './between-rows.ts';
import { eventsOf, type ExtraEachPayment } from '../terms/loan-events.ts';
import type { LoanLedger } from './loan-ledger.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { PaymentAgreement } from '../payment/payment-agreement.ts';
import type { Receipt } from '../payment/receipts.ts';
import type { Stretch } from '../terms/stretch.ts';

/** A balance below this part of a minor unit is what division left over. */
const dustParts = 10n ** 18n;

/** A payment that falls due, and the day it is made. */
export interface DuePayment {
  readonly stretch: Stretch;
  /** Place in the stretch. */
  readonly at: number;
  readonly due: CalendarDay;
  /** The day of its row: the due date, or the day it was paid before. */
  readonly date: CalendarDay;
  /** The day that interest is charged to. */
  readonly chargedTo: CalendarDay;
  /** The day that its period ends. */
  readonly interestDay: CalendarDay;
  readonly receipt: Receipt | undefined;
  /** Whether no stretch follows. */
  readonly last: boolean;
}

/** Writes the rows of payments that fall due: what is charged, asked for, paid, and what is left. */
export class DueRows {
  private readonly eachPayment: readonly ExtraEachPayment[];

  constructor(
    private readonly terms: LoanTerms,
    private readonly ledger: LoanLedger,
    private readonly agreement: PaymentAgreement,
    private readonly events: EventQueue,
    private readonly between: BetweenRows,
  ) {
    this.eachPayment = eventsOf(terms.events, 'extra-each-payment');
  }

  /** Whether any payment takes regular extra principal with it. */
  get takesExtra(): boolean {
    return this.eachPayment.length > 0;
  }

  /** One payment by the general rules. */
  write(payment: DuePayment): void {
    const { terms, ledger } = this;
    const { stretch, at, due, date, receipt } = payment;
    if (this.madeAhead(payment)) {
      ledger.number += 1;
      return;
    }
    // A payment recorded for the day comes first; what is then owed is settled by itself.
    const settling = this.events.settlesLast(date) && !receipt;
    if (settling) this.writeBeforeSettlement();
    const chargedTo = this.paysWholeBill(payment) ? payment.interestDay : payment.chargedTo;
    const { interest, fee } = ledger.chargeTo(chargedTo, stretch, at);
    const setting = this.agreement.now;
    const asked = askedPayment({
      terms,
      stretch,
      at,
      setting,
      interest,
      fee,
      kept: ledger.kept,
      ahead: ledger.ahead(due),
      grains: ledger.grains,
    });
    const owed = ledger.balance + ledger.unpaid + ledger.kept + interest + fee;
    const clears = stretch.clears && at === stretch.count - 1;
    const all =
      settling ||
      clears ||
      asked.payment >= owed ||
      this.onlyRounded(payment, interest, owed - asked.payment);
    if (all && !settling && setting.kind === 'listed' && asked.payment !== owed) {
      ledger.notice(date, 'listed-payment-differs', asked.payment, owed);
    }
    const asks = all
      ? { interest: asked.interest + asked.joining + asked.kept, joining: 0n, kept: 0n }
      : { interest: asked.interest, joining: asked.joining, kept: asked.kept };
    const scheduled = all ? ledger.balance : atLeastZero(asked.payment - asked.interest - fee);
    // A bill of a credit line asks for what earlier ones left unpaid; a loan's payment stays what was agreed.
    const bill = asked.payment + (terms.creditLine ? ledger.unpaid : 0n);
    const agreed = all ? owed : bill;
    const recorded = receipt ? ledger.inGrains(receipt.amount) : undefined;
    const fromOverpaid = least(ledger.overpaid, atLeastZero(agreed - (recorded ?? 0n)));
    const available = recorded === undefined ? agreed : recorded + fromOverpaid;
    const paid = allocate(
      {
        billed: ledger.unpaid,
        interest: asks.interest,
        fee,
        joining: asks.joining,
        kept: asks.kept,
        balance: ledger.balance,
      },
      scheduled + ledger.behind,
      available,
    );
    ledger.overpaid -= fromOverpaid;
    ledger.overpay(date, available, paid.over);
    const added = asks.joining - paid.joining;
    const owing = ledger.balance + added;
    let { principal } = paid;
    let extra = paid.extra;
    // Regular extra principal comes with payments: where none is asked for, none is taken.
    if (recorded === undefined && !all && asked.payment > 0n) {
      extra += this.regularExtra(due, date, owing - principal - extra);
    }
    const onTheDay: BetweenEvent[] = [];
    for (let event = this.events.takeThrough(date); event; event = this.events.takeThrough(date)) {
      if (event.kind === 'extra') extra += this.extraOnTheDay(event, owing - principal - extra);
      else onTheDay.push(event);
    }
    // What dividing an unrounded payment could not write out is nothing owed.
    const left = owing - principal - extra;
    if (left > 0n && left * dustParts < ledger.grains) principal += left;
    const opening = ledger.balance;
    ledger.balance = owing - principal - extra;
    ledger.unpaid += asks.interest + fee - paid.billed;
    ledger.kept = asks.kept - paid.kept;
    ledger.behind = atLeastZero(least(ledger.balance, ledger.behind + scheduled - principal));
    ledger.number += 1;
    ledger.write('payment', {
      n: ledger.number,
      date,
      due,
      chargedTo,
      opening,
      payment: paid.billed + paid.joining + paid.kept + principal,
      interest,
      principal,
      extra,
      added,
      fee,
    });
    ledger.meter.charged(ledger.balance);
    if (settling) ledger.settle(date, owed);
    else for (const event of onTheDay) this.between.write(event);
  }

  /** What was drawn, added or repaid on the day of a settlement is not part of what it pays, but comes before it. */
  private writeBeforeSettlement(): void {
    for (;;) {
      const event = this.events.takeBeforeSettlement();
      if (!event) return;
      this.between.write(event);
    }
  }

  /**
   * Whether a credit line's bill is paid in full a few days before it is due, with nothing to happen before that: it is
   * charged to the end of its period, as it was billed.
   */
  private paysWholeBill({ receipt, chargedTo, interestDay }: DuePayment): boolean {
    const { terms, ledger, agreement } = this;
    if (!terms.creditLine || !receipt || chargedTo >= interestDay || agreement.now.kind !== 'interest')
      return false;
    if (this.events.nextOn <= interestDay) return false;
    const { amount, fee } = ledger.meter.chargeTo(interestDay, ledger.balance);
    return ledger.inGrains(receipt.amount) >= ledger.unpaid + ledger.broughtIn + amount + fee;
  }

  /** Whether the last payment of a loan that is repaid with it leaves no more than rounding: then it takes that too. */
  private onlyRounded({ stretch, at, last }: DuePayment, interest: bigint, left: bigint): boolean {
    const { terms, ledger, agreement } = this;
    if (!last || at !== stretch.count - 1 || ledger.balance === 0n) return false;
    const growth = Number(interest) / Number(ledger.balance);
    return left <= ledger.inGrains(mostRoundingLeaves(terms, stretch, agreement.now, growth));
  }

  /** Whether all that a due asks for was paid before the due before it: then interest runs on to the next. */
  private madeAhead({ stretch, at, due, receipt }: DuePayment): boolean {
    if (!receipt || receipt.early.length === 0 || receipt.amount > 0 || receipt.late.length > 0) return false;
    if (stretch.clears && at === stretch.count - 1) return false;
    const { kind, amount } = this.agreement.now;
    const one = kind === 'level' || kind === 'agreed' || kind === 'changed';
    const { interest, principal } = this.ledger.ahead(due);
    return one && interest + principal >= amount;
  }

  private regularExtra(due: CalendarDay, date: CalendarDay, most: bigint): bigint {
    let extra = 0n;
    for (const each of this.eachPayment) {
      if (due < each.from || due > each.to) continue;
      const amount = risen(each.amount, each.rises, wholeYears(each.from, due), this.terms.rounding.ties);
      extra += least(this.ledger.inGrains(amount), most - extra);
      if (each.then === 're-level') this.agreement.levelAfter(date);
    }
    return extra;
  }

  private extraOnTheDay(event: BetweenEvent, most: bigint): bigint {
    const stated = this.ledger.inGrains(event.amount);
    if (event.reLevel) this.agreement.levelAfter(event.on);
    return this.ledger.takeExtra(event.on, stated, atLeastZero(stated - most));
  }
}

import { grainsOf, minorOf } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { allocate, type Allocation } from '../payment/allocate.ts';
import { InterestMeter } from '../interest/interest-meter.ts';
import type { RowKind } from './loan-columns.ts';
import { eventsOf } from '../terms/loan-events.ts';
import type { InterestRules } from '../interest/loan-interest.ts';
import type { LoanNotice, Settlement } from './loan-schedule.ts';
import { type LoanTerms } from '../terms/loan-terms.ts';
import type { PaymentAgreement } from '../payment/payment-agreement.ts';
import type { PeriodGrowths } from '../interest/period-growths.ts';
import { RowWriter, type ExactRow } from './row-writer.ts';
import type { Stretch } from '../terms/stretch.ts';

/** The amounts of a row that moves none of them. */
export const noAmounts = { payment: 0n, interest: 0n, principal: 0n, extra: 0n, added: 0n, fee: 0n };

/** Interest and fee charged with a row, what was brought in included. Grains. */
export interface Charged {
  readonly interest: bigint;
  readonly fee: bigint;
}

/** What a due has had before its row. Grains. */
export interface PaidAhead {
  /** Interest and fee charged with its early parts, and what they paid of interest kept apart. */
  readonly interest: bigint;
  /** Principal of it that was paid; what made up for earlier dues is none. */
  readonly principal: bigint;
}

const nothingAhead: PaidAhead = { interest: 0n, principal: 0n };

/** What is owed as the loan goes on, and the rows that say how it came to be. Amounts in grains. */
export class LoanLedger {
  readonly writer: RowWriter;
  readonly meter: InterestMeter;
  readonly notices: LoanNotice[] = [];
  readonly grains: bigint;
  settlement: Settlement | undefined;
  balance: bigint;
  /** Interest and fees charged, due and not paid. */
  unpaid = 0n;
  /** Interest kept apart by agreement until the phase ends. */
  kept = 0n;
  /** Scheduled principal fallen due and not paid. */
  behind = 0n;
  /** Paid beyond all that was owed, until it comes back or settles a payment. */
  overpaid = 0n;
  /** Whether the last due date has gone by, when all of the balance has fallen due. */
  pastTerm = false;
  /** Interest that had accrued before a loan was taken on, due with the first payment. */
  broughtIn: bigint;
  /** The payment that comes next, and the day that its interest is charged to. */
  pending: { readonly due: CalendarDay; readonly interestDay: CalendarDay } | undefined;
  /** Payments so far. */
  number = 0;
  /** What was paid of a due before its row. */
  private readonly paidAhead = new Map<CalendarDay, PaidAhead>();
  private readonly terms: LoanTerms;

  constructor(
    rules: InterestRules,
    growths: PeriodGrowths,
    private readonly agreement: PaymentAgreement,
    capacity: number,
  ) {
    this.terms = rules.terms;
    this.grains = grainsOf(this.terms);
    this.writer = new RowWriter(this.terms, capacity);
    this.meter = new InterestMeter(rules, growths, this.writer.columns);
    this.balance = this.inGrains(this.terms.amount);
    this.broughtIn = this.inGrains(this.terms.takenOn?.accruedInterest ?? 0);
  }

  /** Nothing is owed, no interest still waits for its due date, and nothing more can be drawn. */
  get cleared(): boolean {
    if (this.settlement) return true;
    if (this.terms.creditLine) return false;
    return this.apart + this.balance === 0n && (this.meter.undisturbed || this.meter.idle);
  }

  /** What is owed besides the balance. */
  get apart(): bigint {
    return this.unpaid + this.kept + this.broughtIn;
  }

  /** What has been paid of a due before its row. */
  ahead(due: CalendarDay): PaidAhead {
    return this.paidAhead.get(due) ?? nothingAhead;
  }

  /** Notes what was paid of a due before its row. */
  payAhead(due: CalendarDay, interest: bigint, principal: bigint): void {
    const before = this.ahead(due);
    this.paidAhead.set(due, {
      interest: before.interest + interest,
      principal: before.principal + principal,
    });
  }

  inGrains(minor: number): bigint {
    return BigInt(minor) * this.grains;
  }

  /** The day that what is paid on a day before its due charges interest to: that of a payment that moved past it is fixed. */
  chargeDay(on: CalendarDay): CalendarDay {
    const { interestDay, due } = this.pending ?? { interestDay: on, due: on };
    return interestDay < on && on < due ? interestDay : on;
  }

  /** Charges interest and fee to a day, with what had accrued before the loan was taken on. */
  chargeTo(day: CalendarDay, stretch?: Stretch, at?: number): Charged {
    const { amount, fee } = this.meter.chargeTo(day, this.balance, stretch, at);
    const interest = amount + this.broughtIn;
    this.broughtIn = 0n;
    return { interest, fee };
  }

  /** Shares out what is paid between due dates: what has been billed, then principal in arrears, then beyond. */
  allocated(charged: Charged, askedPrincipal: bigint, available: bigint): Allocation {
    const { unpaid, kept, balance } = this;
    return allocate({ ...charged, billed: unpaid, joining: 0n, kept, balance }, askedPrincipal, available);
  }

  /** Notes that the loan was settled by the row just written. */
  settle(on: CalendarDay, owed: bigint): void {
    const agreed = eventsOf(this.terms.events, 'settled').find((event) => event.on === on)?.amount;
    const minor = minorOf(this.terms, owed);
    this.settlement = { on, row: this.writer.columns.length - 1, owed: minor, paid: agreed ?? minor };
  }

  /** Notes what of an amount could not be taken; gives what was. */
  private cut(on: CalendarDay, kind: LoanNotice['kind'], stated: bigint, over: bigint): bigint {
    if (over > 0n) this.notice(on, kind, stated, stated - over);
    return stated - over;
  }

  /**
   * Notes what of extra principal could not be taken; gives what was. Of a credit line it has been paid, and stands apart;
   * of a loan less is paid.
   */
  takeExtra(on: CalendarDay, stated: bigint, over: bigint): bigint {
    if (!this.terms.creditLine) return this.cut(on, 'extra-cut', stated, over);
    this.overpay(on, stated, over);
    return stated - over;
  }

  /** Sets apart what was paid beyond all that was owed. */
  overpay(on: CalendarDay, paid: bigint, over: bigint): void {
    if (over === 0n) return;
    this.overpaid += over;
    this.notice(on, 'overpaid', paid, paid - over);
  }

  notice(on: CalendarDay, kind: LoanNotice['kind'], stated: bigint, applied: bigint): void {
    this.notices.push({
      on,
      kind,
      stated: minorOf(this.terms, stated),
      applied: minorOf(this.terms, applied),
    });
  }

  /** Writes a row; what is owed after it stands in the ledger. */
  write(kind: RowKind, row: ExactRow): void {
    const after = {
      closing: this.balance,
      unpaid: this.unpaid + this.kept,
      deferred: this.kept,
      principalInArrears: this.pastTerm ? this.balance : this.behind,
      overpaid: this.overpaid,
    };
    this.writer.write(kind, row, after, Math.max(0, this.agreement.settings.length - 1));
  }
}

import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Frequency } from '../../calendar/frequency.ts';
import type { Ratio } from '../../money/ratio.ts';
import type { Rise } from '../payment/rise.ts';
import type { Classification } from '../../position/classification.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** What an extra payment or a draw does to what follows: the payment stays as it is, or is levelled anew. */
export type AfterExtra = 'shorten' | 're-level';

/** Principal paid beyond the schedule, on one day. */
export interface ExtraOnce {
  readonly type: 'extra-principal';
  readonly on: CalendarDay;
  readonly amount: MinorUnits;
  readonly then: AfterExtra;
}

/** The same with every payment from one day to another, both included. */
export interface ExtraEachPayment {
  readonly type: 'extra-each-payment';
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  readonly amount: MinorUnits;
  /** By how much it rises each year after `from`. */
  readonly rises?: Rise;
  readonly then: AfterExtra;
}

/** Another amount drawn, added to the balance at the end of its day. */
export interface Draw {
  readonly type: 'draw';
  readonly on: CalendarDay;
  readonly amount: MinorUnits;
  readonly then: 'keep' | 're-level';
}

/** A new payment, from the first due date on or after the day. */
export interface PaymentChange {
  readonly type: 'payment-change';
  readonly on: CalendarDay;
  readonly payment: MinorUnits;
  /** By how much it rises each year after the day, until another payment is agreed. */
  readonly rises?: Rise;
}

/** A fee paid to the lender: an expense of its day, or deferred and amortized over what remains of the loan. */
export interface Fee {
  readonly type: 'fee';
  readonly on: CalendarDay;
  readonly amount: MinorUnits;
  readonly treatment: 'expense' | 'defer';
}

/** What was in fact paid for the payment due on `due`: when and how much. Zero for a missed payment. */
export interface RecordedPayment {
  readonly type: 'paid';
  readonly due: CalendarDay;
  readonly on: CalendarDay;
  readonly amount: MinorUnits;
}

/** Interest accrued to the day, and what is in arrears, added to the balance. */
export interface InterestAdded {
  readonly type: 'interest-added';
  readonly on: CalendarDay;
}

/** Settled before its time: all that is owed on the day, for what is owed or for an agreed amount. */
export interface Settled {
  readonly type: 'settled';
  readonly on: CalendarDay;
  readonly amount?: MinorUnits;
}

/** What had been paid beyond all that was owed, and comes back. */
export interface OverpaymentReturned {
  readonly type: 'overpayment-returned';
  readonly on: CalendarDay;
  readonly amount: MinorUnits;
}

/** A new rate, term and spread for the balance that is left on a day. */
export interface Renewal {
  readonly type: 'renewal';
  readonly on: CalendarDay;
  /** Annual, as a fraction. */
  readonly annualRate: Ratio;
  readonly count: Count;
  readonly amortizeOver: Count;
  readonly every?: Frequency;
  readonly payment?: MinorUnits;
}

/** What happens to a loan besides its agreed payments. Amounts in minor units. */
export type LoanEvent =
  | ExtraOnce
  | ExtraEachPayment
  | Draw
  | PaymentChange
  | Fee
  | RecordedPayment
  | InterestAdded
  | Settled
  | OverpaymentReturned
  | Renewal
  | Classification;

/** Events of one type, in the order in which they were entered. */
export function eventsOf<Type extends LoanEvent['type']>(
  events: readonly LoanEvent[],
  type: Type,
): Extract<LoanEvent, { type: Type }>[] {
  return events.filter((event): event is Extract<LoanEvent, { type: Type }> => event.type === type);
}

/** The day an event takes effect first. */
export function eventDay(event: LoanEvent): CalendarDay {
  return event.type === 'extra-each-payment' ? event.from : event.on;
}

import { interestStep } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Multiplier } from '../../money/rounded-product.ts';
import { rateAt, type RateTimeline } from '../../rates/rate-timeline.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { EventQueue, type BetweenEvent } from './between-events.ts';
import { BetweenRows } from './between-rows.ts';
import { DueRows, type DuePayment } from './due-rows.ts';
import { LoanLedger } from './loan-ledger.ts';
import type { LoanSchedule } from './loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { PaymentAgreement, type NextPayment } from '../payment/payment-agreement.ts';
import { agreedChanges } from '../payment/agreed-changes.ts';
import { PeriodGrowths } from '../interest/period-growths.ts';
import { receiptsOf, type Receipts } from '../payment/receipts.ts';
import { fillRegularRows } from './regular-rows.ts';
import type { Stretch } from '../terms/stretch.ts';

const idleOnceRepaid: readonly BetweenEvent['kind'][] = ['extra', 'interest-added', 'settlement'];
const paidAfterTheTerm: readonly BetweenEvent['kind'][] = ['late-payment', 'early-payment', 'extra'];

/** The walk along the due dates: what comes next, and who writes it. Amounts in grains. */
export class LoanWalk {
  private readonly growths: PeriodGrowths;
  private readonly receipts: Receipts;
  private readonly events: EventQueue;
  private readonly agreement: PaymentAgreement;
  private readonly ledger: LoanLedger;
  private readonly between: BetweenRows;
  private readonly dueRows: DueRows;

  constructor(
    private readonly terms: LoanTerms,
    private readonly stretches: readonly Stretch[],
    private readonly rates: RateTimeline,
  ) {
    this.growths = new PeriodGrowths(terms, rates);
    this.receipts = receiptsOf(terms.events, stretches);
    this.events = new EventQueue(terms.events, this.receipts, agreedChanges(terms, stretches));
    this.agreement = new PaymentAgreement(terms, rates, this.growths, this.events, () => this.ledger.meter);
    const payments = stretches.reduce((sum, { count, openEnded }) => sum + (openEnded ? 64 : count), 0);
    const rules = { terms, stretches, rates };
    this.ledger = new LoanLedger(rules, this.growths, this.agreement, payments + this.events.count + 1);
    this.between = new BetweenRows(terms, this.ledger, this.agreement);
    this.dueRows = new DueRows(terms, this.ledger, this.agreement, this.events, this.between);
  }

  run(): LoanSchedule {
    this.stretches.forEach((stretch, at) => this.walkStretch(stretch, at));
    this.afterTheTerm();
    const { terms, stretches, rates } = this;
    const { notices, settlement } = this.ledger;
    const { columns } = this.ledger.writer;
    // Written out: spreading the columns costs more than filling them.
    return {
      kind: terms.kind,
      terms,
      stretches,
      rates,
      settings: this.agreement.settings,
      notices,
      receipts: this.receipts,
      settlement,
      length: columns.length,
      n: columns.n,
      date: columns.date,
      due: columns.due,
      chargedTo: columns.chargedTo,
      opening: columns.opening,
      payment: columns.payment,
      interest: columns.interest,
      principal: columns.principal,
      extra: columns.extra,
      added: columns.added,
      closing: columns.closing,
      unpaid: columns.unpaid,
      deferred: columns.deferred,
      principalInArrears: columns.principalInArrears,
      overpaid: columns.overpaid,
      fee: columns.fee,
      rowKind: columns.rowKind,
      setting: columns.setting,
      exact: columns.exact,
    };
  }

  private walkStretch(stretch: Stretch, stretchAt: number): void {
    if (this.ledger.cleared) return;
    if (stretchAt > 0) this.arriveAt(stretch, stretchAt);
    if (this.ledger.cleared) return;
    const next = (at: number): NextPayment => ({
      stretch,
      stretchAt,
      at,
      balance: this.ledger.balance,
      broughtIn: this.ledger.broughtIn,
    });
    this.agreement.begin(next(0));
    let at = 0;
    while (at < stretch.count && !this.ledger.cleared) {
      at += this.regularStretch(stretch, at);
      if (at >= stretch.count) break;
      this.row(next, at);
      at += 1;
    }
    if (stretch.openEnded && !this.ledger.cleared) {
      throw new TermsFault(
        `payments.phases.${stretch.phaseAt}.payment`,
        `At this payment the loan is not cleared within ${stretch.count} payments; raise the payment.`,
      );
    }
  }

  /** What happens before a stretch begins: after a payment made early, or until a renewal. */
  private arriveAt({ opens, renewal }: Stretch, stretchAt: number): void {
    const before = this.stretches[stretchAt - 1] as Stretch;
    if (renewal && !before.cutShort) {
      this.overdueThrough(renewal.on);
    } else {
      const next = (): NextPayment => ({
        stretch: before,
        stretchAt: stretchAt - 1,
        at: before.count,
        balance: this.ledger.balance,
        broughtIn: this.ledger.broughtIn,
      });
      this.follow(next, opens + 1, opens + 1, opens);
    }
    if (!renewal || this.ledger.cleared) return;
    // A renewal ends what was agreed about interest kept apart: it is owed from then on; the balance falls due anew.
    this.ledger.unpaid += this.ledger.kept;
    this.ledger.kept = this.ledger.behind = 0n;
    this.ledger.pastTerm = false;
  }

  /** As many plain rows at once as come before the next event or change of rate; how many they were. */
  private regularStretch(stretch: Stretch, from: number): number {
    const { terms } = this;
    const { meter } = this.ledger;
    const { columns } = this.ledger.writer;
    const setting = this.agreement.now;
    const plain = this.ledger.grains === 1n && !this.dueRows.takesExtra && !terms.creditLine;
    if (!plain || this.ledger.apart + this.ledger.behind !== 0n || !meter.undisturbed) return 0;
    if (stretch.interestDays !== stretch.dues || !meter.beginsAt(stretch, from)) return 0;
    if (setting.kind === 'none' || setting.kind === 'listed' || !this.agreement.stands(meter.chargedTo))
      return 0;
    const rate = rateAt(this.rates, meter.chargedTo);
    const eventDay = this.events.nextDay(meter.chargedTo);
    const rateDay = this.rates[rate + 1]?.from ?? Number.MAX_SAFE_INTEGER;
    // The last payment of all absorbs what rounding left.
    const absorbs = stretch.clears || stretch === this.stretches.at(-1);
    let end = absorbs ? stretch.count - 1 : stretch.count;
    if (stretch.openEnded) end = Math.min(end, from + 128);
    if (end > from && (stretch.dues[end - 1] as number) >= Math.min(eventDay, rateDay + 1)) {
      end = from;
      while ((stretch.dues[end] as number) < eventDay && (stretch.dues[end] as number) <= rateDay) end += 1;
    }
    if (end <= from) return 0;
    const written = fillRegularRows(
      columns,
      {
        dues: stretch.dues,
        from,
        end,
        number: this.ledger.number + 1,
        kind: setting.kind === 'interest' || setting.kind === 'principal' ? setting.kind : 'payment',
        amount: Number(setting.amount),
        growthOf: (at): Multiplier => this.growths.at(stretch, at, rate).toSteps,
        step: interestStep(terms),
        ties: terms.rounding.ties,
        setting: this.agreement.settings.length - 1,
      },
      Number(this.ledger.balance),
    );
    if (written > 0) {
      this.ledger.number += written;
      this.ledger.balance = BigInt(columns.closing[columns.length - 1] as number);
      meter.charged(this.ledger.balance);
    }
    return written;
  }

  /** One payment by the general rules, and what happens before it. */
  private row(next: (at: number) => NextPayment, at: number): void {
    const { stretch } = next(at);
    const due = stretch.dues[at] as number;
    const receipt = this.events.receipt(due);
    const date = receipt?.date ?? due;
    const last = stretch === this.stretches.at(-1);
    const interestDay = stretch.interestDays[at] as number;
    const chargedTo = date < due ? Math.min(date, interestDay) : interestDay;
    this.ledger.pending = { due, interestDay };
    this.follow(() => next(at), date, chargedTo, date);
    if (this.ledger.cleared) return;
    const payment: DuePayment = { stretch, at, due, date, chargedTo, interestDay, receipt, last };
    this.dueRows.write(payment);
    this.ledger.pending = undefined;
  }

  /**
   * Follows what happens before a payment, in the order of days: events, changes of the rate, changes of the payment.
   *
   * @param next the payment that comes next, as it then stands
   * @param before the day that events come before
   * @param ratesBefore the day that changes of the rate come before: they are in force from their day on
   * @param changesThrough the day through which changes of the payment apply
   */
  private follow(
    next: () => NextPayment,
    before: CalendarDay,
    ratesBefore: CalendarDay,
    changesThrough: CalendarDay,
  ): void {
    const { agreement, events } = this;
    const within = (day: CalendarDay, limit: boolean): CalendarDay => (limit ? day : Infinity);
    for (;;) {
      const event = events.peekBefore(before);
      const rateOn = within(agreement.nextRateOn, agreement.nextRateOn < ratesBefore);
      const changeOn = within(events.nextChangeOn, events.nextChangeOn <= changesThrough);
      const day = Math.min(event?.on ?? Infinity, rateOn, changeOn);
      if (day === Infinity) break;
      agreement.settle(next(), day);
      if (event && event.on === day) {
        events.take();
        this.between.write(event);
        if (this.ledger.settlement) return;
      } else if (rateOn === day) agreement.passRate();
      else agreement.change(next(), day);
    }
    agreement.settle(next(), before);
  }

  /** What comes in after the last due date is charged interest to its own day, so that none is lost. */
  private overdueThrough(day: CalendarDay): void {
    this.ledger.pastTerm = true;
    for (let event = this.events.takeThrough(day); event; event = this.events.takeThrough(day)) {
      const nothingOwed = this.ledger.balance + this.ledger.apart === 0n;
      const overpays = event.kind === 'extra' && this.terms.creditLine !== undefined;
      if (nothingOwed && idleOnceRepaid.includes(event.kind) && !overpays) {
        this.ledger.notice(event.on, 'event-without-effect', this.ledger.inGrains(event.amount), 0n);
      } else if (paidAfterTheTerm.includes(event.kind)) {
        this.between.overdue(event);
      } else {
        this.between.write(event);
      }
    }
  }

  private afterTheTerm(): void {
    this.paidForNothing();
    this.overdueThrough(Number.MAX_SAFE_INTEGER);
    this.noticeWhatIsLeft();
  }

  private noticeWhatIsLeft(): void {
    const { balance, apart, settlement } = this.ledger;
    const leaves = this.terms.atEnd === 'leave';
    const left = leaves ? balance : balance + apart;
    if (left === 0n || settlement || (leaves && this.terms.creditLine)) return;
    const { columns } = this.ledger.writer;
    const on = columns.date[columns.length - 1] ?? this.terms.start;
    this.ledger.notice(on, leaves ? 'left-at-end' : 'overdue-at-end', left, 0n);
  }

  /** What was paid for dues that the loan was cleared before comes in on its own day. */
  private paidForNothing(): void {
    const { due, n, length } = this.ledger.writer.columns;
    let last = length - 1;
    while (last >= 0 && n[last] === 0) last -= 1;
    const reached = last < 0 ? -Infinity : (due[last] as number);
    for (const receipt of this.receipts.byDue.values()) {
      if (receipt.due > reached) this.events.comesLate(receipt);
    }
  }
}

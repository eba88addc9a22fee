import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { formatAmount } from '../money/amount-text.ts';
import type { Multiplier } from '../money/rounded-product.ts';
import { rateAt, type RateTimeline } from '../rates/rate-timeline.ts';
import { TermsFault } from '../terms-fault.ts';
import { EventQueue, type BetweenEvent } from './between-events.ts';
import { InterestMeter } from './interest-meter.ts';
import { interestStep } from './interest-step.ts';
import { columnsOnly, type RowKind } from './loan-columns.ts';
import { eventsOf, type ExtraEachPayment } from './loan-events.ts';
import type { LoanNotice, LoanSchedule, Settlement } from './loan-schedule.ts';
import { grainsPerMinorUnit, minorUnits, type LoanTerms } from './loan-terms.ts';
import { PaymentAgreement } from './payment-agreement.ts';
import { PeriodGrowths } from './period-growths.ts';
import { fillRegularRows } from './regular-rows.ts';
import { RowWriter, type ExactRow } from './row-writer.ts';
import type { Stretch } from './stretch.ts';

const least = (a: bigint, b: bigint): bigint => (a < b ? a : b);
/** A balance below this part of a minor unit is what division left over. */
const dustParts = 10n ** 18n;
const atLeastZero = (a: bigint): bigint => (a > 0n ? a : 0n);

/** The walk along the due dates. Holds what a row leaves to the next; amounts in grains. */
export class LoanWalk {
  private readonly growths: PeriodGrowths;
  private readonly events: EventQueue;
  private readonly eachPayment: readonly ExtraEachPayment[];
  private readonly writer: RowWriter;
  private readonly meter: InterestMeter;
  private readonly agreement: PaymentAgreement;
  private readonly notices: LoanNotice[] = [];
  private readonly grains: bigint;
  private settlement: Settlement | undefined;
  private balance: bigint;
  /** Interest charged, due and not paid. */
  private unpaid = 0n;
  /** Interest kept apart by agreement until the phase ends. */
  private kept = 0n;
  /** Scheduled principal fallen due and not paid. */
  private behind = 0n;
  /** Interest that had accrued before a loan was taken on, due with the first payment. */
  private broughtIn: bigint;
  private number = 0;

  constructor(
    private readonly terms: LoanTerms,
    private readonly stretches: readonly Stretch[],
    private readonly rates: RateTimeline,
  ) {
    this.grains = grainsPerMinorUnit(terms);
    this.growths = new PeriodGrowths(terms, rates);
    this.events = new EventQueue(terms.events);
    this.eachPayment = eventsOf(terms.events, 'extra-each-payment');
    const payments = stretches.reduce((sum, { count, openEnded }) => sum + (openEnded ? 64 : count), 0);
    this.writer = new RowWriter(terms, payments + this.events.count + 1);
    this.meter = new InterestMeter({ terms, stretches, rates }, this.growths, this.writer.columns);
    this.agreement = new PaymentAgreement(terms, rates, this.growths, this.events);
    this.balance = this.inGrains(terms.amount);
    this.broughtIn = this.inGrains(terms.takenOn?.accruedInterest ?? 0);
  }

  run(): LoanSchedule {
    this.stretches.forEach((stretch, at) => this.walkStretch(stretch, at));
    this.afterTheTerm();
    const { terms, stretches, rates, notices, settlement } = this;
    return {
      ...columnsOnly(this.writer.columns),
      kind: 'loan',
      terms,
      stretches,
      rates,
      settings: this.agreement.settings,
      notices,
      ...(settlement && { settlement }),
    };
  }

  /** Nothing is owed, no interest still waits for its due date, and nothing more can be drawn. */
  private get cleared(): boolean {
    if (this.settlement) return true;
    if (this.terms.creditLine) return false;
    return this.owedApart + this.balance === 0n && this.meter.undisturbed;
  }

  private get owedApart(): bigint {
    return this.unpaid + this.kept + this.broughtIn;
  }

  private inGrains(minor: number): bigint {
    return BigInt(minor) * this.grains;
  }

  private walkStretch(stretch: Stretch, stretchAt: number): void {
    if (this.cleared || stretch.count === 0) return;
    if (stretch.renewal) {
      if (!(this.stretches[stretchAt - 1]?.cutShort ?? true)) this.overdueThrough(stretch.renewal.on);
      if (this.cleared) return;
      // A renewal ends what was agreed about interest kept apart: it is owed from then on.
      this.unpaid += this.kept;
      this.kept = 0n;
    }
    this.agreement.begin(stretch, stretchAt, this.balance);
    let at = 0;
    while (at < stretch.count && !this.cleared) {
      at += this.regularStretch(stretch, at);
      if (at >= stretch.count) break;
      this.row(stretch, at);
      at += 1;
    }
    if (stretch.openEnded && !this.cleared) {
      throw new TermsFault(
        `payments.phases.${stretch.phaseAt}.payment`,
        `At this payment the loan is not cleared within ${stretch.count} payments; raise the payment.`,
      );
    }
  }

  /** As many plain rows at once as come before the next event or change of rate; how many they were. */
  private regularStretch(stretch: Stretch, from: number): number {
    const { terms, meter } = this;
    const { columns } = this.writer;
    const setting = this.agreement.now;
    const plain = this.grains === 1n && this.eachPayment.length === 0 && !terms.creditLine;
    if (!plain || this.owedApart + this.behind !== 0n || !meter.undisturbed) return 0;
    if (stretch.interestDays !== stretch.dues || !meter.beginsAt(stretch, from)) return 0;
    if (setting.kind === 'none' || setting.kind === 'listed' || !this.agreement.stands(meter.chargedTo))
      return 0;
    const rate = rateAt(this.rates, meter.chargedTo);
    const eventDay = this.events.nextDay(meter.chargedTo);
    const rateDay = this.rates[rate + 1]?.from ?? Number.MAX_SAFE_INTEGER;
    let end = stretch.clears ? stretch.count - 1 : stretch.count;
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
        number: this.number + 1,
        kind: setting.kind === 'interest' || setting.kind === 'principal' ? setting.kind : 'payment',
        amount: Number(setting.amount),
        growthOf: (at): Multiplier => this.growths.at(stretch, at, rate).toSteps,
        step: interestStep(terms),
        ties: terms.rounding.ties,
        setting: this.agreement.settings.length - 1,
      },
      Number(this.balance),
    );
    if (written > 0) {
      this.number += written;
      this.balance = BigInt(columns.closing[columns.length - 1] as number);
      meter.charged(stretch.dues[from + written - 1] as number, this.balance);
    }
    return written;
  }

  /** One payment by the general rules: what is charged, what is paid, in which order. */
  private row(stretch: Stretch, at: number): void {
    const due = stretch.dues[at] as number;
    const interestDay = stretch.interestDays[at] as number;
    const recorded = this.events.recorded(due, interestDay);
    const early = recorded !== undefined && recorded.on < due && recorded.on > this.meter.chargedTo;
    const date = early ? recorded.on : due;
    const chargedTo = early ? date : interestDay;
    for (let event = this.events.takeBefore(date); event; event = this.events.takeBefore(date)) {
      this.between(event);
      if (this.settlement) return;
    }
    if (this.cleared) return;
    const charge = this.meter.chargeTo(chargedTo, this.balance, stretch, at);
    this.agreement.adjust(stretch, at, this.balance, charge, chargedTo, date);
    const settling = this.events.settlesOn(date);
    const owed = this.balance + this.owedApart + charge.amount;
    const interest = charge.amount + this.broughtIn;
    this.broughtIn = 0n;
    const asked = this.askedFor(stretch, at, interest);
    const all = settling || (stretch.clears && at === stretch.count - 1) || asked.payment >= owed;
    if (all && this.agreement.now.kind === 'listed' && asked.payment !== owed) {
      this.notice(date, 'listed-payment-differs', asked.payment, owed);
    }
    if (all) {
      asked.interest += asked.added + this.kept;
      asked.added = this.kept = 0n;
    }
    const scheduled = all ? owed : asked.payment;
    const scheduledPrincipal = all ? this.balance : atLeastZero(scheduled - asked.interest);
    let available = scheduled;
    if (recorded && !settling) {
      const paid = this.inGrains(recorded.amount);
      available = recorded.on > due ? 0n : this.cut(recorded.on, 'payment-cut', paid, owed);
    }
    const interestPaid = least(available, asked.interest + this.unpaid);
    const rest = available - interestPaid;
    const owing = this.balance + asked.added;
    let principal = least(rest, least(scheduledPrincipal + this.behind, owing));
    let extra = rest - principal;
    if (!recorded && !all) {
      for (const each of this.eachPayment) {
        if (due < each.from || due > each.to) continue;
        extra += least(this.inGrains(each.amount), owing - principal - extra);
        if (each.then === 're-level') this.agreement.levelNext();
      }
    }
    const onTheDay: BetweenEvent[] = [];
    for (let event = this.events.takeThrough(date); event; event = this.events.takeThrough(date)) {
      if (event.kind !== 'extra') {
        if (event.kind !== 'settlement') onTheDay.push(event);
        continue;
      }
      extra += this.cut(event.on, 'extra-cut', this.inGrains(event.amount), owing - principal - extra);
      if (event.reLevel) this.agreement.levelNext();
    }
    // What dividing an unrounded payment could not write out is nothing owed.
    const left = owing - principal - extra;
    if (left > 0n && left * dustParts < this.grains) principal += left;
    const opening = this.balance;
    this.balance = owing - principal - extra;
    this.unpaid += asked.interest - interestPaid;
    this.behind = atLeastZero(least(this.balance, this.behind + scheduledPrincipal - principal));
    this.number += 1;
    this.write('payment', {
      n: this.number,
      date,
      due,
      chargedTo,
      opening,
      payment: interestPaid + principal,
      interest,
      principal,
      extra,
      added: asked.added,
      fee: charge.fee,
    });
    this.meter.charged(chargedTo, this.balance);
    if (settling) this.settle(date, owed);
    else for (const event of onTheDay) this.between(event);
  }

  /** What the agreement asks for in a row: the payment, the interest due in it, interest that joins the balance. */
  private askedFor(
    stretch: Stretch,
    at: number,
    interest: bigint,
  ): { payment: bigint; interest: bigint; added: bigint } {
    const setting = this.agreement.now;
    const { phase } = stretch;
    if (setting.kind === 'none' && phase.type === 'no-payment') {
      if (phase.interest === 'added-each-period') return { payment: 0n, interest: 0n, added: interest };
      this.kept += interest;
      if (at < phase.count - 1) return { payment: 0n, interest: 0n, added: 0n };
      const together = this.kept;
      this.kept = 0n;
      if (phase.then === 'pay') return { payment: together, interest: together, added: 0n };
      return { payment: 0n, interest: 0n, added: together };
    }
    let payment = setting.amount;
    if (setting.kind === 'interest') payment = interest;
    if (setting.kind === 'principal') payment += interest;
    if (setting.kind === 'listed' && phase.type === 'custom') {
      payment = this.inGrains(phase.payments[at]?.amount ?? 0);
    }
    if (payment >= interest || this.terms.compounding === 'simple') return { payment, interest, added: 0n };
    // A payment agreed below the interest: what it does not cover joins the balance on the due date.
    return { payment, interest: payment, added: interest - payment };
  }

  /** Something between due dates: interest owed first where it is a payment, then principal. */
  private between(event: BetweenEvent): void {
    const opening = this.balance;
    const { on, due, kind } = event;
    const row = { n: 0, date: on, due, chargedTo: this.meter.chargedTo, opening, ...noAmounts };
    if (event.reLevel) this.agreement.levelNext();
    switch (kind) {
      case 'draw': {
        if (this.cleared) throw drawnTooLate(event);
        const added = this.inGrains(event.amount);
        this.refuseAboveLimit(event);
        this.balance += added;
        this.write('draw', { ...row, added });
        return;
      }
      case 'interest-added': {
        const { amount, fee } = this.meter.chargeTo(on, this.balance);
        const interest = amount + this.broughtIn;
        this.broughtIn = 0n;
        const added = interest + this.unpaid;
        this.unpaid = 0n;
        this.balance += added;
        this.write('interest-added', { ...row, chargedTo: on, interest, added, fee });
        this.meter.charged(on, this.balance);
        return;
      }
      case 'settlement': {
        const { amount, fee } = this.meter.chargeTo(on, this.balance);
        const interest = amount + this.broughtIn;
        const owed = this.balance + this.owedApart - this.broughtIn + interest;
        this.broughtIn = this.unpaid = this.kept = this.behind = 0n;
        this.balance = 0n;
        this.write('settlement', { ...row, chargedTo: on, payment: owed, interest, principal: opening, fee });
        this.meter.charged(on, this.balance);
        this.settle(on, owed);
        return;
      }
      default:
        this.repay(event, row);
    }
  }

  /** Extra principal, or a late payment, between due dates. */
  private repay(event: BetweenEvent, row: RowSoFar): void {
    const late = event.kind === 'late-payment';
    const owed = this.balance + (late ? this.unpaid : 0n);
    const available = this.cut(
      event.on,
      late ? 'payment-cut' : 'extra-cut',
      this.inGrains(event.amount),
      owed,
    );
    if (available === 0n) return;
    const interestPaid = late ? least(available, this.unpaid) : 0n;
    const principal = late ? least(available - interestPaid, this.behind) : 0n;
    const extra = available - interestPaid - principal;
    this.balance -= principal + extra;
    this.unpaid -= interestPaid;
    this.behind = least(this.balance, this.behind - principal);
    this.write(late ? 'late-payment' : 'extra', {
      ...row,
      payment: interestPaid + principal,
      principal,
      extra,
    });
  }

  /** What comes in after the last due date is charged interest to its own day, so that none is lost. */
  private overdueThrough(day: CalendarDay): void {
    for (let event = this.events.takeThrough(day); event; event = this.events.takeThrough(day)) {
      if (this.balance + this.owedApart === 0n && event.kind !== 'draw') {
        this.notice(event.on, 'event-without-effect', this.inGrains(event.amount), 0n);
      } else if (event.kind === 'late-payment' || event.kind === 'extra') {
        this.overduePayment(event);
      } else {
        this.between(event);
      }
    }
  }

  private overduePayment({ on, due, amount }: BetweenEvent): void {
    const interest = this.meter.chargeTo(on, this.balance).amount + this.broughtIn;
    this.broughtIn = 0n;
    const interestOwed = this.unpaid + this.kept + interest;
    const payment = this.cut(on, 'payment-cut', this.inGrains(amount), this.balance + interestOwed);
    const interestPaid = least(payment, interestOwed);
    const principal = payment - interestPaid;
    const opening = this.balance;
    this.balance -= principal;
    this.unpaid = interestOwed - interestPaid;
    this.kept = 0n;
    this.behind = this.balance;
    const row = { ...noAmounts, n: 0, date: on, due, chargedTo: on, opening, payment, interest, principal };
    this.write('overdue-payment', row);
    this.meter.charged(on, this.balance);
  }

  private afterTheTerm(): void {
    this.overdueThrough(Number.MAX_SAFE_INTEGER);
    if (this.balance > 0n && this.terms.atEnd === 'leave' && !this.terms.creditLine) {
      const { columns } = this.writer;
      this.notice(columns.date[columns.length - 1] ?? this.terms.start, 'left-at-end', this.balance, 0n);
    }
    this.noticeUnmatchedPayments();
  }

  private noticeUnmatchedPayments(): void {
    const recorded = eventsOf(this.terms.events, 'paid');
    if (recorded.length === 0) return;
    const { columns } = this.writer;
    const dues = new Set(columns.due.subarray(0, columns.length));
    for (const { interestDays } of this.stretches) {
      for (const day of interestDays.subarray(0, columns.length)) dues.add(day);
    }
    for (const { due, on, amount } of recorded) {
      if (!dues.has(due)) this.notice(on, 'event-without-effect', this.inGrains(amount), 0n);
    }
  }

  private settle(on: CalendarDay, owed: bigint): void {
    const agreed = eventsOf(this.terms.events, 'settled').find((event) => event.on === on)?.amount;
    const minor = minorUnits(this.terms, owed);
    this.settlement = { on, row: this.writer.columns.length - 1, owed: minor, paid: agreed ?? minor };
  }

  private refuseAboveLimit(event: BetweenEvent): void {
    const limit = this.terms.creditLine?.limit;
    if (limit === undefined) return;
    const balance = minorUnits(this.terms, this.balance);
    if (balance + event.amount <= limit) return;
    const money = (minor: number): string => formatAmount(minor, this.terms.digits);
    throw new TermsFault(
      `events.${event.at}.amount`,
      `Drawing ${money(event.amount)} on ${formatDay(event.on)} takes the balance to ` +
        `${money(balance + event.amount)}, above the limit of ${money(limit)}; at most ${money(limit - balance)} can be drawn.`,
    );
  }

  private cut(on: CalendarDay, kind: LoanNotice['kind'], stated: bigint, most: bigint): bigint {
    if (stated <= most) return stated;
    this.notice(on, kind, stated, most);
    return most;
  }

  private notice(on: CalendarDay, kind: LoanNotice['kind'], stated: bigint, applied: bigint): void {
    this.notices.push({
      on,
      kind,
      stated: minorUnits(this.terms, stated),
      applied: minorUnits(this.terms, applied),
    });
  }

  private write(kind: RowKind, row: RowSoFar): void {
    this.writer.write({
      ...row,
      kind,
      closing: this.balance,
      unpaid: this.unpaid + this.kept,
      principalInArrears: this.behind,
      setting: Math.max(0, this.agreement.settings.length - 1),
    });
  }
}

/** A row but for what the walk knows itself. */
type RowSoFar = Omit<ExactRow, 'kind' | 'closing' | 'unpaid' | 'principalInArrears' | 'setting'>;

const noAmounts = { payment: 0n, interest: 0n, principal: 0n, extra: 0n, added: 0n, fee: 0n };

function drawnTooLate({ at, on }: BetweenEvent): TermsFault {
  return new TermsFault(
    `events.${at}.on`,
    `By ${formatDay(on)} the loan is repaid, so nothing can be drawn; lengthen its term, renew it, or remove the draw.`,
  );
}

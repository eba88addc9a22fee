import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Multiplier } from '../money/rounded-product.ts';
import { rateAt, type RateTimeline } from '../rates/rate-timeline.ts';
import { TermsFault } from '../terms-fault.ts';
import { EventQueue, type BetweenEvent } from './between-events.ts';
import { BetweenRows } from './between-rows.ts';
import { interestStep } from './interest-step.ts';
import { eventsOf, type ExtraEachPayment } from './loan-events.ts';
import { least, LoanLedger } from './loan-ledger.ts';
import type { LoanSchedule } from './loan-schedule.ts';
import type { LoanTerms } from './loan-terms.ts';
import { PaymentAgreement } from './payment-agreement.ts';
import { PeriodGrowths } from './period-growths.ts';
import { fillRegularRows } from './regular-rows.ts';
import type { Stretch } from './stretch.ts';

/** The most days that a due date moves for a run of closed days. */
const mostMovedDays = 10;

/** A balance below this part of a minor unit is what division left over. */
const dustParts = 10n ** 18n;
const atLeastZero = (a: bigint): bigint => (a > 0n ? a : 0n);

/** What the agreement asks for in a row: the payment, the interest due in it, interest that joins the balance. */
interface Asked {
  payment: bigint;
  interest: bigint;
  added: bigint;
}

/** The walk along the due dates. Holds what a row leaves to the next; amounts in grains. */
export class LoanWalk {
  private readonly growths: PeriodGrowths;
  private readonly events: EventQueue;
  private readonly eachPayment: readonly ExtraEachPayment[];
  private readonly agreement: PaymentAgreement;
  private readonly ledger: LoanLedger;
  private readonly rows: BetweenRows;

  constructor(
    private readonly terms: LoanTerms,
    private readonly stretches: readonly Stretch[],
    private readonly rates: RateTimeline,
  ) {
    this.growths = new PeriodGrowths(terms, rates);
    this.events = new EventQueue(terms.events);
    this.eachPayment = eventsOf(terms.events, 'extra-each-payment');
    this.agreement = new PaymentAgreement(terms, rates, this.growths, this.events);
    const payments = stretches.reduce((sum, { count, openEnded }) => sum + (openEnded ? 64 : count), 0);
    const rules = { terms, stretches, rates };
    this.ledger = new LoanLedger(rules, this.growths, this.agreement, payments + this.events.count + 1);
    this.rows = new BetweenRows(terms, this.ledger, this.agreement);
  }

  run(): LoanSchedule {
    this.stretches.forEach((stretch, at) => this.walkStretch(stretch, at));
    this.afterTheTerm();
    const { terms, stretches, rates } = this;
    const { notices, settlement } = this.ledger;
    const { columns } = this.ledger.writer;
    // Written out: spreading the columns costs more than filling them.
    return {
      kind: 'loan',
      terms,
      stretches,
      rates,
      settings: this.agreement.settings,
      notices,
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
      principalInArrears: columns.principalInArrears,
      fee: columns.fee,
      rowKind: columns.rowKind,
      setting: columns.setting,
      exact: columns.exact,
    };
  }

  private walkStretch(stretch: Stretch, stretchAt: number): void {
    if (this.ledger.cleared || stretch.count === 0) return;
    if (stretch.renewal) {
      if (!(this.stretches[stretchAt - 1]?.cutShort ?? true)) this.overdueThrough(stretch.renewal.on);
      if (this.ledger.cleared) return;
      // A renewal ends what was agreed about interest kept apart: it is owed from then on.
      this.ledger.unpaid += this.ledger.kept;
      // All of the balance falls due anew.
      this.ledger.kept = this.ledger.behind = 0n;
      this.ledger.pastTerm = false;
    }
    this.agreement.begin(stretch, stretchAt, this.ledger.balance);
    let at = 0;
    while (at < stretch.count && !this.ledger.cleared) {
      at += this.regularStretch(stretch, at);
      if (at >= stretch.count) break;
      this.row(stretch, at);
      at += 1;
    }
    if (stretch.openEnded && !this.ledger.cleared) {
      throw new TermsFault(
        `payments.phases.${stretch.phaseAt}.payment`,
        `At this payment the loan is not cleared within ${stretch.count} payments; raise the payment.`,
      );
    }
  }

  /** As many plain rows at once as come before the next event or change of rate; how many they were. */
  private regularStretch(stretch: Stretch, from: number): number {
    const { terms } = this;
    const { meter } = this.ledger;
    const { columns } = this.ledger.writer;
    const setting = this.agreement.now;
    const plain = this.ledger.grains === 1n && this.eachPayment.length === 0 && !terms.creditLine;
    if (!plain || this.ledger.apart + this.ledger.behind !== 0n || !meter.undisturbed) return 0;
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
      meter.charged(stretch.dues[from + written - 1] as number, this.ledger.balance);
    }
    return written;
  }

  /** One payment by the general rules: what is charged, what is paid, in which order. */
  private row(stretch: Stretch, at: number): void {
    const due = stretch.dues[at] as number;
    const interestDay = stretch.interestDays[at] as number;
    const recorded = this.events.recorded(due, interestDay);
    const early = recorded !== undefined && recorded.on < due && recorded.on > this.ledger.meter.chargedTo;
    const date = early ? recorded.on : due;
    const chargedTo = early ? date : interestDay;
    for (let event = this.events.takeBefore(date); event; event = this.events.takeBefore(date)) {
      this.rows.between(event);
      if (this.ledger.settlement) return;
    }
    if (this.ledger.cleared) return;
    const charge = this.ledger.meter.chargeTo(chargedTo, this.ledger.balance, stretch, at);
    this.agreement.adjust(stretch, at, this.ledger.balance, charge, chargedTo, date);
    const settling = this.events.settlesOn(date);
    const owed = this.ledger.balance + this.ledger.apart + charge.amount;
    const interest = charge.amount + this.ledger.broughtIn;
    this.ledger.broughtIn = 0n;
    const asked = this.askedFor(stretch, at, interest);
    const all = settling || (stretch.clears && at === stretch.count - 1) || asked.payment >= owed;
    if (all && this.agreement.now.kind === 'listed' && asked.payment !== owed) {
      this.ledger.notice(date, 'listed-payment-differs', asked.payment, owed);
    }
    if (all) {
      asked.interest += asked.added + this.ledger.kept;
      asked.added = this.ledger.kept = 0n;
    }
    const scheduled = all ? owed : asked.payment;
    const scheduledPrincipal = all ? this.ledger.balance : atLeastZero(scheduled - asked.interest);
    let available = scheduled;
    if (recorded && !settling) {
      const paid = this.ledger.inGrains(recorded.amount);
      available = recorded.on > due ? 0n : this.ledger.cut(recorded.on, 'payment-cut', paid, owed);
    }
    const owing = this.ledger.balance + asked.added;
    // What a payment has over once the balance is repaid goes to interest that was kept apart.
    const over = atLeastZero(available - asked.interest - this.ledger.unpaid - owing);
    const ofKept = least(over, this.ledger.kept);
    asked.interest += ofKept;
    this.ledger.kept -= ofKept;
    const interestPaid = least(available, asked.interest + this.ledger.unpaid);
    const rest = available - interestPaid;
    let principal = least(rest, least(scheduledPrincipal + this.ledger.behind, owing));
    let extra = rest - principal;
    if (!recorded && !all) {
      for (const each of this.eachPayment) {
        if (due < each.from || due > each.to) continue;
        extra += least(this.ledger.inGrains(each.amount), owing - principal - extra);
        if (each.then === 're-level') this.agreement.levelNext();
      }
    }
    const onTheDay: BetweenEvent[] = [];
    for (let event = this.events.takeThrough(date); event; event = this.events.takeThrough(date)) {
      if (event.kind !== 'extra') {
        if (event.kind !== 'settlement') onTheDay.push(event);
        continue;
      }
      extra += this.ledger.cut(
        event.on,
        'extra-cut',
        this.ledger.inGrains(event.amount),
        owing - principal - extra,
      );
      if (event.reLevel) this.agreement.levelNext();
    }
    // What dividing an unrounded payment could not write out is nothing owed.
    const left = owing - principal - extra;
    if (left > 0n && left * dustParts < this.ledger.grains) principal += left;
    const opening = this.ledger.balance;
    this.ledger.balance = owing - principal - extra;
    this.ledger.unpaid += asked.interest - interestPaid;
    this.ledger.behind = atLeastZero(
      least(this.ledger.balance, this.ledger.behind + scheduledPrincipal - principal),
    );
    this.ledger.number += 1;
    this.ledger.write('payment', {
      n: this.ledger.number,
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
    this.ledger.meter.charged(chargedTo, this.ledger.balance);
    if (settling) this.ledger.settle(date, owed);
    else for (const event of onTheDay) this.rows.between(event);
  }

  /** What the agreement asks for in a row. */
  private askedFor(stretch: Stretch, at: number, interest: bigint): Asked {
    const setting = this.agreement.now;
    const { phase } = stretch;
    if (setting.kind === 'none' && phase.type === 'no-payment') {
      if (phase.interest === 'added-each-period') return { payment: 0n, interest: 0n, added: interest };
      this.ledger.kept += interest;
      if (at < phase.count - 1) return { payment: 0n, interest: 0n, added: 0n };
      const together = this.ledger.kept;
      this.ledger.kept = 0n;
      if (phase.then === 'pay') return { payment: together, interest: together, added: 0n };
      return { payment: 0n, interest: 0n, added: together };
    }
    let payment = setting.amount;
    if (phase.type === 'no-payment' && at === phase.count - 1 && this.ledger.kept > 0n) {
      // Payments were agreed after all; what was kept apart before is still added or paid with the last of them.
      const kept = this.ledger.kept;
      this.ledger.kept = 0n;
      const { payment: asked, interest: due, added } = belowInterest(payment, interest, this.terms);
      if (phase.then === 'pay') return { payment: asked + kept, interest: due + kept, added };
      return { payment: asked, interest: due, added: added + kept };
    }
    if (setting.kind === 'interest') payment = interest;
    if (setting.kind === 'principal') payment += interest;
    if (setting.kind === 'listed' && phase.type === 'custom') {
      payment = this.ledger.inGrains(phase.payments[at]?.amount ?? 0);
    }
    return belowInterest(payment, interest, this.terms);
  }

  /** What comes in after the last due date is charged interest to its own day, so that none is lost. */
  private overdueThrough(day: CalendarDay): void {
    this.ledger.pastTerm = true;
    for (let event = this.events.takeThrough(day); event; event = this.events.takeThrough(day)) {
      if (this.ledger.balance + this.ledger.apart === 0n && event.kind !== 'draw') {
        this.ledger.notice(event.on, 'event-without-effect', this.ledger.inGrains(event.amount), 0n);
      } else if (event.kind === 'late-payment' || event.kind === 'extra') {
        this.rows.overdue(event);
      } else {
        this.rows.between(event);
      }
    }
  }

  private afterTheTerm(): void {
    this.overdueThrough(Number.MAX_SAFE_INTEGER);
    this.noticeWhatIsLeft();
    this.noticeUnmatchedPayments();
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

  private noticeUnmatchedPayments(): void {
    const recorded = eventsOf(this.terms.events, 'paid');
    if (recorded.length === 0) return;
    const { columns } = this.ledger.writer;
    const ofRows = columns.date.subarray(0, columns.length);
    const known = (due: CalendarDay): boolean =>
      this.stretches.some(({ dues, interestDays }) => dues.includes(due) || interestDays.includes(due)) &&
      due <= (ofRows.at(-1) ?? 0) + mostMovedDays;
    for (const { due, on, amount } of recorded) {
      if (!known(due)) this.ledger.notice(on, 'event-without-effect', this.ledger.inGrains(amount), 0n);
    }
  }
}

/** A payment agreed below the interest: what it does not cover joins the balance, unless interest is simple. */
function belowInterest(payment: bigint, interest: bigint, { compounding }: LoanTerms): Asked {
  if (payment >= interest || compounding === 'simple') return { payment, interest, added: 0n };
  return { payment, interest: payment, added: interest - payment };
}

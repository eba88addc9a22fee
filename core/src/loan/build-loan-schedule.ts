import { cycleDates } from '../calendar/payment-dates.ts';
import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { roundedProduct, type Multiplier } from '../money/rounded-product.ts';
import { EventQueue, type BetweenEvent } from './between-events.ts';
import { checkLoanTerms } from './check-loan-terms.ts';
import { interestOf, interestSegments, interestStep, paymentCycle } from './loan-interest.ts';
import { loanColumns, type LoanColumns, type LoanNotice, type LoanSchedule } from './loan-schedule.ts';
import { mostPayments, type LoanTerms, type Phase } from './loan-terms.ts';
import { PeriodGrowths } from './period-growths.ts';
import { phasePayment } from './phase-payment.ts';
import { fillRegularRows } from './regular-rows.ts';
import { TermsFault } from '../terms-fault.ts';

/**
 * A loan's schedule from its terms and events: a pure function, exact to the minor unit.
 * Throws {@link TermsFault} for terms that contradict each other or never repay, and `RangeError` when an
 * amount grows beyond exact numbers.
 */
export function buildLoanSchedule(terms: LoanTerms): LoanSchedule {
  checkLoanTerms(terms);
  return new LoanWalk(terms).run();
}

/** The walk along the due dates. Holds what a row leaves to the next. */
class LoanWalk {
  private readonly dues: Int32Array;
  private readonly growths: PeriodGrowths;
  private readonly events: EventQueue;
  private readonly columns: LoanColumns;
  private readonly notices: LoanNotice[] = [];
  private readonly phasePayments: number[] = [];
  private balance: number;
  /** Interest charged and not yet paid. */
  private unpaid = 0;
  /** Scheduled principal fallen due and not yet paid. */
  private behind = 0;
  private index = 0;
  /** Where the interest not yet charged runs from, and the rows since. */
  private chargedDay: CalendarDay;
  private chargedBalance: number;
  private chargedRow = 0;

  constructor(private readonly terms: LoanTerms) {
    const stated = terms.phases.reduce((sum, phase) => sum + (phase.count ?? mostPayments), 0);
    const payments = Math.min(stated, mostPayments);
    this.dues = cycleDates(paymentCycle(terms), furthestPayment(terms, payments));
    this.growths = new PeriodGrowths(terms, this.dues);
    this.events = new EventQueue(terms);
    this.columns = loanColumns(payments + 2 * terms.recorded.length + terms.extrasOnce.length + 1);
    this.balance = terms.amount;
    this.chargedDay = terms.start;
    this.chargedBalance = terms.amount;
  }

  private readonly growthOf = (index: number): Multiplier => this.growths.at(index).toSteps;

  run(): LoanSchedule {
    const { terms } = this;
    terms.phases.forEach((phase, at) => this.walkPhase(phase, at, at === terms.phases.length - 1));
    this.afterTheTerm();
    return {
      kind: 'loan',
      terms,
      ...this.columns,
      phasePayments: this.phasePayments,
      notices: this.notices,
    };
  }

  /** Nothing is owed, and no interest is still waiting for its due date. */
  private get cleared(): boolean {
    return this.balance === 0 && this.unpaid === 0 && this.chargedRow === this.columns.length;
  }

  private walkPhase(phase: Phase, at: number, last: boolean): void {
    if (this.cleared) return;
    const payment = phasePayment(this.terms, phase, at, this.balance, this.index, this.growths);
    this.phasePayments[at] = payment;
    const end = phase.count === undefined ? mostPayments : this.index + phase.count;
    while (this.index < end && !this.cleared) {
      const final = last && phase.count !== undefined ? end - 1 : end;
      if (payment > 0) this.regularStretch(payment, final, at);
      if (this.index >= end) break;
      this.row(payment, last && phase.count !== undefined && this.index === end - 1, at);
    }
    if (phase.count === undefined && !this.cleared) {
      throw new TermsFault(
        `payments.phases.${at}.payment`,
        `At this payment the loan is not cleared within ${mostPayments} payments; raise the payment.`,
      );
    }
  }

  /** As many plain rows at once as come before the next event. */
  private regularStretch(payment: number, end: number, phase: number): void {
    const { columns, dues, terms } = this;
    if (terms.extrasEachPayment.length > 0 || this.unpaid > 0 || this.behind > 0) return;
    if (this.chargedRow !== columns.length || terms.rounding.ties !== 'away-from-zero') return;
    if (interestStep(terms) !== 1 || this.index === 0) return;
    const eventDay = this.events.nextDay(this.chargedDay);
    let stop = end;
    if (eventDay <= (dues[end - 1] as number)) {
      stop = this.index;
      while (stop < end && (dues[stop] as number) < eventDay) stop += 1;
    }
    const written = fillRegularRows(
      columns,
      dues,
      this.index,
      stop,
      this.balance,
      payment,
      this.growthOf,
      phase,
    );
    if (written > 0) {
      this.index += written;
      this.balance = columns.closing[columns.length - 1] as number;
      this.charged(dues[this.index - 1] as number, this.balance);
    }
  }

  /** One payment by the general rules: what is charged, what is paid, in which order. */
  private row(phaseAmount: number, contractualLast: boolean, phase: number): void {
    const { terms } = this;
    const due = this.dues[this.index] as number;
    const recorded = this.events.recorded(due);
    const date = recorded && recorded.on < due && recorded.on > this.chargedDay ? recorded.on : due;
    for (let event = this.events.takeBefore(date); event; event = this.events.takeBefore(date)) {
      this.between(event);
    }
    const interest = this.interestTo(date);
    const owed = this.balance + this.unpaid + interest;
    const agreed = phaseAmount === 0 ? interest : phaseAmount;
    const scheduled = contractualLast || agreed >= owed ? owed : agreed;
    const scheduledPrincipal = scheduled === owed ? this.balance : Math.max(0, scheduled - interest);
    let available = scheduled;
    if (recorded)
      available = recorded.on > due ? 0 : this.cut(recorded.on, 'payment-cut', recorded.amount, owed);
    const interestPaid = Math.min(available, interest + this.unpaid);
    const rest = available - interestPaid;
    const principal = Math.min(rest, scheduledPrincipal + this.behind, this.balance);
    let extra = rest - principal;
    if (!recorded) {
      for (const each of terms.extrasEachPayment) {
        if (due >= each.from && due <= each.to)
          extra += Math.min(each.amount, this.balance - principal - extra);
      }
    }
    for (let event = this.events.takeThrough(date); event; event = this.events.takeThrough(date)) {
      extra += this.cut(event.on, 'extra-cut', event.amount, this.balance - principal - extra);
    }
    const opening = this.balance;
    this.balance -= principal + extra;
    this.unpaid += interest - interestPaid;
    this.behind = Math.max(0, Math.min(this.balance, this.behind + scheduledPrincipal - principal));
    this.index += 1;
    this.write(this.index, date, due, opening, interestPaid + principal, interest, principal, extra, phase);
    this.charged(date, this.balance);
  }

  /** Extra principal, or a late payment, between due dates: interest owed first, then principal. */
  private between(event: BetweenEvent): void {
    const owed = this.balance + this.unpaid;
    const kind = event.kind === 'extra' ? 'extra-cut' : 'payment-cut';
    const available = this.cut(event.on, kind, event.amount, event.kind === 'extra' ? this.balance : owed);
    if (available === 0) return;
    const interestPaid = event.kind === 'extra' ? 0 : Math.min(available, this.unpaid);
    const principal = event.kind === 'extra' ? 0 : Math.min(available - interestPaid, this.behind);
    const extra = available - interestPaid - principal;
    const opening = this.balance;
    this.balance -= principal + extra;
    this.unpaid -= interestPaid;
    this.behind = Math.min(this.balance, this.behind - principal);
    this.write(
      0,
      event.on,
      event.due,
      opening,
      interestPaid + principal,
      0,
      principal,
      extra,
      this.currentPhase(),
    );
  }

  /** What comes in after the last due date is charged interest to its own day, so that none is lost. */
  private afterTheTerm(): void {
    const forever = Number.MAX_SAFE_INTEGER;
    for (let event = this.events.takeThrough(forever); event; event = this.events.takeThrough(forever)) {
      if (this.balance === 0 && this.unpaid === 0) {
        this.notices.push({ on: event.on, kind: 'event-without-effect', stated: event.amount, applied: 0 });
        continue;
      }
      const interest = this.interestTo(event.on);
      const owed = this.balance + this.unpaid + interest;
      const available = this.cut(event.on, 'payment-cut', event.amount, owed);
      const interestPaid = Math.min(available, this.unpaid + interest);
      const principal = available - interestPaid;
      const opening = this.balance;
      this.balance -= principal;
      this.unpaid += interest - interestPaid;
      this.behind = this.balance;
      this.index += 1;
      this.write(
        this.index,
        event.on,
        event.due,
        opening,
        available,
        interest,
        principal,
        0,
        this.currentPhase(),
      );
      this.charged(event.on, this.balance);
    }
    const { columns, terms } = this;
    if (terms.recorded.length === 0) return;
    const dues = new Set(Array.from(columns.due.subarray(0, columns.length)));
    for (const { due, on, amount } of terms.recorded) {
      if (!dues.has(due)) {
        this.notices.push({ on, kind: 'event-without-effect', stated: amount, applied: 0 });
      }
    }
  }

  private interestTo(date: CalendarDay): number {
    const { terms, columns } = this;
    const whole =
      this.chargedRow === columns.length &&
      date === this.dues[this.index] &&
      this.chargedDay === (this.index === 0 ? terms.start : this.dues[this.index - 1]);
    if (whole) {
      const growth = this.growths.at(this.index).toSteps;
      return roundedProduct(this.balance, growth, terms.rounding.ties) * interestStep(terms);
    }
    const { chargedRow, chargedBalance, chargedDay } = this;
    const segments = interestSegments(terms, columns, chargedRow, chargedBalance, chargedDay, date);
    return interestOf(terms, segments).rounded;
  }

  private cut(on: CalendarDay, kind: LoanNotice['kind'], stated: number, most: number): number {
    if (stated <= most) return stated;
    this.notices.push({ on, kind, stated, applied: most });
    return most;
  }

  private currentPhase(): number {
    return Math.max(0, this.phasePayments.length - 1);
  }

  private charged(day: CalendarDay, balance: number): void {
    this.chargedDay = day;
    this.chargedBalance = balance;
    this.chargedRow = this.columns.length;
  }

  private write(
    n: number,
    date: CalendarDay,
    due: CalendarDay,
    opening: number,
    payment: number,
    interest: number,
    principal: number,
    extra: number,
    phase: number,
  ): void {
    const { columns } = this;
    const row = columns.length;
    if (!Number.isSafeInteger(payment + this.unpaid)) {
      throw new RangeError(`Amounts grew beyond what can be kept exactly by ${formatDay(date)}.`);
    }
    columns.n[row] = n;
    columns.date[row] = date;
    columns.due[row] = due;
    columns.opening[row] = opening;
    columns.payment[row] = payment;
    columns.interest[row] = interest;
    columns.principal[row] = principal;
    columns.extra[row] = extra;
    columns.closing[row] = this.balance;
    columns.unpaid[row] = this.unpaid;
    columns.principalInArrears[row] = this.behind;
    columns.phase[row] = phase;
    columns.length = row + 1;
  }
}

/** How many due dates are asked for: those of the payments, and those that level payments are spread over. */
function furthestPayment(terms: LoanTerms, payments: number): number {
  let furthest = payments;
  let first = 0;
  for (const phase of terms.phases) {
    if (phase.type === 'level') furthest = Math.max(furthest, first + phase.amortizeOver);
    first += phase.count ?? 0;
  }
  return furthest;
}

import { grainsOf } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { rateAt, type RateTimeline } from '../../rates/rate-timeline.ts';
import type { EventQueue } from '../schedule/between-events.ts';
import type { InterestMeter } from '../interest/interest-meter.ts';
import type { PaymentSetting } from '../schedule/loan-schedule.ts';
import { type LoanTerms } from '../terms/loan-terms.ts';
import { firstSetting, reLevelled, type SettingPoint } from './payment-setting.ts';
import type { PartGrowth } from '../interest/interest-segment.ts';
import type { PeriodGrowths } from '../interest/period-growths.ts';
import { interestDay, type Stretch } from '../terms/stretch.ts';

/** The payment that comes next, and what is owed as it is set. */
export interface NextPayment {
  readonly stretch: Stretch;
  readonly stretchAt: number;
  /** Place in the stretch. */
  readonly at: number;
  /** Grains. */
  readonly balance: bigint;
  /** Grains of interest accrued before the loan was taken on and not yet charged. */
  readonly broughtIn: bigint;
}

/**
 * Which payment is agreed as the loan goes on: set as a stretch begins, then changed or levelled anew. Changes apply in
 * the order of their days. On one day everything that moves the balance comes first: a payment levelled anew that day
 * is levelled from what is owed as the day ends, at the rate then in force, and nothing later touches it.
 */
export class PaymentAgreement {
  readonly settings: PaymentSetting[] = [];
  /** The day from which the payment is still to be levelled anew. */
  private levelOn: CalendarDay | undefined;
  /** Place among the rates of the last one that the payment has been fitted to. */
  private fittedTo = 0;

  constructor(
    private readonly terms: LoanTerms,
    private readonly rates: RateTimeline,
    private readonly growths: PeriodGrowths,
    private readonly events: EventQueue,
    private readonly meter: () => InterestMeter,
  ) {}

  /** The payment in force. */
  get now(): PaymentSetting {
    return this.settings.at(-1) as PaymentSetting;
  }

  /** Has the payment levelled anew as a day ends. */
  levelAfter(day: CalendarDay): void {
    this.levelOn = day;
  }

  /** Whether the payment stays as it is through a period that begins on a day. */
  stands(from: CalendarDay): boolean {
    return this.levelOn === undefined && rateAt(this.rates, from) <= this.fittedTo;
  }

  /** The day of the next change of the rate that the payment has not been fitted to. */
  get nextRateOn(): CalendarDay {
    return this.rates[this.fittedTo + 1]?.from ?? Number.MAX_SAFE_INTEGER;
  }

  /** Sets the payment as a stretch begins, from the balance then. */
  begin(next: NextPayment): void {
    const { stretch, balance } = next;
    const rate = rateAt(this.rates, stretch.opens);
    this.fittedTo = Math.max(this.fittedTo, rate);
    // What was to be levelled before is set anew with the stretch.
    if (this.levelOn !== undefined && this.levelOn < stretch.opens) this.levelOn = undefined;
    const whole = balance === 0n || this.meter().wholeFrom(stretch, 0, rate);
    const point = this.point(next, rate, whole ? undefined : this.growthTo(next, rate));
    this.settings.push(firstSetting(this.terms, this.growths, point));
  }

  /** Follows the next change of the rate: the payment is levelled as its day ends, where that is agreed. */
  passRate(): void {
    this.fittedTo += 1;
    const { payment, from } = this.rates[this.fittedTo] as RateTimeline[number];
    // Equal parts of the principal are what they are at any rate.
    if (payment === 're-level' && this.now.kind !== 'principal') this.levelAfter(from);
  }

  /** Follows the next change of the payment agreed through a day. */
  change({ at, balance }: NextPayment, through: CalendarDay): void {
    const change = this.events.takeChange(through);
    if (!change) return;
    const rate = Math.min(this.fittedTo, rateAt(this.rates, change.on));
    const amount = BigInt(change.payment) * grainsOf(this.terms);
    // Agreed for the day itself, it stands beside anything that would level the payment on it.
    if (this.levelOn !== undefined && this.levelOn <= change.on) this.levelOn = undefined;
    this.settings.push({
      ...this.now,
      kind: 'changed',
      anew: true,
      at,
      amount,
      balance,
      rate,
      firstGrowth: undefined,
      broughtIn: 0n,
      on: change.on,
    });
  }

  /** Levels the payment anew where that was asked for on a day before another. */
  settle(next: NextPayment, before: CalendarDay): void {
    if (this.levelOn === undefined || this.levelOn >= before) return;
    const day = this.levelOn;
    this.levelOn = undefined;
    if (next.balance <= 0n) return;
    const rate = Math.max(0, Math.min(this.fittedTo, rateAt(this.rates, day)));
    const whole = this.meter().wholeFrom(next.stretch, next.at, rate);
    const point = this.point(next, rate, whole ? undefined : this.growthTo(next, rate));
    const anew = reLevelled(this.terms, this.growths, point);
    if (anew) this.settings.push(anew);
  }

  /** What the balance of a day grows by through the period that runs, as far as is known on it. */
  private growthTo({ stretch, at, balance }: NextPayment, rate: number): PartGrowth {
    const known = this.rates.slice(0, rate + 1);
    return this.meter().growthThrough(interestDay(stretch, at), balance, known);
  }

  private point(
    { stretch, stretchAt, at, balance, broughtIn }: NextPayment,
    rate: number,
    firstGrowth: PartGrowth | undefined,
  ): SettingPoint {
    return { stretch, stretchAt, at, balance, rate, firstGrowth, broughtIn };
  }
}

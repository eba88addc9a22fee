import type { CalendarDay } from '../calendar/calendar-day.ts';
import { rateAt, type RateTimeline } from '../rates/rate-timeline.ts';
import type { EventQueue } from './between-events.ts';
import type { Charge } from './interest-meter.ts';
import type { PaymentSetting } from './loan-schedule.ts';
import { grainsPerMinorUnit, type LoanTerms } from './loan-terms.ts';
import { firstSetting, reLevelled, type SettingPoint } from './payment-setting.ts';
import type { PartGrowth } from './interest-segment.ts';
import type { PeriodGrowths } from './period-growths.ts';
import type { Stretch } from './stretch.ts';

/** Which payment is agreed as the loan goes on: set as a stretch begins, then changed or levelled anew. */
export class PaymentAgreement {
  readonly settings: PaymentSetting[] = [];
  private levelAnew = false;
  /** Place among the rates of the last one that the payment has been fitted to. */
  private fittedTo = 0;
  private stretchAt = 0;

  constructor(
    private readonly terms: LoanTerms,
    private readonly rates: RateTimeline,
    private readonly growths: PeriodGrowths,
    private readonly events: EventQueue,
  ) {}

  /** The payment in force. */
  get now(): PaymentSetting {
    return this.settings.at(-1) as PaymentSetting;
  }

  /** Has the payment levelled anew at the next due date. */
  levelNext(): void {
    this.levelAnew = true;
  }

  /** Whether the payment stays as it is through a period that begins on a day. */
  stands(from: CalendarDay): boolean {
    return !this.levelAnew && rateAt(this.rates, from) <= this.fittedTo;
  }

  /** Sets the payment as a stretch begins, from the balance then. */
  begin(stretch: Stretch, stretchAt: number, balance: bigint): void {
    this.stretchAt = stretchAt;
    const rate = rateAt(this.rates, stretch.opens);
    this.fittedTo = Math.max(this.fittedTo, rate);
    this.settings.push(firstSetting(this.terms, this.growths, this.point(stretch, 0, balance, rate)));
    // A renewal between due dates: the first period has a part at the rate before.
    if (stretch.offCycle && this.now.kind === 'level') this.levelAnew = true;
  }

  /** Sets the payment anew where it was changed, or is to be levelled after a change of rate, a draw or an extra. */
  adjust(
    stretch: Stretch,
    at: number,
    balance: bigint,
    charge: Charge,
    to: CalendarDay,
    due: CalendarDay,
  ): void {
    const rate = rateAt(this.rates, to - 1);
    for (let later = this.fittedTo + 1; later <= rate; later += 1) {
      const { payment } = this.rates[later] as RateTimeline[number];
      // Equal parts of the principal are what they are at any rate.
      if (payment === 're-level' && this.now.kind !== 'principal') this.levelAnew = true;
    }
    this.fittedTo = Math.max(this.fittedTo, rate);
    const levels = this.levelAnew;
    this.levelAnew = false;
    const change = this.events.takeChange(due);
    if (change) {
      const amount = BigInt(change.payment) * grainsPerMinorUnit(this.terms);
      this.settings.push({
        ...this.now,
        kind: 'changed',
        anew: true,
        at,
        amount,
        balance,
        rate,
        on: change.on,
      });
    } else if (levels && balance > 0n) {
      const anew = reLevelled(
        this.terms,
        this.growths,
        this.point(stretch, at, balance, rate, charge.growth),
      );
      if (anew) this.settings.push(anew);
    }
  }

  private point(
    stretch: Stretch,
    at: number,
    balance: bigint,
    rate: number,
    growth?: PartGrowth,
  ): SettingPoint {
    return { stretch, stretchAt: this.stretchAt, at, balance, rate, firstGrowth: growth };
  }
}

import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { InterestBasis } from '../change/interest-basis.ts';
import type { Move } from '../change/move.ts';
import type { AccountRole } from '../entries/account-role.ts';
import type { Entry } from '../entries/entry.ts';
import type { ExplainStep } from '../explain/explanation.ts';
import type { Contract } from '../loan/plan/contract.ts';
import type { Ratio } from '../money/ratio.ts';
import type { Flow } from '../portfolio/flow.ts';
import type { Position, PositionFigure } from '../position/position-figures.ts';
import type { Proof } from '../proofs/proof.ts';

/**
 * What everything that is asked of instruments asks of one kind of them. There is one object for each kind; nothing
 * else looks at which kind an instrument is.
 */
export interface Kind<Terms, Of, At> {
  /** The schedule: a pure function of terms and events. Throws {@link TermsFault} for terms that contradict themselves. */
  build(terms: Terms): Of;
  /** What must be true of a schedule, worked out another way. */
  proofs(schedule: Of): Proof[];
  /** The day it begins. */
  firstDay(schedule: Of): CalendarDay;
  /** The day the last amount of the schedule is paid. */
  lastDay(schedule: Of): CalendarDay;
  rowCount(schedule: Of): number;
  /** The days of its rows, in order. */
  rowDays(schedule: Of): readonly CalendarDay[];
  /** Where it stands at the end of a day; all zero before it begins and after it ends. */
  position(schedule: Of, on: CalendarDay): At;
  /** What is booked by itself from one day to another, both included. */
  ownEntries(schedule: Of, from: CalendarDay, to: CalendarDay): (Entry | undefined)[];
  /** What a period end accrues, with what is amortized by then. */
  accrual(schedule: Of, end: CalendarDay): Entry | undefined;
  /**
   * Where its accounts stand after a period end, the accrual reversed: the sum of its entries, reached without making
   * them. Of what is owed without principal and current portion.
   */
  standing(schedule: Of, periodEnd: CalendarDay): (readonly [AccountRole, number])[];
}

/** A kind of instrument that is owed. Amounts in minor units. */
export interface DebtKind<Terms, Of> extends Kind<Terms, Of, Position> {
  /** The account of what is not due within a year. */
  readonly principalRole: AccountRole;
  /** Borrowed at the beginning, or the face. */
  principal(terms: Terms): number;
  /** What working it out comes to, in steps. */
  stepsToWorkOut(schedule: Of): number;
  /** What makes it dear to work out, in words; `undefined` where nothing does. */
  whyDear(schedule: Of): string | undefined;
  /** Principal or face outstanding at the end of a day. */
  owed(schedule: Of, on: CalendarDay): number;
  /** What is carried, and the interest accrued, at the end of a day: as {@link position} has them, by themselves. */
  carrying(schedule: Of, on: CalendarDay): number;
  accrued(schedule: Of, on: CalendarDay): number;
  /** What was borrowed and what each row moves, in order of the day. */
  flows(schedule: Of): readonly Flow[];
  /** What it asks for after a day, where more may be paid each time; `undefined` where nothing can be repaid early. */
  contract(schedule: Of, on: CalendarDay): Contract | undefined;
  /** Everything paid on it over its life. */
  paidInAll(schedule: Of): number;
  /** What the interest accrued at the end of a day was worked out over, without what was brought in accrued. */
  accruedBasis(schedule: Of, on: CalendarDay): InterestBasis;
  /** What the interest after one day to the end of another was worked out over. */
  interestBasis(schedule: Of, after: CalendarDay, through: CalendarDay): InterestBasis;
  /** Of the interest accrued at the end of a day what had accrued before it was taken on. Minor units. */
  broughtInAccrued(schedule: Of, on: CalendarDay): number;
  /** What happens after one day to the end of another; the amounts are all that moves what is owed. */
  moves(schedule: Of, after: CalendarDay, through: CalendarDay): readonly Move[];
  /** The annual rate that is agreed for a day. */
  rateOn(schedule: Of, on: CalendarDay): Ratio;
  /** Interest charged or accrued through a day, without amortization. */
  interestThrough(schedule: Of, on: CalendarDay): number;
  /** Discount and issue costs amortized through a day; a premium is negative. */
  amortizedThrough(schedule: Of, on: CalendarDay): number;
  /** Whether it can be called on any day. */
  onDemand(schedule: Of): boolean;
  /** As known on a day: the principal or face that falls due after it to the end of another. */
  fallingDue(schedule: Of, on: CalendarDay): (to: CalendarDay) => number;
  /** The first day by a day on which the rate had to be fixed and was not. */
  fixingMissing(schedule: Of, by: CalendarDay): CalendarDay | undefined;
  /** The day of the next instalment of the face after a day. */
  nextInstalment(schedule: Of, after: CalendarDay): CalendarDay | undefined;
  /** What the last payment leaves, to be renewed. */
  leftAtEnd(schedule: Of): number;
  /** Whether it was running already when the books took it on. */
  takenOn(terms: Terms): boolean;
  /** The entry that it begins with. */
  issue(schedule: Of): Entry | undefined;
  readonly explain: PositionWords<Of>;
}

/** Steps of what has accrued, and how their sum is rounded. */
export interface AccruedSteps {
  readonly steps: ExplainStep[];
  readonly unrounded?: string;
  readonly rounding?: string;
}

/** How the figures of a position come about, where kinds differ. */
export interface PositionWords<Of> {
  /** A balance: the row that leaves it, or the terms that state it. */
  balance(
    schedule: Of,
    on: CalendarDay,
    column: 'closing' | 'unpaid' | 'overpaid',
    amount: number,
  ): ExplainStep;
  accrued(schedule: Of, on: CalendarDay): AccruedSteps;
  /** The current portion where no presentation is stated. */
  current(schedule: Of, on: CalendarDay, at: Position): ExplainStep[];
  unamortized(schedule: Of, on: CalendarDay, at: Position, figure: PositionFigure): ExplainStep[];
}

import { addMonths, type CalendarDay } from '../calendar/calendar-day.ts';
import { compareRatios, ratioToNumber } from '../money/ratio.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { amortizedBetween } from '../position/amortized.ts';
import { classificationOn } from '../position/classification.ts';
import { moveReasons, type Move, type MoveReason } from './move.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { position } from '../position/position.ts';
import type { Position } from '../position/position-figures.ts';
import { averagesOf, reasonsOf, type Averages, type InterestBasis } from './interest-basis.ts';
import type { MinorUnits } from '../units/units.ts';

/** Why a figure of one month is another than that of the month before, in the order in which they are told. */
export const changeReasons = [
  /** Rate of the interest. */
  'rate',
  ...moveReasons,
  /** What interest is worked out on: what is owed. */
  'balance',
  /** More or fewer days, or what another month brings within a year. */
  'days',
  /** Discount, premium and costs amortized. */
  'amortized',
  /** Fee on what is not drawn. */
  'fee',
  /** Interest that fell due and was not paid, or was kept apart. */
  'arrears',
  /** A presentation that was stated, or is no more. */
  'presentation',
  'unexplained',
] as const;
export type ChangeReason = (typeof changeReasons)[number];

/** The figures of a month that are held against those of the month before. */
export const comparedFigures = ['accrued', 'expense', 'carrying', 'current'] as const;
export type ComparedFigure = (typeof comparedFigures)[number];

/** A part of a change and its reason; minor units. */
export interface ChangePart {
  readonly reason: ChangeReason;
  readonly amount: MinorUnits;
}

/** A figure of the month before and of this one, as known now, and why they differ. Minor units. */
export interface FigureChange {
  readonly before: MinorUnits;
  readonly now: MinorUnits;
  /** They sum to the change; none is zero. */
  readonly parts: readonly ChangePart[];
  /** What interest was worked out over, where it is interest. */
  readonly over?: readonly [before: Averages, now: Averages];
}

/** Why the figures of a month differ from those of the month before. */
export interface MonthChange extends Readonly<Record<ComparedFigure, FigureChange>> {
  /** What happened in the month, each once. */
  readonly happened: readonly MoveReason[];
  /** Whether all of that was agreed before: no draw, no extra, nothing late or short. */
  readonly undisturbed: boolean;
  /** The agreed annual rates before the month before began and as this one ends, where they are not the same. */
  readonly rates?: readonly [before: number, now: number];
}

/**
 * Holds a month of what is owed against the month before, both as known now, each figure with the reasons worked out:
 * what no reason covers is `unexplained`.
 *
 * @param end last day of the month
 *
 * @example
 * whyChanged(loan, day('2025-03-31')).expense.parts
 * // [ { reason: 'balance', amount: -79 }, { reason: 'days', amount: 6 } ]
 */
export function whyChanged(schedule: Schedule, end: CalendarDay): MonthChange {
  const last = addMonths(end, -1, true);
  const lastButOne = addMonths(end, -2, true);
  const [was, is] = [position(schedule, last), position(schedule, end)];
  const kind = debtKindOf(schedule);
  const moves = kind.moves(schedule, last, end);
  const rates = [kind.rateOn(schedule, lastButOne), kind.rateOn(schedule, end)] as const;
  return {
    accrued: accruedChange(schedule, was, is),
    expense: expenseChange(schedule, [lastButOne, last, end]),
    carrying: carryingChange(moves, was, is),
    current: currentChange(schedule, was, is),
    happened: moveReasons.filter((reason) => moves.some((move) => move.reason === reason)),
    undisturbed: moves.every(({ asAgreed }) => asAgreed),
    ...(compareRatios(...rates) !== 0 && { rates: [ratioToNumber(rates[0]), ratioToNumber(rates[1])] }),
  };
}

function accruedChange(schedule: Schedule, was: Position, is: Position): FigureChange {
  const kind = debtKindOf(schedule);
  const payable = (at: Position): number => at.accruedInterest + at.accruedFee + at.unpaidInterest;
  const bases = [kind.accruedBasis(schedule, was.on), kind.accruedBasis(schedule, is.on)] as const;
  const brought = kind.broughtInAccrued(schedule, is.on) - kind.broughtInAccrued(schedule, was.on);
  const interest = is.accruedInterest - was.accruedInterest - brought;
  const { parts, over } = interestParts(bases, interest);
  return figure(payable(was), payable(is), over, [
    ...parts,
    ['days', brought],
    ['fee', is.accruedFee - was.accruedFee],
    ['arrears', is.unpaidInterest - was.unpaidInterest],
  ]);
}

function expenseChange(
  schedule: Schedule,
  [lastButOne, last, end]: readonly [CalendarDay, CalendarDay, CalendarDay],
): FigureChange {
  const kind = debtKindOf(schedule);
  const [before, now] = [interestExpense(schedule, lastButOne, last), interestExpense(schedule, last, end)];
  const amortized = amortizedBetween(schedule, last, end) - amortizedBetween(schedule, lastButOne, last);
  const bases = [
    kind.interestBasis(schedule, lastButOne, last),
    kind.interestBasis(schedule, last, end),
  ] as const;
  const { parts, over } = interestParts(bases, now - before - amortized);
  return figure(before, now, over, [...parts, ['amortized', amortized]]);
}

/** What is carried moves by what flows and by what is amortized. */
function carryingChange(moves: readonly Move[], was: Position, is: Position): FigureChange {
  // Costs of what is not drawn are an asset; what a redemption writes off left with what was redeemed.
  const amortized = unamortized(was) - unamortized(is);
  return figure(was.carrying, is.carrying, undefined, [
    ...moves.map(({ reason, amount }) => [reason, amount] as const),
    ['amortized', amortized],
  ]);
}

function unamortized(at: Position): number {
  return at.unamortizedDiscount + at.unamortizedIssueCosts - at.unamortizedPremium;
}

/** What is due within a year: what a month more brings into it, and what was paid or agreed otherwise since. */
function currentChange(schedule: Schedule, was: Position, is: Position): FigureChange {
  const kind = debtKindOf(schedule);
  const change = is.current - was.current;
  const { events } = schedule.terms;
  if (classificationOn(events, was.on) || classificationOn(events, is.on)) {
    return figure(was.current, is.current, undefined, [['presentation', change]]);
  }
  const until = addMonths(was.on, 12, true);
  const dueNow = kind.fallingDue(schedule, is.on);
  const dueBefore = is.on > was.on && was.outstanding > 0 ? kind.fallingDue(schedule, was.on)(until) : 0;
  const days = dueNow(addMonths(is.on, 12, true)) - dueNow(until);
  const balance = dueNow(until) - dueBefore;
  // Of what is not amortized yet a share lies in what is due.
  const share = unamortized(was) === 0 && unamortized(is) === 0 ? 0 : change - days - balance;
  return figure(was.current, is.current, undefined, [
    ['balance', balance],
    ['days', days],
    ['amortized', share],
  ]);
}

type Amounts = readonly (readonly [ChangeReason, number])[];

/** Interest that changed, by its reasons in whole minor units; beyond what rounding explains it is left unexplained. */
function interestParts(
  [before, now]: readonly [InterestBasis, InterestBasis],
  change: number,
): { readonly parts: Amounts; readonly over: readonly [Averages, Averages] } {
  const reasons = reasonsOf(before, now);
  const over = [averagesOf(before), averagesOf(now)] as const;
  const rounded: [ChangeReason, number][] = [
    ['rate', Math.round(reasons.rate)],
    ['balance', Math.round(reasons.balance)],
    ['days', Math.round(reasons.days)],
  ];
  const left = change - rounded.reduce((sum, [, amount]) => sum + amount, 0);
  // Each of the three is rounded too.
  if (Math.abs(left) > before.rounding + now.rounding + 1.5) {
    return { parts: [...rounded, ['unexplained', left]], over };
  }
  const largest = rounded.reduce((one, other) => (Math.abs(other[1]) > Math.abs(one[1]) ? other : one));
  return {
    parts: rounded.map(([reason, amount]) => [reason, reason === largest[0] ? amount + left : amount]),
    over,
  };
}

/** A change by its reasons, those of one reason added up; what they do not sum to is unexplained. */
function figure(
  before: MinorUnits,
  now: MinorUnits,
  over: readonly [Averages, Averages] | undefined,
  amounts: Amounts,
): FigureChange {
  const explained = amounts.reduce((sum, [, amount]) => sum + amount, 0);
  const all: Amounts = [...amounts, ['unexplained', now - before - explained]];
  const parts = changeReasons
    .map((reason) => ({
      reason,
      amount: all.reduce((sum, [of, amount]) => (of === reason ? sum + amount : sum), 0),
    }))
    .filter(({ amount }) => amount !== 0);
  return { before, now, parts, ...(over && { over }) };
}

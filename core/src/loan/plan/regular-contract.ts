import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { interestStep } from '../../money/rounding.ts';
import { multiplier, roundedProduct, type Multiplier } from '../../money/rounded-product.ts';
import type { Ties } from '../../money/round-ratio.ts';
import { exactInterest } from '../interest/interest-segment.ts';
import { rowSegments } from '../interest/loan-interest.ts';
import { lastRowOn } from '../schedule/loan-schedule.ts';
import type { Contract } from './contract.ts';

/**
 * A contract whose interest on each due date is the balance times a growth: nothing is drawn, deferred or unpaid after
 * the plan's day. It can be followed without making a schedule, and comes to the same cents.
 */
export interface RegularContract {
  readonly balance: number;
  readonly ties: Ties;
  /** Minor units that interest is rounded to. */
  readonly step: number;
  readonly dues: readonly { readonly on: number; readonly asked: number; readonly growth: Multiplier }[];
}

/** What a regular contract comes to where payments are raised. Minor units. */
export interface Followed {
  /** Place of the due that clears it; −1 where something is left after the last one looked at. */
  readonly clearedBy: number;
  /** What is left after the last due looked at. */
  readonly left: number;
  readonly interest: number;
  readonly paid: number;
}

/** The contract as a regular one; `undefined` where it is not. */
export function regularContract({
  schedule,
  on,
  balance,
  unpaid,
  dues,
}: Contract): RegularContract | undefined {
  const { terms, length, date } = schedule;
  if (terms.creditLine || unpaid !== 0 || schedule.exact) return undefined;
  const first = lastRowOn(date, length, on) + 1;
  if (first + dues.length !== length) return undefined;
  const step = interestStep(terms);
  const followed: { on: number; asked: number; growth: Multiplier }[] = [];
  for (let row = first; row < length; row += 1) {
    const regular =
      schedule.chargedTo[row] === date[row] && schedule.unpaid[row] === 0 && schedule.added[row] === 0;
    const opening = schedule.opening[row] as number;
    if (!regular || opening === 0) return undefined;
    const segments = rowSegments(schedule, row);
    const owed = BigInt(opening);
    if (segments.some(({ balance: of }) => of.num !== owed * of.den)) return undefined;
    const interest = exactInterest(segments);
    const growth = multiplier({ num: interest.num, den: interest.den * owed * BigInt(step) });
    if (interest.num < 0n) return undefined;
    followed.push({ on: date[row] as number, asked: dues[row - first]?.amount ?? 0, growth });
  }
  if (first < length && schedule.opening[first] !== balance) return undefined;
  // Interest that had accrued before the loan was taken on is not the balance's.
  if (terms.takenOn && first === 0) return undefined;
  return { balance, ties: terms.rounding.ties, step, dues: followed };
}

/** Follows a regular contract where each payment is at least `level`, through so many dues; tells each payment. */
export function follow(
  contract: RegularContract,
  level: number,
  through: number,
  tell?: (on: CalendarDay, amount: number) => void,
): Followed {
  const { dues, ties, step } = contract;
  let balance = contract.balance;
  let [interest, paid] = [0, 0];
  for (let at = 0; at < through; at += 1) {
    const { on, asked, growth } = dues[at] as RegularContract['dues'][number];
    const charged = step * roundedProduct(balance, growth, ties);
    const owed = balance + charged;
    const payment = Math.min(Math.max(level, asked), owed);
    interest += charged;
    paid += payment;
    balance = owed - payment;
    tell?.(on, payment);
    if (balance === 0) return { clearedBy: at, left: 0, interest, paid };
  }
  return { clearedBy: -1, left: balance, interest, paid };
}

/** The same with each payment. */
export function followPayments(
  contract: RegularContract,
  level: number,
  through: number,
): Followed & { readonly payments: readonly { readonly on: CalendarDay; readonly amount: number }[] } {
  const payments: { on: CalendarDay; amount: number }[] = [];
  const followed = follow(contract, level, through, (on, amount) => payments.push({ on, amount }));
  return { ...followed, payments };
}

/** What is left after so many dues, and how that changes with the level, in doubles. */
export function estimatedLeft(
  { balance, dues, step }: RegularContract,
  level: number,
  through: number,
): { readonly left: number; readonly slope: number } {
  let [left, slope] = [balance, 0];
  for (let at = 0; at < through; at += 1) {
    const { asked, growth } = dues[at] as RegularContract['dues'][number];
    const grows = 1 + growth.estimate * step;
    left = left * grows - Math.max(level, asked);
    slope = slope * grows - (level >= asked ? 1 : 0);
  }
  return { left, slope };
}

import type Decimal from 'decimal.js';
import { Precise } from '../../money/precise.ts';
import { ratioToNumber, type Ratio } from '../../money/ratio.ts';
import { roundedPayment, type PaymentRounding } from '../../money/rounding.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** The growth of each period over which a balance is repaid, in order. */
export interface Growths {
  readonly count: Count;
  at(period: number): Ratio;
  /** The same as a double. */
  estimate(period: number): number;
  /** The period from which on each grows as it does, where that is known without asking for every one. */
  readonly evenFrom?: number;
}

/**
 * The same growth in every period.
 *
 * @example
 * evenGrowths(12, ratio(1n, 100n)).count // 12
 */
export function evenGrowths(count: Count, growth: Ratio): Growths {
  const estimate = ratioToNumber(growth);
  return { count, at: () => growth, estimate: () => estimate, evenFrom: 0 };
}

/** What a level payment repays besides its balance, or leaves. Minor units. */
export interface LevelledBesides {
  /** Interest that had accrued before the first period, paid with the first payment and earning none. */
  readonly broughtIn: MinorUnits;
  /** The balance agreed to be left after the last payment. */
  readonly balloon: MinorUnits | Decimal;
}

const nothingBesides: LevelledBesides = { broughtIn: 0, balloon: 0 };

/**
 * The payment that makes a balance zero, or leaves a balloon, after one payment per growth factor, in minor units,
 * unrounded.
 *
 * P = (B + A·1/(1+g₁) − L·Π 1/(1+gᵢ)) / Σ Π 1/(1+gᵢ), with A brought in and L left: the present value of an annuity with each period's own factor (Kellison, The
 * Theory of Interest, sections 3.2 and 6.2). 80 digits, so that what is rounded from it is right to the last unit.
 */
export function levelPaymentExact(
  balance: number | Decimal,
  growths: Growths,
  { broughtIn, balloon }: LevelledBesides = nothingBesides,
): Decimal {
  let owed = new Precise(balance);
  let discount = new Precise(1);
  let annuity = new Precise(0);
  const factorOf = new Map<Ratio, Decimal>();
  for (let period = 0; period < growths.count; period += 1) {
    const growth = growths.at(period);
    let factor = factorOf.get(growth);
    if (!factor) {
      factor = new Precise(growth.den.toString()).div((growth.num + growth.den).toString());
      factorOf.set(growth, factor);
    }
    discount = discount.times(factor);
    annuity = annuity.plus(discount);
    if (period === 0) owed = owed.plus(discount.times(broughtIn));
  }
  return owed.minus(discount.times(balloon)).div(annuity);
}

/** Present value of an annuity of one: (1 − (1+g)^−n) / g, in the form that loses no digits where g is small. */
function annuityFactor(growth: number, count: number): number {
  return growth === 0 ? count : -Math.expm1(-count * Math.log1p(growth)) / growth;
}

/** The same in doubles, with nothing besides: good to about one part in 10^12. */
function levelPaymentEstimate(balance: number | Decimal, growths: Growths): number {
  let discount = 1;
  let annuity = 0;
  let last = -1;
  let factor = 1;
  const even = Math.min(growths.evenFrom ?? growths.count, growths.count);
  for (let period = 0; period < even; period += 1) {
    const growth = growths.estimate(period);
    if (growth !== last) {
      factor = 1 / (1 + growth);
      last = growth;
    }
    discount *= factor;
    annuity += discount;
  }
  if (even < growths.count) annuity += discount * annuityFactor(growths.estimate(even), growths.count - even);
  return Number(balance) / annuity;
}

/**
 * The level payment rounded to a multiple of so many minor units, to the nearest or upward.
 * The estimate in doubles decides wherever it is clear of a rounding boundary by far more than its error;
 * only near a boundary, or for huge balances, is the exact payment computed.
 *
 * @example
 * levelPayment(100_000, evenGrowths(12, ratio(1n, 100n)), { step: 1, how: 'away-from-zero' }) // 8_885
 */
export function levelPayment(
  balance: number | Decimal,
  growths: Growths,
  rounding: PaymentRounding,
  besides: LevelledBesides = nothingBesides,
): number {
  const { step } = rounding;
  const upward = rounding.how === 'upward';
  // With a balloon the estimate would be a difference, and no longer good to so many digits.
  const plain = Number(besides.balloon) === 0 && besides.broughtIn === 0;
  const inSteps = plain ? levelPaymentEstimate(balance, growths) / step : Infinity;
  const boundary = upward ? inSteps : inSteps + 0.5;
  const distance = Math.abs(boundary - Math.round(boundary));
  if (distance > Math.max(1e-9, Math.abs(inSteps) * 1e-11) && inSteps < 2 ** 45) {
    return (upward ? Math.ceil(inSteps) : Math.round(inSteps)) * step;
  }
  const payment = roundedPayment(rounding, levelPaymentExact(balance, growths, besides));
  if (!Number.isSafeInteger(payment)) {
    throw new TermsFault('amount', 'The level payment is too large to be kept exactly.');
  }
  return payment;
}

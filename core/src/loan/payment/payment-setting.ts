import { grainsOf, interestStep, paymentRounding } from '../../money/rounding.ts';
import type { Decimal } from 'decimal.js';
import { formatAmount } from '../../money/amount-text.ts';
import { Precise } from '../../money/precise.ts';
import { ratio } from '../../money/ratio.ts';
import { roundedProduct } from '../../money/rounded-product.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import type { PartGrowth } from '../interest/interest-segment.ts';
import { levelPayment, levelPaymentExact, type Growths, type LevelledBesides } from './level-payment.ts';
import type { PaymentSetting } from '../schedule/loan-schedule.ts';
import { type LoanTerms } from '../terms/loan-terms.ts';
import type { PeriodGrowth, PeriodGrowths } from '../interest/period-growths.ts';
import type { Stretch } from '../terms/stretch.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** Where in a loan's life a payment is set. */
export interface SettingPoint {
  readonly stretch: Stretch;
  /** Place of the stretch among the stretches. */
  readonly stretchAt: number;
  /** Place of the payment in the stretch. */
  readonly at: number;
  /** Grains. */
  readonly balance: bigint;
  /** Place among the rates of the one in force. */
  readonly rate: number;
  readonly firstGrowth: PartGrowth | undefined;
  /** Grains of interest accrued before the loan was taken on, paid with this payment. */
  readonly broughtIn: bigint;
}

/** The growths that a level payment is solved over: the first as stated, then whole periods at one rate. */
export function settingGrowths(growths: PeriodGrowths, point: SettingPoint, count: Count): Growths {
  const { stretch, at, rate, firstGrowth } = point;
  const growth = (period: number): Pick<PeriodGrowth, 'exact' | 'estimate'> =>
    period === 0 && firstGrowth ? firstGrowth : growths.at(stretch, at + period, rate);
  const even = growths.evenFrom(stretch);
  return {
    count,
    at: (period) => growth(period).exact(),
    estimate: (period) => growth(period).estimate,
    ...(even !== undefined && { evenFrom: Math.max(firstGrowth ? 1 : 0, even - at) }),
  };
}

/**
 * The payment of a stretch as it begins. Throws {@link TermsFault} for a payment that does not cover the first
 * interest and would never repay.
 */
export function firstSetting(terms: LoanTerms, growths: PeriodGrowths, point: SettingPoint): PaymentSetting {
  const { phase } = point.stretch;
  const grains = grainsOf(terms);
  const set = (kind: PaymentSetting['kind'], amount: bigint, over = 0): PaymentSetting => ({
    kind,
    anew: false,
    stretch: point.stretchAt,
    at: point.at,
    amount,
    balance: point.balance,
    over,
    rate: point.rate,
    firstGrowth: point.firstGrowth,
    broughtIn: point.broughtIn,
  });
  switch (phase.type) {
    case 'interest-only':
      return set('interest', 0n);
    case 'no-payment':
      return set('none', 0n);
    case 'custom':
      return set('listed', 0n);
    case 'equal-principal':
      if (phase.principal !== undefined) return set('principal', BigInt(phase.principal) * grains);
      return set('principal', inParts(terms, point.balance, phase.count), phase.count);
    case 'level':
      if (phase.payment === undefined) {
        refuseLargeBalloon(terms, point);
        return set('level', levelAmount(terms, growths, point, phase.amortizeOver), phase.amortizeOver);
      }
      // What is not covered joins the balance, and a later stretch or a stated balloon may repay it.
      if (point.stretch.phaseAt >= terms.phases.length - 1 && phase.balloon === undefined) {
        refuseTooSmall(terms, growths, point, phase.payment);
      }
      return set('agreed', BigInt(phase.payment) * grains, phase.amortizeOver);
    case 'fixed':
      // What rises may begin below the interest; whether it ever clears the loan is seen as it goes.
      if (phase.count === undefined && !phase.rises) refuseTooSmall(terms, growths, point, phase.payment);
      return set('agreed', BigInt(phase.payment) * grains, phase.count ?? 0);
  }
}

/** The payment levelled anew over what remains of a stretch; `undefined` where it has none to level. */
export function reLevelled(
  terms: LoanTerms,
  growths: PeriodGrowths,
  point: SettingPoint,
): PaymentSetting | undefined {
  const { phase } = point.stretch;
  // What is agreed as an amount stays as agreed: fixed payments, stated principal.
  const levels =
    phase.type === 'level' || (phase.type === 'equal-principal' && phase.principal === undefined);
  if (!levels) return undefined;
  const over = (phase.type === 'level' ? phase.amortizeOver : phase.count) - point.at;
  if (over <= 0) return undefined;
  const equal = phase.type === 'equal-principal';
  return {
    kind: equal ? 'principal' : 'level',
    anew: true,
    stretch: point.stretchAt,
    at: point.at,
    amount: equal ? inParts(terms, point.balance, over) : levelAmount(terms, growths, point, over),
    balance: point.balance,
    over,
    rate: point.rate,
    firstGrowth: point.firstGrowth,
    broughtIn: point.broughtIn,
  };
}

/** The level payment in grains, rounded once as the terms say. */
function levelAmount(terms: LoanTerms, growths: PeriodGrowths, point: SettingPoint, over: number): bigint {
  const grains = grainsOf(terms);
  const each = settingGrowths(growths, point, over);
  const balance = grains === 1n ? Number(point.balance) : decimalMinor(point.balance, grains);
  const besides = besidesOf(terms, point);
  if (terms.rounding.payment === 'none') {
    return BigInt(levelPaymentExact(balance, each, besides).times(grains.toString()).toFixed(0));
  }
  return BigInt(levelPayment(balance, each, paymentRounding(terms, 'payment'), besides)) * grains;
}

/** What is repaid besides the balance by a payment set at a point of the loan's life, or left. */
function besidesOf(terms: LoanTerms, point: SettingPoint): LevelledBesides {
  return {
    broughtIn: Number(point.broughtIn / grainsOf(terms)),
    balloon: balloonOf(terms, point),
  };
}

/** What a level payment leaves after the last of its stretch, in minor units; never more than the balance. */
function balloonOf(terms: LoanTerms, { stretch, balance }: SettingPoint): number | Decimal {
  const { phase } = stretch;
  if (phase.type !== 'level' || phase.balloon === undefined) return 0;
  const grains = grainsOf(terms);
  return BigInt(phase.balloon) * grains <= balance ? phase.balloon : decimalMinor(balance, grains);
}

function refuseLargeBalloon(terms: LoanTerms, { stretch, balance }: SettingPoint): void {
  const { phase, phaseAt } = stretch;
  if (phase.type !== 'level' || phase.balloon === undefined) return;
  const owed = balance / grainsOf(terms);
  if (BigInt(phase.balloon) <= owed) return;
  throw new TermsFault(
    `payments.phases.${phaseAt}.balloon`,
    `A balloon of ${formatAmount(phase.balloon, terms.digits)} is more than is owed as the stretch begins; ` +
      `it may be at most ${formatAmount(Number(owed), terms.digits)}.`,
  );
}

/** A balance in equal parts, rounded as payments are. */
function inParts(terms: LoanTerms, balance: bigint, parts: number): bigint {
  const grains = grainsOf(terms);
  const { payment, ties } = terms.rounding;
  if (payment === 'none') return roundRatio(ratio(balance, BigInt(parts)), ties);
  const { step, how } = paymentRounding(terms, 'payment');
  const exact = ratio(balance, BigInt(parts) * grains * BigInt(step));
  const steps = how === 'upward' ? (exact.num + exact.den - 1n) / exact.den : roundRatio(exact, how);
  return steps * BigInt(step) * grains;
}

/**
 * A payment that covers no more than the first interest, nor than that of the period after it where the first is a long
 * one, repays nothing, however often it is made.
 */
function refuseTooSmall(
  terms: LoanTerms,
  growths: PeriodGrowths,
  { stretch, at, balance, rate }: SettingPoint,
  payment: MinorUnits,
): void {
  const owed = Number(balance / grainsOf(terms));
  const growth = growths.at(stretch, at, rate).toSteps;
  const interest = roundedProduct(owed, growth, terms.rounding.ties) * interestStep(terms);
  // What is not covered joins the balance: P repays something of it from (B + I)·g/(1 + g) up.
  const after = growths.at(stretch, at + 1, rate).exact();
  const then = (BigInt(owed + interest) * after.num) / (after.num + after.den);
  const least = Math.min(interest, Number(then)) + 1;
  if (payment >= least) return;
  const money = (minor: number): string => formatAmount(minor, terms.digits);
  const covers =
    payment === interest ? 'is all interest' : `does not cover the first interest of ${money(interest)}`;
  throw new TermsFault(
    `payments.phases.${stretch.phaseAt}.payment`,
    `A payment of ${money(payment)} ${covers} and would never repay the loan; the least that repays something is ` +
      `${money(least)}.`,
  );
}

/** Grains as a decimal of minor units. */
export function decimalMinor(amount: bigint, grains: bigint): Decimal {
  return new Precise(amount.toString()).div(grains.toString());
}

function pointOf(stretches: readonly Stretch[], setting: PaymentSetting): SettingPoint {
  const { stretch, at, balance, rate, firstGrowth, broughtIn } = setting;
  const named = stretches[stretch] as Stretch;
  return { stretch: named, stretchAt: stretch, at, balance, rate, firstGrowth, broughtIn };
}

/** What a level payment repays besides its balance, or leaves. */
export function levelledBesides(
  terms: LoanTerms,
  stretches: readonly Stretch[],
  setting: PaymentSetting,
): LevelledBesides {
  return besidesOf(terms, pointOf(stretches, setting));
}

/**
 * The unrounded amount of a level payment, in currency units, to 30 digits.
 *
 * @example
 * unroundedPayment(loan.terms, new PeriodGrowths(loan.terms, loan.rates), loan.stretches, loan.settings[0]).slice(0, 8)
 * // '88.84878'
 */
export function unroundedPayment(
  terms: LoanTerms,
  growths: PeriodGrowths,
  stretches: readonly Stretch[],
  setting: PaymentSetting,
): string {
  const point = pointOf(stretches, setting);
  const balance = decimalMinor(setting.balance, grainsOf(terms));
  const exact = levelPaymentExact(
    balance,
    settingGrowths(growths, point, setting.over),
    besidesOf(terms, point),
  );
  return exact
    .div(10 ** terms.digits)
    .toSignificantDigits(30)
    .toFixed();
}

import Decimal from 'decimal.js';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import { addRatios, multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import type { BondTerms } from '../terms/bond-terms.ts';
import type { ContractualFlow } from '../terms/contractual-flows.ts';
import { couponsPerYear, yearsWithin } from '../terms/coupon-periods.ts';

/** Decimals with 60 digits, for prices and yields. */
export const PreciseDecimal = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_UP });

/** What of a bond's terms its price depends on besides its payments. */
export type PricedTerms = Pick<BondTerms, 'every' | 'dayCount' | 'couponRate'>;

/** An exact ratio as a 60-digit decimal. */
export function decimalOf(value: Ratio): Decimal {
  return new PreciseDecimal(value.num.toString()).div(value.den.toString());
}

/** A decimal as the exact ratio that it is. */
export function exactDecimal(value: Decimal): Ratio {
  const places = Math.max(0, value.decimalPlaces());
  return ratio(BigInt(value.times(`1e${places}`).toFixed(0)), 10n ** BigInt(places));
}

/** What a price is made of, per 1 of face. */
export interface PriceParts {
  readonly dirty: Decimal;
  readonly accrued: Decimal;
  readonly clean: Decimal;
}

/** Growth over `years` at a yield compounded `perYear` times: (1 + y/m)^(m·t); exact where m·t is 1. */
export function periodGrowth(yearly: Decimal, perYear: number, years: Fraction): Decimal {
  const base = yearly.div(perYear).plus(1);
  if (years.num * perYear === years.den) return base;
  return base.pow(new PreciseDecimal(years.num).times(perYear).div(years.den));
}

/** Coupon that has accrued in its period on a day, exact, per 1 of face. */
export function accruedCoupon(terms: PricedTerms, flow: ContractualFlow, on: CalendarDay): Ratio {
  if (on <= flow.period.from) return ratio(0n);
  const { num, den } = yearsWithin(terms, flow.period, flow.period.from, on);
  return multiplyRatios(multiplyRatios(terms.couponRate, ratio(BigInt(num), BigInt(den))), flow.outstanding);
}

/** A payment still to come: years after the one before (or the day of the price), and how much, per 1 of face. */
export interface PaymentAhead {
  readonly ahead: Fraction;
  readonly amount: Decimal;
}

/** A bond priced on one day at any yields: what does not change with the yield is worked out once. */
export class BondPricing {
  readonly accrued: Decimal;
  /** Coupons a year, so often a yield compounds. */
  readonly perYear: number;
  readonly payments: readonly PaymentAhead[];

  constructor(terms: PricedTerms, flows: readonly ContractualFlow[], on: CalendarDay) {
    this.perYear = couponsPerYear(terms);
    const remaining = flows.filter(({ period }) => period.to > on);
    this.payments = remaining.map(({ period, coupon, principal }) => ({
      ahead: yearsWithin(terms, period, Math.max(on, period.from), period.to),
      amount: decimalOf(addRatios(coupon, principal)),
    }));
    const first = remaining[0];
    this.accrued = first ? decimalOf(accruedCoupon(terms, first, on)) : new PreciseDecimal(0);
  }

  /** Price with accrued coupon, per 1 of face, at a yield per year above −perYear. */
  dirty(yearly: Decimal): Decimal {
    const discounts = new Map<number, Decimal>();
    let value = new PreciseDecimal(0);
    // From the last payment back, what is worth something then is discounted over the stretch before it.
    for (const { ahead, amount } of this.payments.toReversed()) {
      const key = ahead.num / ahead.den;
      let discount = discounts.get(key);
      if (!discount) {
        discount = new PreciseDecimal(1).div(periodGrowth(yearly, this.perYear, ahead));
        discounts.set(key, discount);
      }
      value = value.plus(amount).times(discount);
    }
    return value;
  }
}

/**
 * Price from yield on a day: the present value of the remaining payments, compounded at the coupon frequency, times
 * counted by the bond's day count and a broken first period compounded too (street convention: ICMA Rule Book,
 * rule 803; Fabozzi, Bond Markets, chapter 2).
 *
 * @param yearly yield per year as a fraction, above −perYear
 */
export function priceFromYield(
  terms: PricedTerms,
  flows: readonly ContractualFlow[],
  yearly: Decimal,
  on: CalendarDay,
): PriceParts {
  const pricing = new BondPricing(terms, flows, on);
  const dirty = pricing.dirty(yearly);
  return { dirty, accrued: pricing.accrued, clean: dirty.minus(pricing.accrued) };
}

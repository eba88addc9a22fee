import type Decimal from 'decimal.js';
import { factsByKey } from '../../facts/facts.ts';
import { multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import {
  accruedCoupon,
  decimalOf,
  exactDecimal,
  periodGrowth,
  PreciseDecimal,
  priceFromYield,
} from './bond-price.ts';
import type { BondTerms } from '../terms/bond-terms.ts';
import type { ContractualFlow } from '../terms/contractual-flows.ts';
import { couponsPerYear, yearsWithin } from '../terms/coupon-periods.ts';
import { yieldFromPrice } from './yield-from-price.ts';

/** The highest price there is, per 1 of face: a thousand percent. */
const highestPrice = 10;

/** A bond's price at issue and the rates that follow from it, per year, compounded at the coupon frequency. */
export interface BondRates {
  /** Clean, per 1 of face. */
  readonly price: Decimal;
  /** What the price implies, or the stated yield: a discount or premium is amortized at it. */
  readonly ofPrice: Decimal;
  /** What interest expense runs at: the same, or the rate of the proceeds net of issue costs. */
  readonly effective: Decimal;
  /** What the price at `ofPrice` misses the price paid by, per 1 of face. */
  readonly residual: Decimal;
}

/** Whether issue costs are amortized in the effective rate. */
export function costsInRate(terms: BondTerms): boolean {
  return terms.issueCosts?.method === 'effective' && terms.issueCosts.amount > 0;
}

/** Rates by the terms they follow from: solving them is most of the work of a schedule, and terms never change. */
const solved = factsByKey<BondTerms, BondRates>();

/**
 * Price and rates at issue (ASC 835-30-35-2; IFRS 9 Appendix A, effective interest rate). Throws {@link TermsFault}
 * for a price that no yield gives and a yield that gives no price.
 */
export function bondRates(terms: BondTerms, flows: readonly ContractualFlow[]): BondRates {
  return solved(terms, 'rates', () => solveRates(terms, flows));
}

function solveRates(terms: BondTerms, flows: readonly ContractualFlow[]): BondRates {
  const { marketYield, issued, issueCosts } = terms;
  if (!terms.price && !marketYield) {
    throw new TermsFault('price', 'Give the price of the bond, or its yield; the other is worked out.');
  }
  const atYield = marketYield && pricedAt(terms, flows, decimalOf(marketYield));
  const price = terms.price ? decimalOf(terms.price.ofFace) : (atYield as Decimal);
  const first = flows[0];
  const accrued = first ? decimalOf(accruedCoupon(terms, first, issued)) : new PreciseDecimal(0);
  const byYield = terms.effectiveRate === 'yield' && marketYield && atYield;
  const found = byYield
    ? { yearly: decimalOf(marketYield), residual: atYield.minus(price) }
    : yieldFromPrice(terms, flows, price.plus(accrued), issued);
  if (byYield && terms.price) refuseApart(terms, flows, price, decimalOf(marketYield));
  const net = price.plus(accrued).minus(new PreciseDecimal(issueCosts?.amount ?? 0).div(terms.face));
  if (net.lte(0)) {
    throw new TermsFault(
      'issueCosts.amount',
      'The issue costs leave nothing of the proceeds; check the amount.',
    );
  }
  if (!costsInRate(terms)) {
    return { price, ofPrice: found.yearly, effective: found.yearly, residual: found.residual };
  }
  const effective = yieldFromPrice(terms, flows, net, issued).yearly;
  return { price, ofPrice: found.yearly, effective, residual: found.residual };
}

/**
 * Price and yield that are both stated must belong together, as far as the last decimal of each was rounded or cut: what
 * they differ by beyond that would be charged to the last period.
 */
function refuseApart(
  terms: BondTerms,
  flows: readonly ContractualFlow[],
  price: Decimal,
  yearly: Decimal,
): void {
  const unit = (decimals: number): Decimal => new PreciseDecimal(`1e-${decimals + 2}`);
  // A yield of 9% is taken as 9.00%: yields are quoted to hundredths of a percent or finer.
  const ofYield = unit(Math.max(2, terms.yieldDecimals ?? 2));
  const ofPrice = unit(terms.price?.decimals ?? 12);
  const highest = priceFromYield(terms, flows, yearly.minus(ofYield), terms.issued).clean.plus(ofPrice);
  const lowest = priceFromYield(terms, flows, yearly.plus(ofYield), terms.issued).clean.minus(ofPrice);
  if (price.gte(lowest) && price.lte(highest)) return;
  const percent = (of: Decimal): string => of.times(100).toDecimalPlaces(6).toFixed();
  const { clean } = priceFromYield(terms, flows, yearly, terms.issued);
  throw new TermsFault(
    'price',
    `At a yield of ${percent(yearly)}% the price is ${percent(clean)}, not ${percent(price)}: the two do not belong ` +
      'together. Leave one of them out and it is worked out, or have the effective rate follow from the price.',
  );
}

function pricedAt(terms: BondTerms, flows: readonly ContractualFlow[], yearly: Decimal): Decimal {
  const perYear = couponsPerYear(terms);
  const percent = `${yearly.times(100).toSignificantDigits(6).toFixed()}%`;
  if (yearly.lte(-perYear)) {
    throw new TermsFault(
      'yield',
      `There is no price at a yield of ${percent}; it must be above -${perYear * 100}%.`,
    );
  }
  const { clean } = priceFromYield(terms, flows, yearly, terms.issued);
  if (clean.lte(0) || clean.gt(highestPrice)) {
    throw new TermsFault(
      'yield',
      `At a yield of ${percent} the price would be ${clean.times(100).toSignificantDigits(6).toFixed()} percent of ` +
        'face; a price is above 0 and at most 1000. Check the yield and the dates.',
    );
  }
  return clean;
}

/**
 * The rate of what is left of a coupon period at issue or at its beginning: y/m exactly for a stated yield over a
 * whole period, else (1 + y/m)^(m·t) − 1.
 */
export function periodRate(
  terms: BondTerms,
  { period }: Pick<ContractualFlow, 'period'>,
  yearly: Decimal,
): Ratio {
  const perYear = couponsPerYear(terms);
  const from = Math.max(period.from, terms.issued);
  const years = yearsWithin(terms, period, from, period.to);
  const stated = terms.effectiveRate === 'yield' ? terms.marketYield : undefined;
  if (years.num * perYear === years.den && stated && decimalOf(stated).eq(yearly)) {
    return multiplyRatios(stated, ratio(1n, BigInt(perYear)));
  }
  return exactDecimal(periodGrowth(yearly, perYear, years).minus(1));
}

import { exactMinor, toGrains } from '../../money/rounding.ts';
import { factsByKey } from '../../facts/facts.ts';
import { addRatios, multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import type { BondRates } from '../price/bond-rates.ts';
import { costsInRate, periodRate } from '../price/bond-rates.ts';
import type { BondTerms } from '../terms/bond-terms.ts';
import type { ContractualFlow } from '../terms/contractual-flows.ts';
import { couponsPerYear, yearsWithin } from '../terms/coupon-periods.ts';

/** What a bond is carried at, in grains. */
export interface Carried {
  readonly face: bigint;
  /** Discount left to amortize; a premium is negative. */
  readonly discount: bigint;
  /** Issue costs left to amortize. */
  readonly costs: bigint;
  /** Coupon sold with the bond that no coupon has settled yet. */
  readonly received: bigint;
}

/** The amounts of one coupon period, or of what is left of it at issue, in grains. */
export interface PeriodAmounts {
  readonly coupon: bigint;
  /** Minor units, before rounding. */
  readonly exactCoupon: Ratio;
  /** Interest expense before rounding, minor units. */
  readonly exactExpense: Ratio;
  readonly discount: bigint;
  readonly costs: bigint;
}

/** Where equal amounts are counted from: the issue, or the last redemption before maturity. */
export interface EvenBase {
  readonly from: number;
  readonly carried: Carried;
}

/** Face less discount and costs. */
export function carryingOf({ face, discount, costs }: Carried): bigint {
  return face - discount - costs;
}

/** Rates of periods by the rates of the bond, which are solved once for its terms. */
const periodRates = factsByKey<BondRates, Ratio>();

/**
 * Shares discount (or premium) and issue costs out to the coupon periods.
 *
 * Effective interest (ASC 835-30-35-2; IFRS 9 B5.4.1): expense is what is owed at the opening × the period's rate,
 * rounded once, and amortization is expense less coupon. Issue costs inside the rate: the discount follows the rate
 * of the price, all of it together the rate net of costs, and the costs what lies between the two. Coupon sold with
 * the bond is owed too, so it bears interest until the first coupon. Straight-line: equal amounts a period, an odd
 * one by its length, weighted by the face outstanding where it falls due by instalments (bonds-outstanding method;
 * Kieso, Weygandt and Warfield, Intermediate Accounting, chapter 14). The last period takes what is left. A bond sold at face
 * amortizes nothing: what a day count makes of one period more than of another is coupon, not discount.
 */
export class BondAmortization {
  private readonly weights: readonly Ratio[];
  /** Weights of a period and all after it. */
  private readonly weightsLeft: readonly Ratio[];

  constructor(
    private readonly terms: BondTerms,
    private readonly flows: readonly ContractualFlow[],
    private readonly of: BondRates,
    private readonly atPar: boolean,
  ) {
    this.weights = flows.map((flow) => weightOf(terms, flow));
    const left = [ratio(0n)];
    for (const weight of [...this.weights].reverse()) left.unshift(addRatios(weight, left[0] as Ratio));
    this.weightsLeft = left;
  }

  /**
   * The amounts of a period.
   *
   * @param at its place among the flows
   * @param carried at its beginning
   */
  ofPeriod(at: number, carried: Carried, even: EvenBase): PeriodAmounts {
    const { terms } = this;
    const { years } = (this.flows[at] as ContractualFlow).period;
    const yearly = multiplyRatios(terms.couponRate, ratio(BigInt(years.num), BigInt(years.den)));
    const exactCoupon = multiplyRatios(exactMinor(terms, carried.face), yearly);
    const coupon = toGrains(terms, exactCoupon);
    const exactExpense = this.exactExpense(at, carried, even, coupon);
    if (at === this.flows.length - 1) {
      return { coupon, exactCoupon, exactExpense, discount: carried.discount, costs: carried.costs };
    }
    const discount = this.discountOf(at, carried, even, coupon);
    const costs = this.costsOf(at, carried, even, coupon, discount);
    return { coupon, exactCoupon, exactExpense, discount, costs };
  }

  private discountOf(at: number, carried: Carried, even: EvenBase, coupon: bigint): bigint {
    if (this.atPar) return 0n;
    if (this.terms.method === 'straight-line')
      return this.rounded(this.evenPart(at, even.from, even.carried.discount));
    const expense = this.owed(at, { ...carried, costs: 0n }, this.of.ofPrice);
    return this.rounded(expense) - (coupon - carried.received);
  }

  private costsOf(at: number, carried: Carried, even: EvenBase, coupon: bigint, discount: bigint): bigint {
    if (carried.costs === 0n) return 0n;
    if (!costsInRate(this.terms)) return this.rounded(this.evenPart(at, even.from, even.carried.costs));
    const expense = this.owed(at, carried, this.of.effective);
    return this.rounded(expense) - (coupon - carried.received) - discount;
  }

  private rounded(exact: Ratio): bigint {
    return toGrains(this.terms, exact);
  }

  /** What is owed × the rate of a period, unrounded. */
  private owed(at: number, carried: Carried, yearly: BondRates['effective']): Ratio {
    const owed = exactMinor(this.terms, carryingOf(carried) + carried.received);
    return multiplyRatios(owed, this.rate(at, yearly));
  }

  private rate(at: number, yearly: BondRates['effective']): Ratio {
    const flow = this.flows[at] as ContractualFlow;
    const broken = flow.period.from < this.terms.issued;
    const key = `${broken}/${flow.period.years.num}/${flow.period.years.den}/${yearly === this.of.effective}`;
    return periodRates(this.of, key, () => periodRate(this.terms, flow, yearly));
  }

  private exactExpense(at: number, carried: Carried, even: EvenBase, coupon: bigint): Ratio {
    const inRate = costsInRate(this.terms);
    if (inRate) return this.owed(at, carried, this.of.effective);
    const costs = this.evenPart(at, even.from, even.carried.costs);
    if (this.terms.method === 'effective' && !this.atPar) {
      return addRatios(this.owed(at, { ...carried, costs: 0n }, this.of.ofPrice), costs);
    }
    const ofCoupon = exactMinor(this.terms, coupon - carried.received);
    return addRatios(addRatios(ofCoupon, this.evenPart(at, even.from, even.carried.discount)), costs);
  }

  /** A period's equal share of an amount, unrounded, minor units. */
  private evenPart(at: number, from: number, amount: bigint): Ratio {
    const all = this.weightsLeft[from] as Ratio;
    if (all.num === 0n) return ratio(0n);
    const part = multiplyRatios(this.weights[at] as Ratio, ratio(all.den, all.num));
    return multiplyRatios(exactMinor(this.terms, amount), part);
  }
}

/** A period's weight among equal ones: 1, or its length where it is odd or broken, × the share outstanding. */
function weightOf(terms: BondTerms, { period, outstanding }: ContractualFlow): Ratio {
  const { evenYears } = period;
  const regular = ratio(BigInt(evenYears.num * couponsPerYear(terms)), BigInt(evenYears.den));
  const weight = multiplyRatios(regular, outstanding);
  if (period.from >= terms.issued) return weight;
  const left = yearsWithin(terms, period, terms.issued, period.to);
  const share = ratio(BigInt(left.num * period.years.den), BigInt(left.den * period.years.num));
  return multiplyRatios(weight, share);
}

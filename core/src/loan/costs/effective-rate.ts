import type { Fraction } from '../../calendar/fraction.ts';
import {
  fixedDecimal,
  fixedExp,
  fixedOne,
  fixedProduct,
  fixedQuotient,
  type Fixed,
} from '../../money/fixed-point.ts';
import { Precise } from '../../money/precise.ts';
import { fallingRoot, type ValueAndSlope } from '../../search/falling-root.ts';

/** An amount paid, and the years since the payment before. */
export interface CashFlow {
  readonly years: Fraction;
  /** Minor units. */
  readonly amount: Fixed;
  /** What the agreed interest alone grows one to over those years, where a rate over it is sought. */
  readonly agreed?: Fixed;
}

/** Steps from a root in doubles to one of many digits; a step this small is the last. */
const mostPolishing = 12;
const polished = fixedOne >> 90n;

/** The forces of interest that are looked at: from −99 % a year to over a million percent. */
const looked = { lowest: -5, highest: 10, start: 0 };

/** A rate found, and what it makes of one over shares of a year. */
export interface EffectiveGrowth {
  /** Annual, as a fraction. */
  readonly rate: Fixed;
  readonly over: (years: Fraction) => Fixed;
}

/**
 * The annual rate y, as a fraction, at which payments are worth what is carried: each discounted by (1+y)^years to the
 * day, and where flows state it by what the agreed interest makes of one, y then being the rate over that. Found in
 * doubles, then polished to more than forty digits as the force of interest, ln(1+y). `undefined` where no rate from
 * −99 % to a million percent a year does it. Source: IFRS 9 Appendix A, effective interest rate; ASC 310-20-35-18.
 *
 * @param carrying zero or less has no rate
 * @param flows none of them below zero
 */
export function solveEffectiveRate(carrying: Fixed, flows: readonly CashFlow[]): EffectiveGrowth | undefined {
  const found = estimated(carrying, flows);
  if (!found) return undefined;
  const perSlope = fixedDecimal(new Precise(1).div(found.slope));
  let force = fixedDecimal(new Precise(found.root));
  for (let step = 0; step < mostPolishing; step += 1) {
    const change = fixedProduct(worth(flows, growthAt(-force)) - carrying, perSlope);
    force -= change;
    if ((change < 0n ? -change : change) < polished) break;
  }
  return { rate: fixedExp(force) - fixedOne, over: growthAt(force) };
}

/** Growth of one over shares of a year at a force of interest; each share is worked out once. */
function growthAt(force: Fixed): (years: Fraction) => Fixed {
  const known = new Map<number, Map<number, Fixed>>();
  return ({ num, den }) => {
    let ofDen = known.get(den);
    if (!ofDen) known.set(den, (ofDen = new Map<number, Fixed>()));
    let growth = ofDen.get(num);
    if (growth === undefined) ofDen.set(num, (growth = fixedExp((force * BigInt(num)) / BigInt(den))));
    return growth;
  };
}

/** What flows are worth before the first of them. */
function worth(flows: readonly CashFlow[], discountOver: (years: Fraction) => Fixed): Fixed {
  let discount = fixedOne;
  let sum = 0n;
  for (const { years, amount, agreed } of flows) {
    discount = fixedProduct(discount, discountOver(years));
    if (agreed !== undefined) discount = fixedQuotient(discount, agreed);
    sum += fixedProduct(amount, discount);
  }
  return sum;
}

/** The force of interest in doubles, and what the worth of the flows moves by with it: it falls as the force rises. */
function estimated(carrying: Fixed, flows: readonly CashFlow[]): { root: number; slope: number } | undefined {
  let time = 0;
  let agreedBy = 0;
  const plain = flows.map(({ years, amount, agreed }) => {
    time += years.num / years.den;
    agreedBy += agreed === undefined ? 0 : Math.log(toNumber(agreed));
    return { time, agreedBy, amount: toNumber(amount) };
  });
  const at = (force: number): ValueAndSlope => {
    let [value, slope] = [0, 0];
    for (const flow of plain) {
      const discounted = flow.amount * Math.exp(-force * flow.time - flow.agreedBy);
      value += discounted;
      slope -= discounted * flow.time;
    }
    return { value, slope };
  };
  return fallingRoot(at, toNumber(carrying), looked);
}

function toNumber(value: Fixed): number {
  return Number(value) / Number(fixedOne);
}

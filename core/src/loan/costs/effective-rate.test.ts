import Decimal from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fixedOf, fixedOne, type Fixed } from '../../money/fixed-point.ts';
import { solveEffectiveRate, type CashFlow } from './effective-rate.ts';

const Long = Decimal.clone({ precision: 80 });
const decimal = (value: Fixed): Decimal => new Long(value.toString()).div(fixedOne.toString());
/** A fraction in 2^200 parts. */
const fixed = (value: Decimal): Fixed => BigInt(value.times(fixedOne.toString()).toFixed(0));

interface Paid {
  readonly months: number;
  readonly amount: number;
  /** What is agreed over the time before it, in percent. */
  readonly agreed?: number;
}
const flowsOf = (paid: readonly Paid[]): CashFlow[] =>
  paid.map(({ months, amount, agreed }) => ({
    years: { num: months, den: 12 },
    amount: fixedOf(amount),
    ...(agreed !== undefined && { agreed: fixed(new Long(agreed).div(100).plus(1)) }),
  }));

/** What is paid, each discounted to the start at an annual rate, in decimals of eighty digits. */
function presentValue(paid: readonly Paid[], rate: Decimal): Decimal {
  let [sum, discount] = [new Long(0), new Long(1)];
  for (const { months, amount, agreed = 0 } of paid) {
    const years = new Long(months).div(12);
    discount = discount.div(rate.plus(1).pow(years)).div(new Long(agreed).div(100).plus(1));
    sum = sum.plus(discount.times(amount));
  }
  return sum;
}

const months = fc.integer({ min: 0, max: 36 });
const amount = fc.integer({ min: 1, max: 10 ** 9 });
const payments = (agreed: fc.Arbitrary<number | undefined>): fc.Arbitrary<Paid[]> =>
  fc.array(
    fc.tuple(months, amount, agreed).map(([time, sum, part]) => ({
      months: time,
      amount: sum,
      ...(part !== undefined && { agreed: part }),
    })),
    { minLength: 1, maxLength: 30 },
  );
const annual = fc.integer({ min: -900, max: 200_000 }).map((thousandths) => new Long(thousandths).div(1000));

describe('the rate at which payments are worth what is carried', () => {
  // IFRS 9 Appendix A: the rate that exactly discounts them to it. One of a hundred percent halves what is due in a year.
  it('is found to thirty-five decimals, and grows one as it says', () => {
    const agreed = fc.option(fc.integer({ min: 0, max: 60 }), { nil: undefined });
    fc.assert(
      fc.property(fc.oneof(payments(fc.constant(undefined)), payments(agreed)), annual, (paid, rate) => {
        fc.pre(paid.some((each) => each.months > 0));
        const carrying = presentValue(paid, rate);
        fc.pre(carrying.gt(1) && carrying.lt('1e40'));
        const found = solveEffectiveRate(fixed(carrying), flowsOf(paid));
        if (!found) throw new Error(`none for ${rate.toString()}`);
        const off = decimal(found.rate).minus(rate).div(rate.plus(1)).abs();
        // What is carried is itself cut to its two hundred binary places, sixty decimals.
        expect(off.toNumber()).toBeLessThan(1e-36);
        const threeMonths = decimal(found.over({ num: 3, den: 12 }));
        expect(threeMonths.div(rate.plus(1).pow('0.25')).minus(1).abs().toNumber()).toBeLessThan(1e-36);
      }),
    );
  });

  it('is one hundred percent where half is carried of what is due in a year, and none over what is agreed', () => {
    const rateOf = (carrying: number, paid: readonly Paid[]): string | undefined => {
      const found = solveEffectiveRate(fixedOf(carrying), flowsOf(paid));
      return found && decimal(found.rate).toDecimalPlaces(25).toFixed();
    };
    expect(rateOf(500, [{ months: 12, amount: 1_000 }])).toBe('1');
    expect(rateOf(1_000, [{ months: 12, amount: 1_000 }])).toBe('0');
    expect(rateOf(1_000, [{ months: 12, amount: 1_060, agreed: 6 }])).toBe('0');
    // Twice over half a year is four times over a year.
    expect(rateOf(500, [{ months: 6, amount: 1_000 }])).toBe('3');
  });

  it('is not there where what is carried is beyond what any rate looked at makes of the payments', () => {
    const paid = flowsOf([{ months: 12, amount: 1_000 }]);
    // From −99 % to a million percent a year: 1,000 in a year is worth from some 0.05 to some 150,000.
    for (const carrying of [140_000, 1]) expect(solveEffectiveRate(fixedOf(carrying), paid)).toBeDefined();
    for (const carrying of [150_000n * fixedOne, fixedOne / 25n]) {
      expect(solveEffectiveRate(carrying, paid)).toBeUndefined();
    }
    // Paid at once, nothing moves with the rate.
    expect(solveEffectiveRate(fixedOf(900), flowsOf([{ months: 0, amount: 1_000 }]))).toBeUndefined();
  });
});

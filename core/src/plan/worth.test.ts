import { describe, expect, it } from 'vitest';
import { incomeNeeded } from './income-needed.ts';
import { presentValue, rateOfNoValue } from './present-value.ts';

describe('what amounts are worth', () => {
  it('is discounted by days over 365', () => {
    // Handbook arithmetic: 1,100 in 365 days is worth 1,000 at 10 %.
    expect(presentValue([{ on: 365, amount: 1_100 }], 0, 0.1)).toBeCloseTo(1_000, 9);
    expect(
      rateOfNoValue(
        [
          { on: 0, amount: -1_000 },
          { on: 365, amount: 1_100 },
        ],
        0,
      ),
    ).toBeCloseTo(0.1, 9);
    expect(
      rateOfNoValue(
        [
          { on: 0, amount: 1_000 },
          { on: 365, amount: 1_100 },
        ],
        0,
      ),
    ).toBeUndefined();
  });
});

describe('income needed', () => {
  const question = { outlays: 100, taxRate: 0.25 };
  // Common practice: what is not deductible is earned before tax takes its part.
  it.each([
    [{ outlaysDeductible: false, interestDeductible: false }, (12_000 + 1_200) / 0.75],
    [{ outlaysDeductible: false, interestDeductible: true }, (12_000 - 3_000 + 1_200) / 0.75 + 3_000],
    [{ outlaysDeductible: true, interestDeductible: true }, (12_000 - 3_000) / 0.75 + 3_000 + 1_200],
  ])('follows what is deductible: %j', (deductible, needed) => {
    expect(incomeNeeded({ ...question, ...deductible }, 12_000, 3_000)).toBeCloseTo(needed, 9);
  });
});

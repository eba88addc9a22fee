import type { MinorUnits } from '../units/units.ts';

/** What is asked of income. Amounts in minor units. */
export interface IncomeQuestion {
  /** Fixed outlays of a month. */
  readonly outlays: MinorUnits;
  readonly outlaysDeductible: boolean;
  /** As a fraction, below 1. */
  readonly taxRate: number;
  readonly interestDeductible: boolean;
}

/**
 * Yearly income before tax that pays the debt and fixed outlays, minor units, unrounded: what is not deductible is paid
 * out of what tax leaves. Source: common practice.
 *
 * @param service of the debt in a year
 * @param interest in it
 *
 * @example
 * incomeNeeded({ outlays: 0, outlaysDeductible: false, taxRate: 0.25, interestDeductible: false }, 120_000, 20_000)
 * // 160_000
 */
export function incomeNeeded(
  { outlays, outlaysDeductible, taxRate, interestDeductible }: IncomeQuestion,
  service: MinorUnits,
  interest: MinorUnits,
): MinorUnits {
  const before = (interestDeductible ? interest : 0) + (outlaysDeductible ? 12 * outlays : 0);
  const after = service + 12 * outlays - before;
  return after / (1 - taxRate) + before;
}

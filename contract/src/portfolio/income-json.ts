import {
  addMonths,
  formatAmount,
  incomeNeeded,
  type MinorUnits,
  monthEnd,
  type PlannedRow,
} from '@coffer/core';
import type { PublishedIncome } from './published-plan.ts';
import type { ReadPlan } from './read-plan.ts';

/** Interest of the rows of the twelve months after a day. Minor units. */
export function firstYearsInterest(
  members: readonly { readonly rows: readonly PlannedRow[] }[],
  on: number,
): MinorUnits {
  const last = addMonths(on, 12, on === monthEnd(on));
  const rows = members.flatMap((member) => member.rows.filter((row) => row.on > on && row.on <= last));
  return rows.reduce((sum, row) => sum + row.interest, 0);
}

/**
 * What a plan asks of income; nothing where that is not asked.
 *
 * @param service what is paid in a year, minor units
 * @param interest in it
 */
export function incomeJson(
  { document, income, members }: ReadPlan,
  service: MinorUnits,
  interest: MinorUnits,
): PublishedIncome | undefined {
  if (!income) return undefined;
  const { outlaysDeductible = false, taxRate = '0%', interestDeductible = false } = document.income ?? {};
  const question = {
    outlays: income.outlays,
    outlaysDeductible,
    taxRate: Number.parseFloat(taxRate) / 100,
    interestDeductible,
  };
  const digits = members[0]?.schedule.terms.digits ?? 2;
  return {
    needed: formatAmount(Math.round(incomeNeeded(question, service, interest)), digits),
    ...(income.operatingCash !== undefined && { coverage: (income.operatingCash / service).toFixed(2) }),
  };
}

import { interestStep, paymentRounding } from '../../money/rounding.ts';
import type { PaymentSetting } from '../schedule/loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { Stretch } from '../terms/stretch.ts';
import type { MinorUnits } from '../../units/units.ts';

/**
 * The most that rounding leaves after the last of the payments that were solved to repay a balance: half a step of each
 * payment and of its interest, grown to the end (value of an annuity). None where they were not solved to repay all of it
 * with the last payment of a stretch.
 *
 * @param growth interest of the last period per unit of its balance
 */
export function mostRoundingLeaves(
  terms: LoanTerms,
  { phase, agreedCount }: Stretch,
  { kind, at, over }: PaymentSetting,
  growth: number,
): MinorUnits {
  const solved = kind === 'level' || (kind === 'principal' && over > 0);
  const leaves = phase.type === 'level' && phase.balloon !== undefined;
  if (!solved || leaves || over !== agreedCount - at) return 0;
  const each = (paymentRounding(terms, 'payment').step + interestStep(terms)) / 2;
  return Math.ceil(each * (growth === 0 ? over : ((1 + growth) ** over - 1) / growth));
}

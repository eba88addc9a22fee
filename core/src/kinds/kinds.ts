import { bondKind } from '../bond/bond-kind.ts';
import { creditLineKind } from '../credit-line/credit-line-kind.ts';
import { fundKind } from '../fund/fund-kind.ts';
import type { FundPosition } from '../fund/fund-position.ts';
import { loanKind } from '../loan/loan-kind.ts';
import type { Position } from '../position/position-figures.ts';
import type { DebtKind, Kind } from './kind.ts';
import type { AnySchedule, AnyTerms, Instrument, Schedule } from './schedules.ts';

/** Every kind of what is owed, by the name that terms and schedules carry. */
export const debtKinds: Readonly<Record<Instrument['kind'], DebtKind<Instrument, Schedule>>> = {
  loan: loanKind,
  'credit-line': creditLineKind,
  bond: bondKind,
};

const allKinds: Readonly<Record<AnySchedule['kind'], Kind<AnyTerms, AnySchedule, Position | FundPosition>>> =
  { ...debtKinds, fund: fundKind };

/**
 * Whether a schedule is of something owed.
 *
 * @example
 * isDebt(fund) // false
 */
export function isDebt(schedule: AnySchedule): schedule is Schedule {
  return schedule.kind in debtKinds;
}

/**
 * The kind of what is owed.
 *
 * @example
 * debtKindOf(loan) === debtKindOf(bond) // false
 */
export function debtKindOf({ kind }: Pick<Instrument, 'kind'>): DebtKind<Instrument, Schedule> {
  return debtKinds[kind];
}

/**
 * The kind of any schedule.
 *
 * @example
 * kindOf(loan) === kindOf(fund) // false
 */
export function kindOf({ kind }: Pick<AnySchedule, 'kind'>): (typeof allKinds)[AnySchedule['kind']] {
  return allKinds[kind];
}

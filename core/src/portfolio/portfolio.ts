import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { position } from '../position/position.ts';
import { exactProof, type Proof } from '../proofs/proof.ts';
import type { Flow } from './flow.ts';
import { flowsOf } from './flows-of.ts';
import type { PortfolioPeriod } from './portfolio-periods.ts';
import type { MinorUnits } from '../units/units.ts';

/** What a portfolio can be looked at for: balances at the end of each period, then what flows in it. */
export const portfolioMeasures = [
  'closing',
  'carrying',
  'accrued',
  'current',
  'payment',
  'interest',
  'expense',
  'principal',
] as const;
export type PortfolioMeasure = (typeof portfolioMeasures)[number];

type FlowKey = Exclude<keyof Flow, 'on'>;

const columnOf = { payment: 'paid', interest: 'interest', principal: 'principal' } as const;

/**
 * One measure of an instrument in each period, minor units: balances at its end, flows of its days.
 *
 * @example
 * portfolioValues(loan, portfolioPeriods('quarter', day('2025-01-01'), day('2025-12-31')), 'closing')
 * // [ 84_151, 59_779, 34_668, 8_796 ]
 */
export function portfolioValues(
  schedule: Schedule,
  periods: readonly PortfolioPeriod[],
  measure: PortfolioMeasure,
): MinorUnits[] {
  switch (measure) {
    case 'closing':
      return periods.map(({ to }) => debtKindOf(schedule).owed(schedule, to));
    case 'carrying':
    case 'accrued':
      // What is current takes the contract as known on each day, which neither of these needs.
      return periods.map(({ to }) => debtKindOf(schedule)[measure](schedule, to));
    case 'current':
      return periods.map(({ to }) => position(schedule, to).current);
    case 'expense':
      return periods.map(({ from, to }) => interestExpense(schedule, from - 1, to));
    case 'payment':
    case 'interest':
    case 'principal':
      return flowing(schedule, periods, columnOf[measure]);
  }
}

/** The sums of a column of flows over each period, minor units. */
function flowing(schedule: Schedule, periods: readonly PortfolioPeriod[], column: FlowKey): MinorUnits[] {
  const sums = periods.map(() => 0);
  let at = 0;
  for (const flow of flowsOf(schedule)) {
    while (at < periods.length && flow.on > (periods[at] as PortfolioPeriod).to) at += 1;
    if (at === periods.length) break;
    if (flow.on >= (periods[at] as PortfolioPeriod).from) sums[at] = (sums[at] as number) + flow[column];
  }
  return sums;
}

/** How what is owed moves over periods. Minor units. */
export interface Movement {
  readonly opening: MinorUnits;
  readonly drawn: MinorUnits;
  readonly added: MinorUnits;
  readonly principal: MinorUnits;
  readonly closing: MinorUnits;
}

/**
 * How what is owed on an instrument moves from the beginning of the first period to the end of the last.
 *
 * @example
 * movementOver(loan, portfolioPeriods('year', day('2025-01-01'), day('2025-12-31'))).principal // 91_204
 */
export function movementOver(schedule: Schedule, periods: readonly PortfolioPeriod[]): Movement {
  const owed = (on: CalendarDay): number => debtKindOf(schedule).owed(schedule, on);
  const sum = (column: FlowKey): number =>
    flowing(schedule, periods, column).reduce((total, amount) => total + amount, 0);
  const [first, last] = [periods[0], periods.at(-1)];
  return {
    opening: first ? owed(first.from - 1) : 0,
    drawn: sum('drawn'),
    added: sum('added'),
    principal: sum('principal'),
    closing: last ? owed(last.to) : 0,
  };
}

/**
 * That movements lead from the opening to the closing balance; several are added up.
 *
 * @example
 * movementProof('All', []).holds // true
 */
export function movementProof(name: string, movements: readonly Movement[]): Proof {
  const off = movements.reduce(
    (sum, { opening, drawn, added, principal, closing }) =>
      sum + opening + drawn + added - principal - closing,
    0,
  );
  return exactProof(name, off);
}

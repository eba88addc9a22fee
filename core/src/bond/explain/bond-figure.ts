import type { ExplainStep } from '../../explain/explanation.ts';
import type { BondRow } from '../schedule/bond-schedule.ts';
import type { Count } from '../../units/units.ts';

/** The columns of a bond's schedule that hold amounts. */
export type BondFigure =
  | 'opening'
  | 'coupon'
  | 'received'
  | 'expense'
  | 'amortization'
  | 'costsAmortized'
  | 'retired'
  | 'paid'
  | 'gain'
  | 'unamortized'
  | 'closing';

/** A figure of the row, leading to where it stands. */
export function bondCell(row: BondRow, index: Count, column: BondFigure, label: string): ExplainStep {
  return { label, amount: row[column], link: { to: 'row', row: index, column } };
}

import type { CloseCheck } from '../api/close-views.ts';
import { showAmount, showMovement } from './show.ts';

const names: Readonly<Record<CloseCheck['of'], string>> = {
  'interest-payable': 'Interest payable',
  funds: 'Held to repay debt',
  expense: 'Expense',
  'current-portion': 'Current portion moved',
};

/** A check of the close as it is told. */
export interface ToldCheck {
  readonly name: string;
  readonly holds: boolean;
  /** The figure over the instruments, what closed months bring besides, and by how much the journal is off. */
  readonly text: string;
}

/** Tells a check: what the journal holds must be what the instruments say, and what closed months bring. */
export function toldCheck(
  { of, instruments, opening, fromClosed, leftOut, difference }: CloseCheck,
  digits: number,
): ToldCheck {
  const own = showAmount(instruments, digits);
  const opened = opening === 0 ? '' : `, ${showMovement(opening, digits)} from opening balances`;
  const closed = fromClosed === 0 ? '' : `, ${showMovement(fromClosed, digits)} from closed months`;
  const left = leftOut === 0 ? '' : `, ${showMovement(-leftOut, digits)} left out`;
  const off = difference === 0 ? '' : `; the journal is off by ${showMovement(difference, digits)}`;
  return { name: names[of], holds: difference === 0, text: `${own}${opened}${closed}${left}${off}` };
}

import type { MinorUnits } from '@coffer/core';
import {
  showAmount,
  showMovement,
  type PortfolioView,
  type TriedRow,
  type TriedRows,
} from '@coffer/contract';

/** What a scenario changes, beside the portfolio as it is. */
export interface TriedChanges {
  readonly tried: TriedRows;
  readonly before: PortfolioView;
  /** What stands under a changed line: what was changed, and what comes of it. */
  readonly note: (row: TriedRow) => string;
}

/** What can be done about a changed instrument. */
export const noteActs = [
  { key: 'open', text: 'Open the schedule' },
  { key: 'erase', text: 'Give back' },
] as const;

/** By how much sums are others than they were, as the cells of a line; nothing where they are the same. */
export function differenceCells(
  sums: readonly number[],
  before: readonly number[],
  { periods }: PortfolioView,
  digits: number,
): Record<string, string> {
  const signed = (minor: MinorUnits): string =>
    minor > 0 ? `+${showAmount(minor, digits)}` : showMovement(minor, digits);
  return {
    name: 'Against as it is',
    ...Object.fromEntries(periods.map(({ to }, at) => [to, signed((sums[at] ?? 0) - (before[at] ?? 0))])),
  };
}

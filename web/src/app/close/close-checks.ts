import type { AccountRole, EntryKind } from '@coffer/core';
import type { CloseView } from '@coffer/contract';
import type { CloseSums } from './close-rows';

/** A figure of the close added up two ways: over the instruments, and over the entries. */
export interface CloseCheck {
  readonly name: string;
  readonly figure: number;
  /** What the entries say less what the instruments say; zero when they agree. */
  readonly difference: number;
}

/** Kinds that bring balances of earlier months, and so are no part of the month's own expense. */
const ofEarlierMonths: readonly EntryKind[] = ['opening', 'correction'];

/** Interest payable, expense and current portion of a month, each added up two ways. */
export function closeChecks(view: CloseView, sums: CloseSums): CloseCheck[] {
  const net = (role: AccountRole, counts: (kind: EntryKind) => boolean): number =>
    view.sums
      .filter(({ kind }) => counts(kind))
      .flatMap(({ lines }) => lines)
      .filter((line) => line.role === role)
      .reduce((total, line) => total + line.debit - line.credit, 0);
  const check = (name: string, figure: number, entries: number): CloseCheck => ({
    name,
    figure,
    difference: entries - figure,
  });
  const ofMonth = (kind: EntryKind): boolean => !ofEarlierMonths.includes(kind);
  return [
    check('Interest payable', sums.payable, view.interestPayable),
    check('Expense', sums.expense, net('interest-expense', ofMonth)),
    check(
      'Current portion moved',
      sums.currentChange,
      0 - net('current-portion', (kind) => kind === 'current-portion'),
    ),
  ];
}

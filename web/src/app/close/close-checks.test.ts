import type { AccountRole, EntryKind } from '@coffer/core';
import type { CloseRow, CloseView } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { closeChecks } from './close-checks';
import { closeSums } from './close-rows';

const figures = {
  outstanding: 1000_00,
  accruedInterest: 21_00,
  accruedFee: 5_00,
  deferredInterest: 0,
  deferredCosts: 0,
  unpaidInterest: 4_00,
  unamortizedDiscount: 0,
  unamortizedPremium: 0,
  unamortizedIssueCosts: 0,
  carrying: 1000_00,
  current: 120_00,
  nonCurrent: 880_00,
};
const row: CloseRow = {
  id: 'a',
  name: 'Loan',
  version: 1,
  figures,
  expense: 51_00,
  amortized: 0,
  currentChange: 10_00,
};

const sum = (kind: EntryKind, ...lines: [AccountRole, number][]): CloseView['sums'][number] => ({
  kind,
  count: 1,
  lines: lines.map(([role, amount]) => ({
    role,
    code: '',
    account: role,
    debit: Math.max(0, amount),
    credit: Math.max(0, -amount),
  })),
});

/** A month that reverses 25.00, pays 50.00 of interest and accrues 26.00: expense 51.00. */
const month = (accrued: number): CloseView => ({
  endsOn: '2026-10-31',
  state: 'open',
  accruals: 'reversed',
  interestPayable: accrued + 4_00,
  closedAt: null,
  closedBy: null,
  rows: [row],
  sums: [
    sum('correction', ['interest-expense', 7_00], ['cash', -7_00]),
    sum('reversal', ['interest-payable', 25_00], ['interest-expense', -25_00]),
    sum('payment', ['interest-expense', 50_00], ['loan-payable', 30_00], ['cash', -80_00]),
    sum('accrual', ['interest-expense', accrued], ['interest-payable', -accrued]),
    sum('current-portion', ['loan-payable', 10_00], ['current-portion', -10_00]),
  ],
  entryCount: 5,
  draftCount: 4,
  reversalCount: 1,
  debits: 0,
  credits: 0,
  payments: { due: 1, recorded: 1 },
  unrecorded: [],
  unworkable: [],
});
const differences = (view: CloseView): number[] =>
  closeChecks(view, closeSums(view)).map(({ difference }) => difference);

// Common practice: expense of a month is what was paid, plus what has accrued, less what had accrued before.
describe('the checks of a close', () => {
  it('hold when the entries say what the instruments say, corrections of earlier months apart', () => {
    expect(differences(month(26_00))).toEqual([0, 0, 0]);
  });

  it('fail by the amount that an entry is off', () => {
    expect(differences(month(26_01))).toEqual([1, 1, 0]);
  });
});

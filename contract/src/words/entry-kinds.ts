import type { EntryKind } from '@coffer/core';

/** What entries of a kind are called together. */
export const entryKindNames: Readonly<Record<EntryKind, string>> = {
  opening: 'Balances brought in',
  correction: 'Corrections of closed months',
  reversal: 'Reversals of last month’s accruals',
  issue: 'Borrowed and issued',
  payment: 'Payments',
  coupon: 'Coupons',
  redemption: 'Redeemed',
  accrual: 'Accrued and amortized',
  transfer: 'Moved to another account',
  'current-portion': 'Current portion moved',
};

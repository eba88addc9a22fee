import type { AccountRole } from '@coffer/core';

const names: Readonly<Partial<Record<AccountRole, string>>> = {
  cash: 'Cash',
  asset: 'Asset purchased',
  'loan-payable': 'Loan payable',
  'bonds-payable': 'Bonds payable',
  'bond-discount': 'Discount on bonds payable',
  'bond-premium': 'Premium on bonds payable',
};

/** The trade's name of an account of an issue entry that no company's chart has named yet. */
export function accountName(role: AccountRole): string {
  return names[role] ?? role;
}

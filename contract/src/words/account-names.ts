import type { AccountRole } from '@coffer/core';

const names: Readonly<Record<AccountRole, string>> = {
  cash: 'Cash',
  'loan-payable': 'Loan payable',
  'bonds-payable': 'Bonds payable',
  'current-portion': 'Current portion',
  'bond-discount': 'Discount on bonds payable',
  'bond-premium': 'Premium on bonds payable',
  'issue-costs': 'Issue costs',
  'deferred-costs': 'Deferred costs of credit lines',
  overpayment: 'Overpaid to lenders',
  'interest-payable': 'Interest payable',
  'interest-expense': 'Interest expense',
  'interest-income': 'Interest income',
  'sinking-fund': 'Sinking fund',
  asset: 'Asset purchased',
  'construction-in-progress': 'Construction in progress',
  fees: 'Fees',
  'redemption-gain-loss': 'Gain or loss on redemption',
  'opening-balances': 'Opening balances',
};

/** The trade's name of an account, where no company's chart has named it yet. */
export function accountName(role: AccountRole): string {
  return names[role];
}

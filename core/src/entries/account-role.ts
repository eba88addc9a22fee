/**
 * What an account is for; a company maps each role to an account of its own. `opening-balances` is the other
 * side of what an instrument stood at when the books began; an instrument by itself never touches it.
 */
export const accountRoles = [
  'cash',
  'loan-payable',
  'bonds-payable',
  'current-portion',
  'bond-discount',
  'bond-premium',
  'issue-costs',
  'deferred-costs',
  'overpayment',
  'interest-payable',
  'interest-expense',
  'interest-income',
  'sinking-fund',
  'asset',
  'construction-in-progress',
  'fees',
  'redemption-gain-loss',
  'opening-balances',
] as const;

export type AccountRole = (typeof accountRoles)[number];

/** The roles that stand in the income statement; the rest stand in the balance sheet. */
export const incomeRoles: ReadonlySet<AccountRole> = new Set([
  'interest-expense',
  'interest-income',
  'fees',
  'redemption-gain-loss',
]);

/** Where an account of a role stands: in the balance sheet as an asset or as a liability with what is set against it, in the income statement, or as what the books began with. */
export type AccountKind = 'asset' | 'liability' | 'income' | 'opening';

/** The kind of account that each role asks for. Source: the elements of financial statements, IASB Conceptual Framework, 4.1. */
export const accountKinds: Readonly<Record<AccountRole, AccountKind>> = {
  cash: 'asset',
  'loan-payable': 'liability',
  'bonds-payable': 'liability',
  'current-portion': 'liability',
  'bond-discount': 'liability',
  'bond-premium': 'liability',
  'issue-costs': 'liability',
  'deferred-costs': 'asset',
  overpayment: 'asset',
  'interest-payable': 'liability',
  'interest-expense': 'income',
  'interest-income': 'income',
  'sinking-fund': 'asset',
  asset: 'asset',
  'construction-in-progress': 'asset',
  fees: 'income',
  'redemption-gain-loss': 'income',
  'opening-balances': 'opening',
};

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

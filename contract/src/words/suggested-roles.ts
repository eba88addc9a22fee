import type { AccountRole } from '@coffer/core';

/** The roles that a word of an account's name suggests; what comes first counts. */
const suggestive: readonly (readonly [AccountRole, RegExp])[] = [
  ['current-portion', /current (portion|part|maturit)|short[- ]term part/i],
  ['interest-payable', /(interest.*(payable|accrued)|accrued interest)/i],
  ['interest-expense', /interest (expense|paid|charge)/i],
  ['interest-income', /interest (income|receiv|earned)/i],
  ['bond-discount', /discount/i],
  ['bond-premium', /premium/i],
  ['issue-costs', /(issue|issuance|debt) costs?/i],
  ['deferred-costs', /deferred (financing |loan )?costs?/i],
  ['bonds-payable', /bonds? payable|bonds? issued/i],
  ['loan-payable', /(loans?|notes?|long[- ]term debt|bank debt).*(payable)?/i],
  ['cash', /cash|bank account|current account/i],
  ['sinking-fund', /sinking fund|restricted (cash|fund)/i],
  ['construction-in-progress', /construction/i],
  ['asset', /plant|equipment|property/i],
  ['overpayment', /overpaid|prepayments? to lenders|other receivable/i],
  ['fees', /(financing|bank|loan) (fees?|charges?)/i],
  ['redemption-gain-loss', /(gain|loss).*(redemption|extinguish)/i],
  ['opening-balances', /opening/i],
];

/** The roles that the name of an account suggests, the likeliest first; none where it says nothing. */
export function suggestedRoles(name: string): AccountRole[] {
  return suggestive.filter(([, shape]) => shape.test(name)).map(([role]) => role);
}

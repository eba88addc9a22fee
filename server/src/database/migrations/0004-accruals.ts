/**
 * What becomes of a month's accruals: reversed as the next month opens, or left standing and cleared by the payment.
 * Months closed before there was a choice reversed them.
 */
export const accruals = /* sql */ `
alter table period add column accruals text not null default 'reversed'
  check (accruals in ('reversed', 'standing'));
`;

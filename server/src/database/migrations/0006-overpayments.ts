/**
 * What was paid to a lender beyond all that was owed stands in an account of its own until it comes back. Positions
 * reported before had none; companies from before get an account for it.
 */
export const overpayments = /* sql */ `
alter table reported_position add column overpaid minor_units not null default 0;
insert into account (company_id, role, code, name)
  select id, 'overpayment', '1240', 'Overpaid to lenders' from company
  where exists (select from account where company_id = company.id)
    and not exists (select from account where company_id = company.id and role = 'overpayment');
`;

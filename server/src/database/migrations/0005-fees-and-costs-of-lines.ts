/**
 * What a credit line has of its own: the fee on the unused part accrued, and costs deferred as an asset, amortized over
 * its term. Positions reported before had neither; companies from before get an account for the asset.
 */
export const feesAndCostsOfLines = /* sql */ `
alter table reported_position add column accrued_fee minor_units not null default 0;
alter table reported_position add column deferred_costs minor_units not null default 0;
alter table reported_position add column deferred_interest minor_units not null default 0;
insert into account (company_id, role, code, name)
  select id, 'deferred-costs', '1830', 'Deferred costs of credit lines' from company
  where exists (select from account where company_id = company.id)
    and not exists (select from account where company_id = company.id and role = 'deferred-costs');
`;

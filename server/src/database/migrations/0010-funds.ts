/** Funds that repay debts: instruments of their own kind, with what closed months reported of them. */
export const funds = /* sql */ `
alter table instrument add column kind text not null default 'debt';
alter table instrument alter column kind drop default;
alter table instrument add constraint instrument_kind_check check (kind in ('debt', 'fund'));

create table reported_fund (
  company_id int not null,
  period_end date not null,
  instrument_id uuid not null references instrument,
  instrument_version int not null,
  balance minor_units not null,
  accrued_interest minor_units not null,
  deposited minor_units not null,
  earned minor_units not null,
  to_goal minor_units not null,
  primary key (company_id, period_end, instrument_id),
  foreign key (company_id, period_end) references period (company_id, ends_on),
  foreign key (instrument_id, instrument_version) references instrument_version (instrument_id, version)
);
create trigger reported_fund_period_open after insert on reported_fund
  referencing new table as added for each statement execute function period_must_be_open();
create trigger reported_fund_append_only before update or delete on reported_fund
  for each row execute function reject_change();
create trigger reported_fund_no_truncate before truncate on reported_fund execute function reject_change();
`;

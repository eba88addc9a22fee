/**
 * Accruals that a close did not book because they are too small to matter, line by line; and what of the month before it
 * charged therefore.
 */
export const leftOut = /* sql */ `
create table left_out (
  company_id int not null,
  period_end date not null,
  instrument_id uuid not null references instrument,
  -- Left out of this month; or left out of the month before, and charged in this one.
  made_good boolean not null,
  role text not null,
  -- As the accrual would have moved the account, debits positive.
  amount minor_units not null check (amount <> 0),
  primary key (company_id, period_end, instrument_id, made_good, role),
  foreign key (company_id, period_end) references period (company_id, ends_on)
);
create trigger left_out_period_open after insert on left_out
  referencing new table as added for each statement execute function period_must_be_open();
create trigger left_out_append_only before update or delete on left_out
  for each row execute function reject_change();
create trigger left_out_no_truncate before truncate on left_out execute function reject_change();
grant select, insert on left_out to coffer;
`;

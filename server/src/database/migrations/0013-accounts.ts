/**
 * A chart of accounts: a role has a default account, an instrument may have its own for any role, and a cost centre.
 * Posted lines keep the code that they were posted with, and no account that one stands in goes away. What the ledger
 * held on the day before the books is kept beside it, so that what is brought in can be tied to it.
 */
export const accounts = /* sql */ `
alter table entry_line drop constraint entry_line_company_id_role_fkey;
alter table account rename to account_of_role;
alter table account_of_role rename constraint account_pkey to account_of_role_pkey;
alter table account_of_role drop constraint account_code_check, drop constraint account_name_check;

create table account (
  company_id int not null references company,
  code text not null check (code <> ''),
  name text not null check (name <> ''),
  primary key (company_id, code)
);
insert into account (company_id, code, name)
  select distinct on (company_id, code) company_id, code, name from account_of_role order by company_id, code, role;
alter table account_of_role drop column name,
  add foreign key (company_id, code) references account (company_id, code);

alter table company add column accounts_revision int not null default 1;

create table account_of_instrument (
  company_id int not null,
  instrument_id uuid not null references instrument,
  role text not null,
  code text not null,
  primary key (instrument_id, role),
  foreign key (company_id, code) references account (company_id, code)
);
alter table instrument add column cost_centre text check (cost_centre <> '');

alter table entry add column cost_centre text;
alter table entry_line add column account_code text;
alter table entry_line disable trigger entry_line_append_only;
update entry_line set account_code = of_role.code from account_of_role of_role
  where of_role.company_id = entry_line.company_id and of_role.role = entry_line.role;
alter table entry_line enable trigger entry_line_append_only;
alter table entry_line alter column account_code set not null,
  add foreign key (company_id, account_code) references account (company_id, code);
create index entry_line_by_account on entry_line (company_id, account_code);

create table ledger_balance (
  company_id int not null,
  code text not null,
  balance minor_units not null,
  primary key (company_id, code),
  foreign key (company_id, code) references account (company_id, code)
);
`;

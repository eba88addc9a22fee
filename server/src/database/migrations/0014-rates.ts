/**
 * Reference rates of a company. A fixing is never written over: the newest for a day counts, one without a rate takes
 * the day back.
 */
export const rates = /* sql */ `
create table rate_index (
  id int generated always as identity primary key,
  company_id int not null references company,
  name text not null check (name <> ''),
  -- The name as names are compared.
  key text not null check (key <> ''),
  revision int not null default 0 check (revision >= 0),
  unique (company_id, key)
);

create table fixing (
  id bigint generated always as identity primary key,
  index_id int not null references rate_index,
  on_day date not null,
  rate text,
  source text not null check (source in ('typed', 'sheet', 'service')),
  reason text not null check (reason <> ''),
  kept_by int references person,
  kept_at timestamptz not null default now()
);
create index fixing_by_day on fixing (index_id, on_day, id desc);
create trigger fixing_append_only before update or delete on fixing
  for each row execute function reject_change();
create trigger fixing_no_truncate before truncate on fixing execute function reject_change();
`;

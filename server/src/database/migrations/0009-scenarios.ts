/** Scenarios: drafts that everybody sees and that are no part of the books, so that they may be changed and taken away. */
export const scenarios = /* sql */ `
create table scenario (
  id uuid primary key default gen_random_uuid(),
  company_id int not null references company,
  name text not null check (name <> ''),
  revision int not null default 1 check (revision >= 1),
  changed_by int references person,
  changed_at timestamptz not null default now()
);
create unique index scenario_name on scenario (company_id, lower(name));

create table scenario_change (
  scenario_id uuid not null references scenario on delete cascade,
  place int not null,
  instrument_id uuid not null,
  instrument_version int not null,
  change jsonb not null,
  primary key (scenario_id, instrument_id),
  foreign key (instrument_id, instrument_version) references instrument_version (instrument_id, version)
);
`;

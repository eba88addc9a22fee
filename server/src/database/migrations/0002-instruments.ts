/** Instruments, each version of whose terms and events is kept, and the keys of calls that must not act twice. */
export const instruments = /* sql */ `
create table instrument (
  id uuid primary key default gen_random_uuid(),
  company_id int not null references company,
  name text not null,
  version int not null check (version >= 1),
  created_at timestamptz not null default now()
);
create unique index instrument_name on instrument (company_id, lower(name));

create table instrument_version (
  instrument_id uuid not null references instrument,
  version int not null check (version >= 1),
  document jsonb not null,
  reason text not null check (reason <> ''),
  made_by int references person,
  made_at timestamptz not null default now(),
  primary key (instrument_id, version)
);
alter table instrument add constraint instrument_has_version
  foreign key (id, version) references instrument_version (instrument_id, version) deferrable initially deferred;

create trigger instrument_version_append_only before update or delete on instrument_version
  for each row execute function reject_change();
create trigger instrument_version_no_truncate before truncate on instrument_version execute function reject_change();

-- A version follows the one before it; two changes made from the same version cannot both be kept.
create function instrument_version_follows() returns trigger language plpgsql as $$
begin
  if new.version <> old.version and new.version <> old.version + 1 then
    raise exception 'Version % does not follow version %.', new.version, old.version using errcode = 'CF003';
  end if;
  return new;
end $$;
create trigger instrument_version_follows before update on instrument
  for each row execute function instrument_version_follows();

create table idempotency_key (
  person_id int not null references person,
  key uuid not null,
  request_hash text not null,
  answer jsonb,
  at timestamptz not null default now(),
  primary key (person_id, key)
);
`;

/**
 * An instrument taken on by mistake is withdrawn: it leaves the books by corrections and every list, its history stays,
 * and its name is free again.
 */
export const withdrawnInstruments = /* sql */ `
alter table instrument add column withdrawn_at timestamptz,
  add column withdrawn_by int references person,
  add column withdrawn_because text check (withdrawn_because <> '');
alter table instrument add constraint withdrawn_with_its_reason
  check ((withdrawn_at is null) = (withdrawn_because is null));
drop index instrument_name;
create unique index instrument_name on instrument (company_id, lower(name)) where withdrawn_at is null;

create function instrument_stays_withdrawn() returns trigger language plpgsql as $$
begin
  if old.withdrawn_at is not null then
    raise exception 'The instrument % is withdrawn and stays as it was.', old.name using errcode = 'CF002';
  end if;
  return new;
end $$;
create trigger instrument_stays_withdrawn before update on instrument
  for each row execute function instrument_stays_withdrawn();
`;

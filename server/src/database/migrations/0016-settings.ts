/**
 * What a company decided about its settings, each from a day on. None is written over: of those that hold on a day the
 * one with the latest first day counts, and of the same first day the newest.
 */
export const settings = /* sql */ `
create table setting (
  id bigint generated always as identity primary key,
  company_id int not null references company,
  key text not null check (key <> ''),
  was jsonb not null,
  value jsonb not null,
  holds_from date not null,
  reason text not null check (reason <> ''),
  kept_by int references person,
  kept_at timestamptz not null default now()
);
create index setting_of_company on setting (company_id, key, holds_from desc, id desc);
create trigger setting_append_only before update or delete on setting
  for each row execute function reject_change();
create trigger setting_no_truncate before truncate on setting execute function reject_change();

-- The books may begin on another day while no month is closed and no instrument is kept: then the only month moves.
create or replace function period_keeps_closed() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or old.state = 'closed' or new.company_id <> old.company_id then
    raise exception 'The period to % is kept as it is.', old.ends_on using errcode = 'CF001';
  end if;
  if new.ends_on <> old.ends_on and (
    exists (select from period where company_id = old.company_id and state = 'closed')
    or exists (select from instrument where company_id = old.company_id)
  ) then
    raise exception 'The period to % is kept as it is.', old.ends_on using errcode = 'CF001';
  end if;
  return new;
end $$;
`;

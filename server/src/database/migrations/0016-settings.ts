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

-- What was chosen at a close held for the months after it too: it goes on as the company's own.
insert into setting (company_id, key, was, value, holds_from, reason)
  select company_id, 'accruals', '"reversed"', '"standing"', date_trunc('month', ends_on)::date,
    'As it was chosen at the close'
  from period where state = 'open' and accruals = 'standing';

-- Whatever an instrument says, books have one currency. The company is held meanwhile, so that it changes none.
create function instrument_version_in_currency() returns trigger language plpgsql as $$
declare books text;
begin
  select currency into books from company
    where id = (select company_id from instrument where instrument.id = new.instrument_id) for key share;
  if new.document ->> 'currency' <> books then
    raise exception 'The books are kept in %, and this is in %.', books, new.document ->> 'currency'
      using errcode = 'CF007';
  end if;
  return new;
end $$;
create trigger instrument_version_in_currency before insert on instrument_version
  for each row execute function instrument_version_in_currency();

-- What was reckoned with stays: currency and first day of the books once an instrument is kept, the fiscal year once a
-- month is closed.
create function company_keeps_facts() returns trigger language plpgsql as $$
begin
  if (new.currency <> old.currency or new.digits <> old.digits or new.books_from <> old.books_from)
    and exists (select from instrument where company_id = old.id)
  then
    raise exception 'Currency and first day of the books stay: an instrument is kept.' using errcode = 'CF008';
  end if;
  if new.fiscal_year_end_month <> old.fiscal_year_end_month
    and exists (select from period where company_id = old.id and state = 'closed')
  then
    raise exception 'The fiscal year stays: a month is closed.' using errcode = 'CF008';
  end if;
  return new;
end $$;
create trigger company_keeps_facts before update on company
  for each row execute function company_keeps_facts();

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

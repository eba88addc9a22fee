/**
 * A month is handed over by who prepares it, and returned or approved by somebody else; a company may be set to one
 * person. Who prepared a month, or changed an instrument for it since the last close, approves it under no role.
 */
export const secondPerson = /* sql */ `
alter table period drop constraint period_state_check;
alter table period add constraint period_state_known check (state in ('open', 'prepared', 'closed'));
drop index period_one_open;
create unique index period_one_open on period (company_id) where state <> 'closed';
alter table period add column closed_as text check (closed_as in ('reviewed', 'alone', 'brought'));
alter table period add column accruals_by int references person;

-- What was closed before was closed by one person, or came closed in a bundle.
alter table period disable trigger period_keeps_closed;
update period set closed_as = case when closed_by is null then 'brought' else 'alone' end where state = 'closed';
alter table period enable trigger period_keeps_closed;
alter table period add constraint period_closed_somehow check ((state = 'closed') = (closed_as is not null));

create or replace function period_must_be_open() returns trigger language plpgsql as $$
declare asked record; found text;
begin
  for asked in select distinct company_id, period_end from added loop
    select state into found from period
      where company_id = asked.company_id and ends_on = asked.period_end for share;
    if found is null or found = 'closed' then
      raise exception 'The period to % is closed.', asked.period_end using errcode = 'CF001';
    end if;
  end loop;
  return null;
end $$;
create or replace function entry_line_period_open() returns trigger language plpgsql as $$
begin
  if exists (
    select from added join entry using (company_id, number)
      join period on period.company_id = entry.company_id and period.ends_on = entry.period_end
      where period.state = 'closed') then
    raise exception 'The period of the entry is closed.' using errcode = 'CF001';
  end if;
  return null;
end $$;

create table period_step (
  id bigint generated always as identity primary key,
  company_id int not null,
  period_end date not null,
  step text not null check (step in ('handed-over', 'returned', 'closed')),
  digest bytea check (length(digest) = 32),
  -- What the digest was made of, by instrument: by it what changed since is named.
  parts jsonb,
  comment text check (comment <> ''),
  -- What was asked about, and confirmed by name.
  confirmed text[] not null default '{}',
  taken_by int references person,
  taken_at timestamptz not null default now(),
  foreign key (company_id, period_end) references period (company_id, ends_on),
  check ((step = 'returned') = (comment is not null)),
  check (step <> 'handed-over' or (taken_by is not null and digest is not null and parts is not null))
);
create index period_step_of_period on period_step (company_id, period_end, id);
create trigger period_step_period_open after insert on period_step
  referencing new table as added for each statement execute function period_must_be_open();
create trigger period_step_append_only before update or delete on period_step
  for each row execute function reject_change();
create trigger period_step_no_truncate before truncate on period_step execute function reject_change();

create table period_comment (
  id bigint generated always as identity primary key,
  company_id int not null,
  period_end date not null,
  instrument_id uuid references instrument,
  text text not null check (text <> ''),
  said_by int references person,
  said_at timestamptz not null default now(),
  foreign key (company_id, period_end) references period (company_id, ends_on)
);
create index period_comment_of_period on period_comment (company_id, period_end, id);
create trigger period_comment_period_open after insert on period_comment
  referencing new table as added for each statement execute function period_must_be_open();
create trigger period_comment_append_only before update or delete on period_comment
  for each row execute function reject_change();
create trigger period_comment_no_truncate before truncate on period_comment execute function reject_change();

-- Who had a hand in a month: handed it over, chose for it, or changed an instrument since the close before.
create function who_prepared(of_company int, of_period date) returns table (person_id int, did text, instrument text)
  language sql stable as $$
  with since as (
    select coalesce(max(closed_at), '-infinity') as at from period where company_id = of_company and state = 'closed'
  )
  select taken_by, 'handed-over', null::text from period_step
    where company_id = of_company and period_end = of_period and step = 'handed-over'
  union
  select accruals_by, 'accruals', null from period
    where company_id = of_company and ends_on = of_period and accruals_by is not null
  union
  select made_by, 'changed', min(name) from instrument_version join instrument on instrument.id = instrument_id
    where company_id = of_company and made_by is not null and made_at > (select at from since) group by made_by
  union
  select withdrawn_by, 'changed', min(name) from instrument
    where company_id = of_company and withdrawn_by is not null and withdrawn_at > (select at from since)
    group by withdrawn_by
$$;

-- A company that is brought in whole is told by the transaction that made it.
alter table company add column made_in xid8 not null default pg_current_xact_id();

create function period_closed_by_whom() returns trigger language plpgsql as $$
begin
  if tg_op = 'INSERT' then
    if new.state <> 'open' then raise exception 'A month begins open.' using errcode = 'CF009'; end if;
    return new;
  end if;
  if old.state = 'closed' or new.state <> 'closed' then return new; end if;
  if new.closed_as = 'brought' then
    if new.closed_by is not null
      or (select made_in from company where id = new.company_id) <> pg_current_xact_id() then
      raise exception 'Only a company that is brought in whole comes with closed months.' using errcode = 'CF009';
    end if;
    return new;
  end if;
  if new.closed_by is null then
    raise exception 'Somebody closes a month.' using errcode = 'CF009';
  end if;
  if new.closed_as = 'alone' then
    if (select value from setting where company_id = new.company_id and key = 'closing' order by id desc limit 1)
      is distinct from '"one-person"' then
      raise exception 'The company asks for a second person: the month is handed over, and somebody else approves it.'
        using errcode = 'CF009';
    end if;
    return new;
  end if;
  if old.state <> 'prepared' then
    raise exception 'Nobody has handed the month over.' using errcode = 'CF009';
  end if;
  if not exists (select from member where company_id = new.company_id and person_id = new.closed_by
    and 'review' = any (role) and suspended_at is null) then
    raise exception 'Who approves a month reviews.' using errcode = 'CF009';
  end if;
  if exists (select from who_prepared(new.company_id, new.ends_on) as hand where hand.person_id = new.closed_by) then
    raise exception 'Who prepared a month, or changed an instrument for it, does not approve it.' using errcode = 'CF009';
  end if;
  return new;
end $$;
create trigger period_closed_by_whom before insert or update on period
  for each row execute function period_closed_by_whom();

-- Where nobody reviews but who prepares, months are closed by one person as they were before.
insert into setting (company_id, key, was, value, holds_from, reason)
  select id, 'closing', '"two-people"', '"one-person"', current_date, 'As months were closed before'
  from company where not exists (select from member where company_id = company.id
    and 'review' = any (role) and not 'prepare' = any (role) and suspended_at is null);
`;

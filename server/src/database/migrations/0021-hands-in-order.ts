/**
 * Who had a hand in a month follows the order in which things became so: from the versions that the last close reported,
 * and from the event of the audit trail that was the last when it began to look. Events are numbered one after another,
 * each by a transaction that holds the trail until it ends, so that a number below that one was there to be seen, and a
 * higher one was not. What a month rests on besides its instruments is a hand too, and so is having let in, or let in
 * again, who approves it.
 *
 * Every function says where it looks for what it names: what a role makes for itself stands in front of nothing.
 */
export const handsInOrder = /* sql */ `
do $$
declare known regprocedure;
begin
  for known in select oid::regprocedure from pg_proc where pronamespace = 'public'::regnamespace loop
    execute format('alter function %s set search_path = pg_catalog, public, pg_temp', known);
  end loop;
end $$;

create index audit_event_by_subject on audit_event (company_id, subject, id);

-- The last event that the close of a month could see, and its hash: a trail that is cut or chained anew is another one. Of months that were closed before this was kept, the event that tells of the close.
alter table period add column seen_to bigint, add column seen_hash bytea;
alter table period disable trigger period_keeps_closed;
update period set seen_to = coalesce(
  (select max(id) from audit_event where audit_event.company_id = period.company_id and action = 'period-locked'
    and subject = ends_on::text),
  (select max(id) from audit_event where at <= closed_at), 0) where state = 'closed';
update period set seen_hash = (select hash from audit_event where id = seen_to) where state = 'closed';
alter table period enable trigger period_keeps_closed;
alter table period add constraint period_seen check ((state = 'closed') = (seen_to is not null));

-- What a month is returned with; and what is named with a close.
alter table period_step drop constraint period_step_check;
alter table period_step add constraint period_step_said check
  (case step when 'returned' then comment is not null when 'handed-over' then comment is null else true end);

drop function who_prepared(int, date);

-- Who had a hand in a month, with what, and about what. A firm one bars from approving it; another one bars where
-- somebody else may who had none, and is named where nobody is.
create function hands_in(of_company int, of_period date)
  returns table (person_id int, did text, about text, firm boolean)
  language sql stable set search_path = pg_catalog, public, pg_temp as $$
  with closed as (
    select ends_on, seen_to from period where company_id = of_company and state = 'closed'
      order by ends_on desc limit 1
  ),
  since as (
    select * from audit_event where company_id = of_company
      and id > coalesce((select seen_to from closed), 0)
  ),
  reported as (
    select instrument_id, instrument_version from reported_position
      where company_id = of_company and period_end = (select ends_on from closed)
    union all
    select instrument_id, instrument_version from reported_fund
      where company_id = of_company and period_end = (select ends_on from closed)
  ),
  -- A version is known by what the last close reported, and what it reported nothing of by what the trail had told.
  changed as (
    select made_by, instrument.name from instrument_version join instrument on instrument.id = instrument_id
      left join reported using (instrument_id)
      where company_id = of_company and made_by is not null and case
        when reported.instrument_version is not null then instrument_version.version > reported.instrument_version
        else not exists (select from audit_event told where told.company_id = of_company
          and told.subject = instrument.id::text and told.id <= (select seen_to from closed)
          and told.action in ('instrument-created', 'instrument-changed')
          and coalesce((told.detail ->> 'version')::int, 1) = instrument_version.version) end
    union all
    select withdrawn_by, name from instrument
      where company_id = of_company and withdrawn_by is not null
        and not exists (select from audit_event told where told.company_id = of_company
          and told.subject = instrument.id::text and told.id <= (select seen_to from closed)
          and told.action = 'instrument-withdrawn')
    union all
    select person_id, coalesce(instrument.name, subject) from since
      left join instrument on instrument.id::text = subject
      where action = 'own-accounts-changed' and person_id is not null
  ),
  hand as (
    select taken_by as person_id, 'handed-over' as did, null::text as about, true as firm from period_step
      where company_id = of_company and period_end = of_period and step = 'handed-over'
    union
    select accruals_by, 'accruals', null, true from period
      where company_id = of_company and ends_on = of_period and accruals_by is not null
    union
    select made_by, 'changed', min(name), true from changed group by made_by
    union
    select person_id, 'chart', null, false from since where action = 'accounts-changed' and person_id is not null
    union
    select person_id, 'balances', null, false from since where action = 'ledger-balances' and person_id is not null
    union
    select person_id, 'fixings', min(subject), false from since
      where action = 'fixings-kept' and person_id is not null group by person_id
    union
    select person_id, 'settings', null, false from since
      where action = 'settings-changed' and person_id is not null and jsonb_exists_any(detail -> 'settings',
        array['accruals', 'materiality', 'closedDays', 'currency', 'fiscalYearEndMonth', 'booksFrom'])
    union
    -- Who sent somebody away who could have approved in their place.
    select since.person_id, 'sent-away', min(since.subject), false from since
      join person on lower(person.log_in) = lower(since.subject) and person.id <> since.person_id
      join member on member.company_id = of_company and member.person_id = person.id
      where since.action = 'suspended' and 'review' = any (member.role)
        or since.action = 'role-changed' and jsonb_exists(detail -> 'before', 'review')
          and not jsonb_exists(detail -> 'role', 'review')
      group by since.person_id
  ),
  -- Who was let in, or given a way in, by whom.
  let_in as (
    select person_id as by, subject as log_in from since
      where action in ('role-changed', 'readmitted') and person_id is not null
    union
    select link.made_by, since.subject from since join link
      on link.company_id = of_company and link.kind = 'invitation' and lower(link.log_in) = lower(since.subject)
      where since.action = 'joined' and link.used_at is not null
    union
    select person_id, subject from audit_event
      where action = 'new-password-link' and person_id is not null
        and id > coalesce((select seen_to from closed), 0)
  )
  select * from hand
  union
  select person.id, 'let-in', helper.name, false
    from let_in join person on lower(person.log_in) = lower(let_in.log_in)
    join person helper on helper.id = let_in.by
    where helper.id <> person.id and exists (select from hand where hand.person_id = helper.id)
$$;

create or replace function period_closed_by_whom() returns trigger language plpgsql
  set search_path = pg_catalog, public, pg_temp as $$
declare barred boolean;
begin
  if tg_op = 'INSERT' then
    if new.state <> 'open' then raise exception 'A month begins open.' using errcode = 'CF009'; end if;
    return new;
  end if;
  if old.state = 'closed' or new.state <> 'closed' then return new; end if;
  if new.seen_to is null or new.seen_to > (select coalesce(max(id), 0) from audit_event) or new.seen_to <
    (select coalesce(max(seen_to), 0) from period where company_id = new.company_id and state = 'closed') then
    raise exception 'A close says which event of the trail was the last that it saw.' using errcode = 'CF009';
  end if;
  new.seen_hash := (select hash from audit_event where id = new.seen_to);
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
  if old.state <> 'prepared' or (select step from period_step
    where company_id = new.company_id and period_end = new.ends_on and step <> 'closed' order by id desc limit 1)
    is distinct from 'handed-over' then
    raise exception 'Nobody has handed the month over.' using errcode = 'CF009';
  end if;
  if not exists (select from member where company_id = new.company_id and person_id = new.closed_by
    and 'review' = any (role) and suspended_at is null) then
    raise exception 'Who approves a month reviews.' using errcode = 'CF009';
  end if;
  with hand as materialized (select * from hands_in(new.company_id, new.ends_on))
  select exists (select from hand where person_id = new.closed_by and firm)
    or exists (select from hand where person_id = new.closed_by)
    and exists (select from member where company_id = new.company_id and 'review' = any (role)
      and suspended_at is null and person_id not in (select person_id from hand))
    into barred;
  if barred then
    raise exception 'Who prepared a month, or changed an instrument for it, does not approve it.' using errcode = 'CF009';
  end if;
  return new;
end $$;
`;

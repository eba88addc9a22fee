/**
 * Accounts given to an instrument are a hand in the month too; a month is approved where its last step is that it was handed
 * over; and when a company was made is told once.
 */
export const handInAMonth = /* sql */ `
create or replace function who_prepared(of_company int, of_period date) returns table (person_id int, did text, instrument text)
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
  union
  select person_id, 'changed', min(subject) from audit_event
    where company_id = of_company and person_id is not null and action = 'own-accounts-changed'
      and at > (select at from since) group by person_id
$$;

create or replace function period_closed_by_whom() returns trigger language plpgsql as $$
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
  if old.state <> 'prepared' or (select step from period_step
    where company_id = new.company_id and period_end = new.ends_on and step <> 'closed' order by id desc limit 1)
    is distinct from 'handed-over' then
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

-- In which transaction a company was made stays: by it months that are brought in closed are told.
revoke update on company from coffer;
grant update (name, currency, digits, fiscal_year_end_month, books_from, last_entry_number, second_factor_required,
  accounts_revision) on company to coffer;
`;

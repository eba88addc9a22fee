/**
 * The application runs under a role that owns nothing: it cannot switch a guard off, cut a table or change what is only
 * ever added to. What it may do stands here table by table; a table that comes later names its own rights.
 *
 * The role is `coffer`; who owns the database makes it beforehand.
 */
export const runtimeRole = /* sql */ `
revoke create on schema public from public;
grant usage on schema public to coffer;

-- What is only ever added to.
grant select, insert on audit_event, entry, entry_line, fixing, instrument_version, period_comment, period_step,
  reported_fund, reported_position, setting to coffer;
-- What is changed and never taken away.
grant select, insert, update on company, instrument, link, member, paper, period, person, rate_index to coffer;
-- What comes and goes.
grant select, insert, update, delete on account, account_of_instrument, account_of_role, idempotency_key, ledger_balance,
  log_in_failure, recovery_code, scenario, scenario_change, second_factor, session to coffer;
-- By it the application knows whether the database is of its form.
grant select on migration to coffer;

-- The hash of an event, over all of it and the hash of the one before.
create function audit_event_hash(event audit_event) returns bytea language sql stable as $$
  select sha256(event.previous_hash || convert_to(concat_ws(E'\\x1f',
    event.id, coalesce(event.company_id::text, 'installation'), extract(epoch from event.at),
    coalesce(event.person_id::text, 'nobody'), event.action, event.subject, event.detail), 'UTF8'))
$$;
create or replace function audit_event_chain() returns trigger language plpgsql as $$
declare last audit_event;
begin
  perform pg_advisory_xact_lock(hashtext('audit_event'));
  select * into last from audit_event order by id desc limit 1;
  new.id := coalesce(last.id, 0) + 1;
  new.previous_hash := coalesce(last.hash, ''::bytea);
  new.hash := audit_event_hash(new);
  return new;
end $$;

-- People and companies are told of for as long as there are books: their ids and their beginnings stay.
create function identity_stays() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' or new.id <> old.id then
    raise exception 'A % is kept: others tell of it.', tg_table_name using errcode = 'CF002';
  end if;
  return new;
end $$;
create trigger company_stays before update or delete on company for each row execute function identity_stays();
create trigger person_stays before update or delete on person for each row execute function identity_stays();
`;

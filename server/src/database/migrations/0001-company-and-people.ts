/** The company, the people who may log in, their sessions, and the audit trail. */
export const accounts = /* sql */ `
create domain minor_units as bigint
  check (value between -9007199254740991 and 9007199254740991);

create table company (
  id int primary key,
  name text not null,
  currency char(3) not null,
  digits smallint not null check (digits between 0 and 4),
  fiscal_year_end_month smallint not null check (fiscal_year_end_month between 1 and 12),
  books_from date not null check (extract(day from books_from) = 1),
  last_entry_number int not null default 0
);

create table person (
  id int generated always as identity primary key,
  company_id int not null references company,
  log_in text not null,
  name text not null,
  role text not null check (role in ('preparer', 'reviewer', 'administrator', 'auditor')),
  password_hash text not null
);
create unique index person_log_in on person (lower(log_in));

create table log_in_failure (
  log_in text not null,
  at timestamptz not null default now()
);
create index log_in_failure_recent on log_in_failure (log_in, at);

create table session (
  sid text primary key,
  sess json not null,
  expire timestamptz not null
);
create index session_expire on session (expire);

create table audit_event (
  id bigint primary key,
  company_id int not null references company,
  at timestamptz not null default clock_timestamp(),
  person_id int references person,
  action text not null,
  subject text not null,
  detail jsonb not null,
  previous_hash bytea not null,
  hash bytea not null
);

-- Each event carries the hash of the one before, so that none can be taken out or altered unnoticed.
create function audit_event_chain() returns trigger language plpgsql as $$
declare last audit_event;
begin
  perform pg_advisory_xact_lock(hashtext('audit_event'));
  select * into last from audit_event order by id desc limit 1;
  new.id := coalesce(last.id, 0) + 1;
  new.previous_hash := coalesce(last.hash, ''::bytea);
  new.hash := sha256(new.previous_hash || convert_to(concat_ws(E'\\x1f',
    new.id, new.company_id, extract(epoch from new.at), new.person_id, new.action, new.subject, new.detail), 'UTF8'));
  return new;
end $$;
create trigger audit_event_chain before insert on audit_event
  for each row execute function audit_event_chain();

create function reject_change() returns trigger language plpgsql as $$
begin
  raise exception 'Rows of % are never changed or removed.', tg_table_name using errcode = 'CF002';
end $$;
create trigger audit_event_append_only before update or delete on audit_event
  for each row execute function reject_change();
create trigger audit_event_no_truncate before truncate on audit_event execute function reject_change();
`;

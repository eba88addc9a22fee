/** What signing in needs: failures by what is throttled, second factors, recovery codes, and one-time links. */
export const signIn = /* sql */ `
drop table log_in_failure;
create table log_in_failure (
  id bigint generated always as identity primary key,
  key text not null,
  at timestamptz not null default clock_timestamp()
);
create index log_in_failure_recent on log_in_failure (key, at);
create index log_in_failure_old on log_in_failure (at);

alter table person add column password_since timestamptz not null default now(), add column last_log_in timestamptz;
alter table company add column second_factor_required boolean not null default false;

-- The secret is encrypted by the application; the last step keeps a code from being used twice.
create table second_factor (
  person_id int primary key references person,
  secret bytea not null,
  since timestamptz,
  last_step bigint not null default 0
);
create table recovery_code (
  person_id int not null references person,
  hash bytea not null,
  used_at timestamptz,
  primary key (person_id, hash)
);

create table link (
  id int generated always as identity primary key,
  company_id int not null references company,
  kind text not null check (kind in ('invitation', 'new-password')),
  token_hash bytea not null unique,
  log_in text not null,
  name text not null,
  role text[] not null check (role <@ array['prepare', 'review', 'administer']),
  made_by int references person,
  made_at timestamptz not null default now(),
  expires_at timestamptz not null,
  used_at timestamptz,
  taken_back_at timestamptz,
  check (used_at is null or taken_back_at is null)
);
create index link_of_company on link (company_id) where used_at is null and taken_back_at is null;
create index session_of_person on session ((sess ->> 'personId'));
`;

/**
 * What is kept is sealed: for every row that is written, changed or taken away the database keeps a hash, and tells in the
 * audit trail, when the transaction ends, the digest of all that it sealed. Whoever changes a cell past the guards would
 * have to change its seal, the event and every event that follows, and the heads that closes have noted.
 *
 * Rows are sealed one by one, by their key. The ledger is sealed by the entries that came together, and what a month
 * reported when it is closed, so that a close of ten thousand instruments makes a few seals and not a hundred thousand.
 * Rows of before are sealed once, as they are found.
 *
 * A table that gets another column is sealed again as it is found by the migration that adds it.
 */

/** Tables that are sealed row by row: the columns of the key, and those that are left out. */
const byRow: Readonly<Record<string, readonly [key: string, leftOut: string]>> = {
  account: ['company_id, code', ''],
  account_of_instrument: ['instrument_id, role', ''],
  account_of_role: ['company_id, role', ''],
  company: ['id', 'last_entry_number made_in'],
  fixing: ['id', ''],
  instrument: ['id', ''],
  instrument_version: ['instrument_id, version', ''],
  ledger_balance: ['company_id, code', ''],
  link: ['id', ''],
  member: ['company_id, person_id', ''],
  paper: ['id', 'content'],
  period: ['company_id, ends_on', ''],
  period_comment: ['id', ''],
  period_step: ['id', ''],
  person: ['id', 'last_log_in'],
  rate_index: ['id', ''],
  recovery_code: ['person_id, hash', ''],
  second_factor: ['person_id', 'last_step wrong_in_row wait_until wrong_since'],
  setting: ['id', ''],
};

/** Tables that are sealed by month, and in which order. */
export type TablesByMonth = Readonly<Record<string, string>>;
export const byMonth: TablesByMonth = {
  left_out: 'instrument_id, made_good, role',
  reported_fund: 'instrument_id',
  reported_position: 'instrument_id',
};

/** Tables sealed row by row that are only ever added to; a month is closed once as well: what is sealed of them is sealed once. */
const once = ['fixing', 'instrument_version', 'period_comment', 'period_step', 'setting'];

/** Tables that are sealed by the entries that came together, and in which order. */
const byEntries: Readonly<Record<string, string>> = { entry: 'number', entry_line: 'number, line' };

/** How values are written is the same in every session. */
const alike = `set search_path = pg_catalog, public, pg_temp set timezone = 'UTC' set datestyle = 'ISO, YMD' set bytea_output = 'hex'`;

const hashOfRow = (row: string, leftOut: string): string =>
  `sha256(convert_to((to_jsonb(${row}) - string_to_array('${leftOut}', ' '))::text, 'UTF8'))`;
const keyOfRow = (row: string, key: string): string =>
  `concat_ws(' ', ${key
    .split(', ')
    .map((column) => `${row}.${column}`)
    .join(', ')})`;

/** What brings rows of a table into the seals; transition tables are of one event each. */
const sealing = Object.entries(byRow)
  .map(([table, [key, leftOut]]) => {
    const [now, before] = ['added', 'removed'].map(
      (name) => `(select ${keyOfRow(name, key)} as key, ${hashOfRow(name, leftOut)} as hash from ${name})`,
    );
    const kept = `insert into seal (of_table, key, hash, sealing) select '${table}', key`;
    return `
create function ${table}_sealed() returns trigger language plpgsql security definer ${alike} as $$
begin
  if tg_op = 'INSERT' then ${kept}, hash, sealing() from ${now} now;
  elsif tg_op = 'DELETE' then ${kept}, null, sealing() from ${before} before;
  else ${kept}, now.hash, sealing() from ${now} now full join ${before} before using (key)
    where now.hash is distinct from before.hash;
  end if;
  return null;
end $$;
create trigger ${table}_sealed_added after insert on ${table}
  referencing new table as added for each statement execute function ${table}_sealed();
create trigger ${table}_sealed_changed after update on ${table}
  referencing new table as added old table as removed for each statement execute function ${table}_sealed();
create trigger ${table}_sealed_removed after delete on ${table}
  referencing old table as removed for each statement execute function ${table}_sealed();`;
  })
  .join('\n');

const ofMonth = (table: string, order: string): string =>
  `select sha256(convert_to(string_agg(to_jsonb(kept)::text, E'\\n' order by ${order}), 'UTF8')) from ${table} kept
     where kept.company_id = of_company and kept.period_end = of_period`;
const ofEntries = (table: string, order: string): string =>
  `select sha256(convert_to(string_agg(kept::text, E'\\n' order by ${order}), 'UTF8')) from ${table} kept
     where kept.company_id = of_company and kept.number between first and last`;

/** The names of some tables, as an array of the database. */
const listed = (tables: Readonly<Record<string, string>>): string =>
  `array[${Object.keys(tables)
    .map((table) => `'${table}'`)
    .join(', ')}]`;

/** The query of the table that is named. */
const chosen = (
  tables: Readonly<Record<string, string>>,
  query: (table: string, order: string) => string,
): string =>
  `case of_table ${Object.entries(tables)
    .map(([table, order]) => `when '${table}' then (${query(table, order)})`)
    .join('\n    ')} end`;

/** A query of each of some tables, put together. */
const each = (tables: Readonly<Record<string, string>>, query: (table: string) => string): string =>
  Object.keys(tables).map(query).join('\n  union all ');

/** What seals what a month kept, when it is closed. */
export const sealsOfMonths = (
  byMonth: TablesByMonth,
  create = 'create',
): string => `-- What a month reported is sealed when it is closed.
${create} function sealed_month(of_table text, of_company int, of_period date) returns bytea language plpgsql stable
  ${alike} as $$
begin
  return ${chosen(byMonth, ofMonth)};
end $$;
${create} function month_sealed() returns trigger language plpgsql security definer ${alike} as $$
begin
  insert into seal (of_table, key, hash, sealing)
    select of_table, concat_ws(' ', new.company_id, new.ends_on), sealed_month(of_table, new.company_id, new.ends_on), sealing()
      from unnest(${listed(byMonth)}) of_table;
  return null;
end $$;
`;

/** What tells which rows are not as they were sealed. */
export const sealsHeldAgainst = (
  byMonth: TablesByMonth,
  create = 'create',
): string => `-- Everything that is sealed, with the hash that it has now.
${create} function sealed_now() returns table (of_table text, key text, company_id int, hash bytea) language sql stable
  ${alike} as $$
  ${Object.entries(byRow)
    .map(([table, [key, leftOut]]) => {
      const company =
        table === 'company'
          ? 'kept.id'
          : ['instrument_version', 'fixing', 'person', 'recovery_code', 'second_factor'].includes(table)
            ? 'null::int'
            : 'kept.company_id';
      return `select '${table}', ${keyOfRow('kept', key)}, ${company}, ${hashOfRow('kept', leftOut)} from ${table} kept`;
    })
    .join('\n  union all ')}
  union all ${each(
    byMonth,
    (table) => `select '${table}', concat_ws(' ', period.company_id, ends_on), period.company_id,
    sealed_month('${table}', period.company_id, ends_on) from period where state = 'closed'
      or exists (select from ${table} kept where kept.company_id = period.company_id and kept.period_end = ends_on)`,
  )}
  union all ${each(
    byEntries,
    (
      table,
    ) => `select of_table, key, company_id, sealed_entries('${table}', company_id, first, last) from sealed_together()
    where of_table = '${table}'`,
  )}
  union all ${each(
    byEntries,
    (
      table,
    ) => `select '${table}', concat_ws(' ', kept.company_id, min(number), max(number)), kept.company_id, ''::bytea
    from ${table} kept where not exists (select from sealed_together() together where of_table = '${table}'
      and together.company_id = kept.company_id and kept.number between first and last) group by kept.company_id`,
  )}
$$;

-- What is not as it was sealed last; and what no event of the trail tells of as it is.
${create} function not_as_sealed() returns table (of_table text, key text, company_id int, wrong text, sealed_at timestamptz)
  language sql stable set search_path = pg_catalog, public, pg_temp as $$
  with sealed as (
    select distinct on (of_table, key) seal.of_table, seal.key, seal.hash, sealing from seal
      order by seal.of_table, seal.key, seal.id desc
  )
  select coalesce(now.of_table, sealed.of_table), coalesce(now.key, sealed.key), now.company_id, case
      when sealed.sealing is null or sealed.hash is null then 'added' when now.hash is null then 'removed' else 'changed' end,
      (select at from audit_event where audit_event.company_id is null and subject = sealed.sealing::text limit 1)
    from sealed_now() now full join sealed using (of_table, key) where now.hash is distinct from sealed.hash
  union all
  -- Whoever owns the database can switch a guard off and leave the seals on: what never changes was sealed again then.
  select seal.of_table, seal.key, null, 'again', null from seal
    where seal.of_table = any (array[${once.map((table) => `'${table}'`).join(', ')}] || ${listed(byMonth)})
    group by seal.of_table, seal.key having count(distinct coalesce(hash, '')) > 1
  union all
  select 'seal', coalesce(kept.sealing::text, told.subject), null, case when told.subject is null then 'untold' else 'changed' end,
      told.at
    from (select sealing from seal group by sealing) kept
      full join (select subject, at, detail from audit_event where action = 'sealed') told
        on told.subject = kept.sealing::text
    where digest_of_seals(kept.sealing) is distinct from detail ->> 'digest'
$$;

`;

export const seals = /* sql */ `
create table seal (
  id bigint generated always as identity primary key,
  of_table text not null,
  -- Of a row its key; of a month company and month; of entries company, first and last number.
  key text not null,
  -- None where the row was taken away.
  hash bytea,
  -- What is sealed in one transaction; an event of the trail tells of it.
  sealing uuid not null
);
create index seal_by_key on seal (of_table, key, id);
create index seal_by_sealing on seal (sealing);
create trigger seal_append_only before update or delete on seal for each row execute function reject_change();
create trigger seal_no_truncate before truncate on seal execute function reject_change();
grant select on seal to coffer;

-- What this transaction seals is called.
create function sealing() returns uuid language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
  if coalesce(current_setting('coffer.sealing', true), '') = '' then
    perform set_config('coffer.sealing', gen_random_uuid()::text, true);
  end if;
  return current_setting('coffer.sealing')::uuid;
end $$;

create function digest_of_seals(of_sealing uuid) returns text language sql stable
  set search_path = pg_catalog, public, pg_temp as $$
  select encode(sha256(convert_to(string_agg(concat_ws(E'\\x1f', id, of_table, key, coalesce(encode(hash, 'hex'), 'gone')),
    E'\\n' order by id), 'UTF8')), 'hex') from seal where sealing = of_sealing
$$;

-- The trail tells of all that a transaction sealed once it ends.
create function seals_are_told() returns trigger language plpgsql security definer
  set search_path = pg_catalog, public, pg_temp as $$
begin
  if new.sealing::text is distinct from current_setting('coffer.sealing', true) then return null; end if;
  perform set_config('coffer.sealing', '', true);
  insert into audit_event (company_id, person_id, action, subject, detail)
    select null, null, 'sealed', new.sealing::text,
      jsonb_build_object('rows', count(*), 'digest', digest_of_seals(new.sealing)) from seal where sealing = new.sealing;
  return null;
end $$;
create constraint trigger seals_are_told after insert on seal
  deferrable initially deferred for each row execute function seals_are_told();

${sealing}

-- Entries are sealed with their lines, which come with them or not at all.
create function sealed_entries(of_table text, of_company int, first int, last int) returns bytea language plpgsql stable
  ${alike} as $$
begin
  return ${chosen(byEntries, ofEntries)};
end $$;
create function entries_sealed() returns trigger language plpgsql security definer ${alike} as $$
begin
  insert into seal (of_table, key, hash, sealing)
    select of_table, concat_ws(' ', company_id, first, last), sealed_entries(of_table, company_id, first, last), sealing()
      from (select company_id, min(number) as first, max(number) as last from added group by company_id) together,
        unnest(${listed(byEntries)}) of_table;
  return null;
end $$;
create trigger entry_line_sealed_added after insert on entry_line
  referencing new table as added for each statement execute function entries_sealed();

${sealsOfMonths(byMonth)}create trigger period_month_sealed after update on period
  for each row when (new.state = 'closed' and old.state <> 'closed') execute function month_sealed();

-- Entries that were sealed together, by the keys of their seals.
create function sealed_together() returns table (of_table text, key text, company_id int, first int, last int)
  language sql stable set search_path = pg_catalog, public, pg_temp as $$
  select of_table, key, part[1]::int, part[2]::int, part[3]::int
    from seal, regexp_match(key, '^([0-9]{1,9}) ([0-9]{1,9}) ([0-9]{1,9})$') part
    where of_table in ('entry', 'entry_line') and part is not null
$$;

${sealsHeldAgainst(byMonth)}-- What is there already, as it is found today.
insert into seal (of_table, key, hash, sealing)
  select of_table, key, hash, sealing() from sealed_now() where of_table not in ('entry', 'entry_line');
insert into seal (of_table, key, hash, sealing)
  select of_table, concat_ws(' ', company_id, first, last), sealed_entries(of_table, company_id, first, last), sealing()
    from (select company_id, min(number) as first, max(number) as last from entry group by company_id, number / 10000) together,
      unnest(${listed(byEntries)}) of_table;
insert into audit_event (company_id, person_id, action, subject, detail)
  select null, null, 'sealed', sealing::text,
    jsonb_build_object('rows', count(*), 'digest', digest_of_seals(sealing), 'found', true) from seal group by sealing;
select set_config('coffer.sealing', '', true);
`;

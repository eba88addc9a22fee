import { createHash } from 'node:crypto';
import type { Knex } from 'knex';
import made from './form.json' with { type: 'json' };

/** What a database is made of, by what each part is called: a hash of what it says, or the words themselves. */
export type Form = Readonly<Record<string, string>>;

/** Each part of the database's form with its definition, as the catalogue has them. */
const parts = `
  select 'function ' || oid::regprocedure::text as name, concat_ws(E'\\x1f', prosrc, provolatile, prosecdef, proisstrict,
      prorettype::regtype::text, (select lanname from pg_language where pg_language.oid = prolang), proconfig::text, coalesce(array_to_string(array(
        select privilege from unnest(proacl) with ordinality as acl(privilege, at) where privilege::text like 'coffer=%'), ','), ''))
      as definition
    from pg_proc where pronamespace = 'public'::regnamespace
      -- What whoever keeps the database has added for themselves is no part of its form.
      and not exists (select from pg_depend where classid = 'pg_proc'::regclass and objid = pg_proc.oid and deptype = 'e')
  union all
  select 'trigger ' || tgname || ' on ' || tgrelid::regclass::text, concat_ws(E'\\x1f', tgfoid::regproc::text, tgtype, tgenabled,
      tgdeferrable, tginitdeferred, tgattr::text, tgoldtable, tgnewtable)
    from pg_trigger where not tgisinternal
  union all
  select 'index ' || indexrelid::regclass::text, pg_get_indexdef(indexrelid) || case when indisvalid then '' else ' broken' end
    from pg_index join pg_class on pg_class.oid = indexrelid where relnamespace = 'public'::regnamespace
  union all
  select 'constraint ' || conname || ' on ' || coalesce(nullif(conrelid, 0)::regclass::text, contypid::regtype::text),
      pg_get_constraintdef(oid) || case when convalidated then '' else ' not valid' end
    from pg_constraint where connamespace = 'public'::regnamespace and contype not in ('t', 'n')
  union all
  select 'column ' || attrelid::regclass::text || '.' || attname, concat_ws(E'\\x1f', format_type(atttypid, atttypmod),
      attnotnull, attidentity, attgenerated, pg_get_expr(adbin, adrelid))
    from pg_attribute join pg_class on pg_class.oid = attrelid
      left join pg_attrdef on adrelid = attrelid and adnum = attnum
    where relnamespace = 'public'::regnamespace and relkind = 'r' and attnum > 0 and not attisdropped
  union all
  select 'rights on ' || name, string_agg(privilege, ' ' order by privilege) from (
      select table_name as name, grantee || ':' || lower(privilege_type) as privilege
        from information_schema.role_table_grants where table_schema = 'public' and grantee in ('coffer', 'PUBLIC')
      union all
      select table_name || '.' || column_name, grantee || ':' || lower(privilege_type)
        from information_schema.role_column_grants
        where table_schema = 'public' and grantee in ('coffer', 'PUBLIC') and privilege_type = 'UPDATE') rights group by name
  union all
  select 'rights of coffer in the database', concat_ws(' ', case when has_database_privilege('coffer', current_database(), 'TEMPORARY')
      then 'temporary' end, case when has_schema_privilege('coffer', 'public', 'CREATE') then 'create' end)`;

/** The form that a database has: functions, triggers, indexes, constraints, columns and the rights of the application. */
export async function formOf(database: Knex): Promise<Form> {
  const { rows } = await database.raw<{ rows: { name: string; definition: string }[] }>(parts);
  const hashed = rows.map(({ name, definition }) => [
    name,
    createHash('sha256').update(definition).digest('hex').slice(0, 16),
  ]);
  return Object.fromEntries(hashed.sort(([one = ''], [other = '']) => (one < other ? -1 : 1))) as Form;
}

/** What of a database is not as the migrations of this version make it, in sentences. */
export async function wrongForm(database: Knex): Promise<string[]> {
  const found = await formOf(database);
  const wanted: Form = made;
  const names = [...new Set([...Object.keys(wanted), ...Object.keys(found)])].sort();
  return names.flatMap((name) => {
    if (found[name] === wanted[name]) return [];
    if (found[name] === undefined) return [`The database lacks the ${name}.`];
    if (wanted[name] === undefined) return [`The database has a ${name} that this version does not make.`];
    return [`The ${name} in the database is not as this version makes it.`];
  });
}

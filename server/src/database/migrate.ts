import type { Knex } from 'knex';
import { accounts as companyAndPeople } from './migrations/0001-company-and-people.ts';
import { instruments } from './migrations/0002-instruments.ts';
import { books } from './migrations/0003-books.ts';
import { accruals } from './migrations/0004-accruals.ts';
import { feesAndCostsOfLines } from './migrations/0005-fees-and-costs-of-lines.ts';
import { overpayments } from './migrations/0006-overpayments.ts';
import { correctionsByMonth } from './migrations/0007-corrections-by-month.ts';
import { withdrawnInstruments } from './migrations/0008-withdrawn-instruments.ts';
import { scenarios } from './migrations/0009-scenarios.ts';
import { funds } from './migrations/0010-funds.ts';
import { members } from './migrations/0011-members.ts';
import { signIn } from './migrations/0012-sign-in.ts';
import { accounts } from './migrations/0013-accounts.ts';
import { rates } from './migrations/0014-rates.ts';
import { papers } from './migrations/0015-papers.ts';
import { settings } from './migrations/0016-settings.ts';
import { secondPerson } from './migrations/0017-second-person.ts';
import { runtimeRole } from './migrations/0018-runtime-role.ts';
import { handInAMonth } from './migrations/0019-hand-in-a-month.ts';
import { leftOut } from './migrations/0020-left-out.ts';
import { handsInOrder } from './migrations/0021-hands-in-order.ts';
import { wrongCodes } from './migrations/0022-wrong-codes.ts';
import { seals } from './migrations/0023-seals.ts';
import { toldAtClose } from './migrations/0024-told-at-close.ts';

/** Migrations in the order in which they run; each runs once and forward only. */
const migrations: Readonly<Record<string, string>> = {
  '0001-company-and-people': companyAndPeople,
  '0002-instruments': instruments,
  '0003-books': books,
  '0004-accruals': accruals,
  '0005-fees-and-costs-of-lines': feesAndCostsOfLines,
  '0006-overpayments': overpayments,
  '0007-corrections-by-month': correctionsByMonth,
  '0008-withdrawn-instruments': withdrawnInstruments,
  '0009-scenarios': scenarios,
  '0010-funds': funds,
  '0011-members': members,
  '0012-sign-in': signIn,
  '0013-accounts': accounts,
  '0014-rates': rates,
  '0015-papers': papers,
  '0016-settings': settings,
  '0017-second-person': secondPerson,
  '0018-runtime-role': runtimeRole,
  '0019-hand-in-a-month': handInAMonth,
  '0020-left-out': leftOut,
  '0021-hands-in-order': handsInOrder,
  '0022-wrong-codes': wrongCodes,
  '0023-seals': seals,
  '0024-told-at-close': toldAtClose,
};

const source = (last?: string): Knex.MigrationSource<string> => ({
  getMigrations: () =>
    Promise.resolve(Object.keys(migrations).filter((name) => last === undefined || name <= last)),
  getMigrationName: (name) => name,
  getMigration: (name) =>
    Promise.resolve({
      up: async (database) => {
        await database.raw(migrations[name] ?? '');
      },
      down: () => Promise.reject(new Error('Migrations run forward only.')),
    }),
});

/**
 * Brings the database to the newest form. Several processes may call it at once; one does the work.
 *
 * @param last migration that runs; an earlier form than the newest is wanted where an upgrade is tried
 */
export async function migrate(database: Knex, last?: string): Promise<void> {
  const config = { migrationSource: source(last), tableName: 'migration' };
  // One at a time, by a lock that ends with its connection. A lock that a start left behind when it was broken off is
  // nobody's then.
  await database.transaction(async (on) => {
    await on.raw(`select pg_advisory_xact_lock(hashtext('migration'))`);
    const { rows } = await on.raw<{ rows: { there: boolean }[] }>(
      `select to_regclass('public.migration_lock') is not null as there`,
    );
    if (rows[0]?.there) await database.migrate.forceFreeMigrationsLock(config);
    await database.migrate.latest(config);
    // A right in the database as a whole, which no dump of it tells: given up each time.
    await on.raw(`do $$ begin
      execute format('revoke temporary on database %I from public, coffer', current_database()); end $$`);
  });
}

/** Why this application cannot work with a database that a newer one has changed; `undefined` where none has. */
export async function isNewer(database: Knex): Promise<string | undefined> {
  const unknown = (await done(database)).find((name) => !(name in migrations));
  return unknown === undefined
    ? undefined
    : `The database was brought to a newer form (${unknown}) than this Coffer knows. Start the newer Coffer, or restore a backup from before.`;
}

/** Why this application cannot work with a database as it is; `undefined` where it can. */
export async function notOfForm(database: Knex): Promise<string | undefined> {
  const newer = await isNewer(database);
  if (newer !== undefined) return newer;
  const run = new Set(await done(database));
  const missing = Object.keys(migrations).find((name) => !run.has(name));
  return missing === undefined
    ? undefined
    : `The database is not of the form that this Coffer needs (${missing} is missing). ./coffer start brings it there.`;
}

/** The first migration that a database with companies has still to go through; nothing where none is, or it is empty. */
export async function pendingFirst(database: Knex): Promise<string | undefined> {
  const run = new Set(await done(database));
  if (run.size === 0 || !(await database('company').first('id'))) return undefined;
  return Object.keys(migrations).find((name) => !run.has(name));
}

/** The migrations that a database has been through. */
async function done(database: Knex): Promise<string[]> {
  const { rows } = await database.raw<{ rows: { there: boolean }[] }>(
    `select to_regclass('public.migration') is not null as there`,
  );
  if (!rows[0]?.there) return [];
  const run = await database.raw<{ rows: { name: string }[] }>('select name from migration order by id');
  return run.rows.map(({ name }) => name);
}

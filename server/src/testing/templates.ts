import { createHash, randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { connect } from '../database/connect.ts';

/** The run of tests that databases are made in; a run takes its own away at its end. */
const run = 'COFFER_TEST_RUN';

/** The address of another database of the same cluster. */
export function besides(url: string, name: string): string {
  return url.replace(/\/[^/]*$/, `/${name}`);
}

/**
 * Makes a database as a copy of one that is filled once in a run of tests: a copy takes a fraction of a second.
 *
 * @param url of any database of the cluster
 * @param key what it is filled with
 * @param fill fills a database by its address
 */
export async function copyOf(
  url: string,
  key: string,
  fill: (url: string) => Promise<void>,
): Promise<string> {
  const hash = createHash('sha256').update(key).digest('hex').slice(0, 12);
  const template = `coffer_template_${process.env[run] ?? 'once'}_${hash}`;
  const name = `coffer_test_${randomBytes(6).toString('hex')}`;
  const maker = connect(url);
  try {
    await maker.transaction(async (on) => {
      // Whoever comes second waits until it is filled, and copies while nobody else does.
      await on.raw('select pg_advisory_xact_lock(hashtext(?))', [template]);
      if (!(await isThere(maker, template))) {
        const filling = `${template}_filling`;
        await maker.raw(`drop database if exists ${filling}`);
        await maker.raw(`create database ${filling}`);
        await fill(besides(url, filling));
        await maker.raw(`alter database ${filling} rename to ${template}`);
      }
      await maker.raw(`create database ${name} template ${template}`);
      // As an installation has it.
      await maker.raw(`revoke all on database ${name} from public`);
      await maker.raw(`grant connect on database ${name} to coffer`);
    });
  } finally {
    await maker.destroy();
  }
  return name;
}

async function isThere(maker: Knex, name: string): Promise<boolean> {
  const { rows } = await maker.raw<{ rows: unknown[] }>('select from pg_database where datname = ?', [name]);
  return rows.length > 0;
}

/** Names a run of tests before it begins; what it gives back takes the run's databases away. */
export default function nameRun(): () => Promise<void> {
  const name = randomBytes(4).toString('hex');
  process.env[run] = name;
  return async () => {
    const url = process.env['COFFER_TEST_OWNER'];
    if (!url) return;
    const maker = connect(url);
    const { rows } = await maker.raw<{ rows: { datname: string }[] }>(
      `select datname from pg_database where datname like ?`,
      [`coffer\\_template\\_${name}\\_%`],
    );
    for (const { datname } of rows) await maker.raw(`drop database ${datname}`);
    await maker.destroy();
  };
}

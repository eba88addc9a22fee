import type { Knex } from 'knex';
import type { Logger } from 'pino';

const hour = 3_600_000;

/** How long something is kept, in words of PostgreSQL: answers under their keys, ended sessions, old attempts to log in. */
const kept = {
  idempotency_key: `at < now() - interval '7 days'`,
  session: `expire < now() or expire > now() + interval '1 day'`,
  log_in_failure: `at < now() - interval '1 day'`,
} as const;

/** Takes away what is of no more use; of several servers one does it. Gives how many rows of each went. */
export function clearOut(database: Knex): Promise<Record<string, number>> {
  return database.transaction(async (on) => {
    const { rows } = await on.raw<{ rows: { mine: boolean }[] }>(
      `select pg_try_advisory_xact_lock(hashtext('clear out')) as mine`,
    );
    if (!rows[0]?.mine) return {};
    const gone: Record<string, number> = {};
    for (const [table, over] of Object.entries(kept)) gone[table] = await on(table).whereRaw(over).delete();
    return gone;
  });
}

/** Clears out now and every hour from now on; gives how that ends. */
export function clearOutHourly(database: Knex, logger: Logger): () => void {
  const run = (): void => {
    clearOut(database).then(
      (gone) => logger.info(gone, 'cleared out'),
      (error: unknown) => logger.warn(error, 'nothing was cleared out'),
    );
  };
  run();
  const timer = setInterval(run, hour);
  return () => clearInterval(timer);
}

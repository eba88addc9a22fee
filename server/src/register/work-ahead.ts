import type { Knex } from 'knex';
import { openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { registerOn } from './register-on.ts';

/** Works the open month of every company out before anybody asks: what its versions make is then remembered. */
export async function workAhead(database: Knex, figures: FigureThreads): Promise<void> {
  for (const { id } of await database('company').select('id').orderBy('id')) {
    const open = await openPeriod(database, id);
    if (open) await registerOn(database, figures, id, open.ends_on);
  }
}

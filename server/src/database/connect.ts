import knex, { type Knex } from 'knex';
import pg from 'pg';
import { oneConnectionACall } from './one-connection.ts';

const dateType = 1082;
const bigintType = 20;

/** A bigint as a number; the domain of amounts keeps them where that is exact. */
function exactNumber(text: string): number {
  const value = Number(text);
  if (!Number.isSafeInteger(value))
    throw new RangeError(`${text} from the database is too large to be exact.`);
  return value;
}

/** A pool of connections, of which a call has one at a time. Dates stay `YYYY-MM-DD`, bigint becomes a number or fails. */
export function connect(url: string): Knex {
  pg.types.setTypeParser(dateType, (text) => text);
  pg.types.setTypeParser(bigintType, exactNumber);
  const database = knex({
    client: 'pg',
    connection: url,
    pool: { min: 0, max: 10 },
    acquireConnectionTimeout: 5000,
  });
  oneConnectionACall(database);
  return database;
}

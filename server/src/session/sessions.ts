import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Knex } from 'knex';
import pg from 'pg';
import type { Logger } from 'pino';
import type { PersonRow } from '../database/tables.ts';
import type { Person } from '../http/route.ts';

declare module 'express-session' {
  interface SessionData {
    personId: number;
    token: string;
  }
}

declare module 'express-serve-static-core' {
  interface Request {
    person?: Person;
  }
}

const hours = 60 * 60 * 1000;

/** Sessions kept in PostgreSQL under a cookie that scripts cannot read; they end eight hours after last use. */
export function sessions(
  databaseUrl: string,
  secret: string,
  logger: Logger,
): { handler: RequestHandler; end: () => Promise<void> } {
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 3 });
  // A database that restarts breaks idle connections; the pool makes new ones, and that must not end the process.
  pool.on('error', (error) => logger.warn({ err: error }, 'a session connection broke'));
  const Store = connectPgSimple(session);
  const store = new Store({ pool, tableName: 'session', pruneSessionInterval: 15 * 60 });
  const handler = session({
    name: 'coffer',
    secret,
    store,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'strict', secure: 'auto', maxAge: 8 * hours },
  });
  const end = async (): Promise<void> => {
    // It gives a promise, whatever its types say.
    await Promise.resolve(store.close());
    await pool.end();
  };
  return { handler, end };
}

/** Looks up who a session belongs to, anew for each call, so that a changed role counts at once. */
export function whoCalls(database: Knex): RequestHandler {
  return async (request, _response, next) => {
    const { personId } = request.session;
    if (personId !== undefined) {
      const row = await database('person').where({ id: personId }).first();
      if (row) request.person = personOf(row);
    }
    next();
  };
}

/** A person from their row. */
export function personOf(row: PersonRow): Person {
  return { id: row.id, companyId: row.company_id, name: row.name, logIn: row.log_in, role: row.role };
}

/** Begins a session anew, so that an id known before log-in is worth nothing after it. */
export function renewSession(request: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((error?: Error) => {
      if (error) reject(error);
      else resolve();
    });
  });
}

/** Ends a session for good. */
export function endSession(request: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.destroy((error?: Error) => {
      if (error) reject(error);
      else resolve();
    });
  });
}

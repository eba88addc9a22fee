import { createHash } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Knex } from 'knex';
import pg from 'pg';
import type { Logger } from 'pino';
import type { SessionView } from '@coffer/contract';
import type { PublicPlace } from '../http/public-place.ts';
import { browserOf } from './browser-of.ts';

declare module 'express-session' {
  interface SessionData {
    personId: number;
    /** Milliseconds since 1970. */
    startedAt: number;
    browser: string;
    address: string;
  }
}

const hour = 60 * 60 * 1000;
/** A session ends this long after it was last used, in milliseconds. */
export const idleEnd = 2 * hour;
/** A session ends this long after it began, used or not, in milliseconds. */
const absoluteEnd = 12 * hour;
/** Milliseconds that clocks may differ by. */
const skew = hour / 12;

/** Whether a session that began at a moment is over, used or not; one that is to begin was begun by a clock that was put back. */
export function hasEnded(startedAt: number): boolean {
  const age = Date.now() - startedAt;
  return age >= absoluteEnd || age < -skew;
}

/** Sessions kept in PostgreSQL under a cookie that scripts cannot read; who only visits has none. */
export function sessions(
  databaseUrl: string,
  secret: string,
  { cookie, secure }: PublicPlace,
  logger: Logger,
): { handler: RequestHandler; end: () => Promise<void> } {
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 3 });
  // A database that restarts breaks idle connections; the pool makes new ones, and that must not end the process.
  pool.on('error', (error) => logger.warn({ err: error }, 'a session connection broke'));
  const Store = connectPgSimple(session);
  const store = new Store({ pool, tableName: 'session', pruneSessionInterval: false });
  const handler = session({
    name: cookie('coffer'),
    secret,
    store,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'strict', secure: secure || 'auto', path: '/', maxAge: idleEnd },
  });
  const end = async (): Promise<void> => {
    // It gives a promise, whatever its types say.
    await Promise.resolve(store.close());
    await pool.end();
  };
  return { handler, end };
}

/** Begins a session anew for a person, so that an id known before is worth nothing after. */
export async function startSession(request: Request, personId: number): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    request.session.regenerate((error?: Error) => {
      if (error) reject(error);
      else resolve();
    });
  });
  Object.assign(request.session, {
    personId,
    startedAt: Date.now(),
    browser: browserOf(request.get('user-agent') ?? ''),
    address: request.ip ?? '',
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

/** What a session is called where it is listed: its own id opens it, and is told to nobody. */
function handleOf(sessionId: string): string {
  return createHash('sha256').update(`handle ${sessionId}`).digest('base64url');
}

interface SessionRow {
  readonly sid: string;
  readonly sess: { readonly startedAt: number; readonly browser: string; readonly address: string };
  readonly expire: Date;
}

function sessionsOf(database: Knex, personId: number): Promise<SessionRow[]> {
  return database('session')
    .whereRaw(`sess ->> 'personId' = ?`, [String(personId)])
    .andWhereRaw('expire > now()')
    .orderBy('expire', 'desc')
    .select<SessionRow[]>('sid', 'sess', 'expire');
}

/** A person's sessions that have not ended, the last used first. */
export async function listSessions(
  database: Knex,
  personId: number,
  current: string,
): Promise<SessionView[]> {
  const rows = await sessionsOf(database, personId);
  return rows
    .filter(({ sess }) => !hasEnded(sess.startedAt))
    .map(({ sid, sess, expire }) => ({
      id: handleOf(sid),
      browser: sess.browser,
      address: sess.address,
      startedAt: new Date(sess.startedAt).toISOString(),
      lastUsedAt: new Date(expire.getTime() - idleEnd).toISOString(),
      current: sid === current,
    }));
}

/** Ends those of a person's sessions that are meant; gives how many. */
export async function endSessions(
  database: Knex,
  personId: number,
  meant: (session: { readonly handle: string; readonly id: string }) => boolean,
): Promise<number> {
  const rows = await sessionsOf(database, personId);
  const ending = rows.map(({ sid }) => sid).filter((id) => meant({ handle: handleOf(id), id }));
  return database('session').whereIn('sid', ending).delete();
}

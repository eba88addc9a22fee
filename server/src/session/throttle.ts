import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import { installationId } from '../http/public-place.ts';
import { Refusal } from '../http/refusal.ts';

/** Failures within a quarter of an hour after which is waited, by what they are counted under. */
const most = { pair: 10, name: 100, address: 100 } as const;
const waitMinutes = 15;

interface Counted {
  readonly key: string;
  readonly limit: number;
}

/** An attempt that was counted, and what it left of the closest limit. */
export interface Attempt {
  readonly left: number;
  /** It did not fail: it no longer counts. */
  takeBack(): Promise<void>;
  /** It succeeded: what failed before it under the same name from the same place no longer counts either. */
  succeed(): Promise<void>;
}

/**
 * Counts an attempt as a failure before it is judged, one at a time, so that many at once are no more than one after
 * another. Counted by name and address together, by address and by name; a browser that has logged in by the name
 * before is counted by itself alone, so that nobody locks a person out of the browser they use. Whether there is such
 * a name makes no difference. Source: OWASP, Slow Down Online Guessing Attacks with Device Cookies.
 *
 * @throws Refusal 429 when a limit is reached
 */
export async function countAttempt(
  database: Knex,
  logIn: string,
  address: string,
  knownBrowser: string | undefined,
): Promise<Attempt> {
  const keys: readonly Counted[] =
    knownBrowser === undefined
      ? [
          { key: `pair ${logIn} ${address}`, limit: most.pair },
          { key: `name ${logIn}`, limit: most.name },
          { key: `address ${address}`, limit: most.address },
        ]
      : [{ key: `browser ${knownBrowser}`, limit: most.pair }];
  const { left, ids } = await database.transaction(async (on) => {
    await on.raw(`select pg_advisory_xact_lock(hashtext('log-in'))`);
    // What is of a time to come, the clock was wrong for.
    await on('log_in_failure')
      .whereRaw(`at < now() - interval '${waitMinutes} minutes' or at > now() + interval '1 minute'`)
      .delete();
    let closest = Number.POSITIVE_INFINITY;
    for (const each of keys) closest = Math.min(closest, await leftOf(on, each));
    if (closest <= 0) return { left: 0, ids: [] };
    const rows = await on('log_in_failure')
      .insert(keys.map(({ key }) => ({ key })))
      .returning('id');
    return { left: closest - 1, ids: rows.map(({ id }) => id) };
  });
  if (ids.length === 0) throw tooMany(logIn);
  const takeBack = async (): Promise<void> => {
    await database('log_in_failure').whereIn('id', ids).delete();
  };
  return {
    left,
    takeBack,
    succeed: async () => {
      await takeBack();
      await database('log_in_failure')
        .where({ key: keys[0]?.key ?? '' })
        .delete();
    },
  };
}

/** Whether this is the first time within the wait that a limit refuses a name from an address: the others tell nothing new. */
export async function firstRefusal(database: Knex, logIn: string, address: string): Promise<boolean> {
  const key = `told ${logIn} ${address}`;
  if (await database('log_in_failure').where({ key }).first('id')) return false;
  await database('log_in_failure').insert({ key });
  return true;
}

async function leftOf(database: Knex, { key, limit }: Counted): Promise<number> {
  const row = await database('log_in_failure').where({ key }).count({ many: '*' }).first();
  return limit - Number(row?.['many'] ?? 0);
}

function tooMany(logIn: string): Refusal {
  return new Refusal(
    429,
    'too-many-failures',
    `Logging in as ${logIn} has failed too often from here. Wait ${waitMinutes} minutes and try again; a browser in which ${logIn} has logged in before can go on.`,
  );
}

const year = 365 * 24 * 60 * 60 * 1000;
const signed = (secret: string, name: string, nonce: string): string =>
  createHmac('sha256', secret).update(`known browser ${name} ${nonce}`).digest('base64url');
const cookieOf = ({ secure }: Request, secret: string, logIn: string): string =>
  `${secure ? '__Secure-' : ''}coffer-known-${installationId(secret)}-${Buffer.from(logIn).toString('hex').slice(0, 40)}`;

/** Remembers in a browser that this name has logged in there. */
export function rememberBrowser(response: Response, secret: string, logIn: string): void {
  const name = logIn.toLowerCase();
  const nonce = randomBytes(18).toString('base64url');
  response.cookie(cookieOf(response.req, secret, name), `${nonce}.${signed(secret, name, nonce)}`, {
    httpOnly: true,
    sameSite: 'strict',
    secure: response.req.secure,
    path: '/api/session',
    maxAge: year,
  });
}

/** What a browser that has logged in by a name is counted under; `undefined` for any other. */
export function knownBrowser(request: Request, secret: string, logIn: string): string | undefined {
  const name = logIn.toLowerCase();
  const wanted = `${cookieOf(request, secret, name)}=`;
  const parts = (request.get('cookie') ?? '').split(/;\s*/);
  const [nonce = '', signature = ''] = (parts.find((part) => part.startsWith(wanted)) ?? '')
    .slice(wanted.length)
    .split('.');
  const expected = signed(secret, name, nonce);
  const fits =
    signature.length === expected.length && timingSafeEqual(Buffer.from(signature), Buffer.from(expected));
  return fits ? nonce : undefined;
}

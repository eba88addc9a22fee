import type { ErrorRequestHandler, Request, RequestHandler } from 'express';
import { BeyondExact } from '@coffer/core';
import { mostOfPerson, type RefusalView } from '@coffer/contract';
import { NotWorkedOut } from '../instruments/known-instruments.ts';
import { Refusal } from './refusal.ts';

/** What the database's own guards refuse, by SQLSTATE: kept by the database whatever the application does. */
const databaseRefusals: Readonly<Record<string, string>> = {
  CF001: 'period-closed',
  CF002: 'append-only',
  CF003: 'stale-version',
  CF004: 'unbalanced-entry',
  CF005: 'entry-number-gap',
  CF006: 'last-administrator',
  CF007: 'other-currency',
  CF008: 'company-stays',
  CF009: 'second-person-needed',
};

/** The database does not answer: refused, going down, starting up, or the connection broke. */
const databaseAway = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  '57P01',
  '57P02',
  '57P03',
  '08003',
  '08006',
]);
// What was asked when it broke may stand before it: "COMMIT; - Connection terminated unexpectedly".
const connectionBroken = /(^| - )Connection (terminated|ended)|not queryable|Client was closed/;

/** What is waited for is held by another call, for longer than is waited, or while that one waits for this. */
const heldByAnother = new Set(['55P03', '40P01']);

/** Two calls took one name, or one number, at the same moment. */
const uniqueViolation = '23505';

const bodyRefusals: Readonly<Record<string, [number, string, string]>> = {
  'encoding.unsupported': [
    415,
    'encoded',
    'Send it without a content encoding: nothing packed is taken here.',
  ],
  'request.aborted': [400, 'aborted', 'The call broke off before all of it arrived.'],
};

/** @param limit of what was sent, bytes */
function tooLarge(limit: number = mostOfPerson.bytes): Refusal {
  const most = limit < 1_000_000 ? `${Math.floor(limit / 1000)} kB` : `${Math.floor(limit / 1_000_000)} MB`;
  return new Refusal(413, 'too-large', `What was sent is larger than ${most}, the most that is taken here.`);
}

/** The same before anything was begun: no connection was to be had. */
const neverBegun = new Set(['ECONNREFUSED', '57P03']);

/** That the database does not answer; of a change that was begun it is not known how it ended. */
function databaseIsAway(begun: boolean, request: Request): Refusal {
  if (!begun) return new Refusal(503, 'no-database', 'The database does not answer. Try again in a minute.');
  const next = request.get('idempotency-key')
    ? 'Send it again in a minute under the same key: it is not done twice.'
    : 'Look in a minute, before you send it again.';
  return new Refusal(
    503,
    'not-known',
    `The database does not answer any more, and it is not known whether this was done. ${next}`,
  );
}

function refusalOf(error: unknown, request: Request): Refusal | undefined {
  if (error instanceof Refusal) return error;
  const { type, code, name, message, limit } = error as {
    type?: string;
    code?: string;
    name?: string;
    message?: string;
    limit?: number;
  };
  const away = databaseAway.has(code ?? '') || connectionBroken.test(message ?? '');
  if (name === 'KnexTimeoutError') return databaseIsAway(false, request);
  if (away) return databaseIsAway(request.changes === true && !neverBegun.has(code ?? ''), request);
  if (heldByAnother.has(code ?? '')) {
    return new Refusal(
      409,
      'being-changed',
      'Somebody is changing this at the moment, and nothing was done. Try again in a minute.',
      undefined,
      undefined,
      5,
    );
  }
  if (type === 'entity.too.large') return tooLarge(limit);
  const body = type === undefined ? undefined : bodyRefusals[type];
  if (body) return new Refusal(...body);
  if (code === uniqueViolation) {
    return new Refusal(
      409,
      'name-taken',
      'Another call took this name at the same moment, and nothing was changed. Choose another name, or look at it.',
    );
  }
  if (error instanceof BeyondExact || error instanceof NotWorkedOut) {
    return new Refusal(409, 'not-worked-out', error.message);
  }
  const guard = code === undefined ? undefined : databaseRefusals[code];
  // What the guard says, without the statement that it stood in the way of.
  if (guard)
    return new Refusal(409, guard, message?.split(' - ').at(-1) ?? 'The database refused this change.');
  if (error instanceof URIError)
    return new Refusal(400, 'bad-address', 'The address of the call is malformed.');
  return undefined;
}

/** Answers whatever went wrong: a refusal with its reason, anything else without inner detail, and logs that. */
export const errorHandler: ErrorRequestHandler = (error, request, response, next) => {
  if (response.headersSent) {
    next(error);
    return;
  }
  const refusal = refusalOf(error, request);
  if (!refusal) request.log.error({ err: error as Error }, 'failed');
  else if (refusal !== error) {
    // What was refused further in than the application: by the database's guards, by a parser.
    const { code, constraint, message } = error as { code?: string; constraint?: string; message?: string };
    request.log.warn({ refused: refusal.code, code, constraint, why: message }, 'refused');
  }
  const answer: RefusalView = {
    error: refusal
      ? {
          code: refusal.code,
          message: refusal.message,
          ...(refusal.faults && { faults: [...refusal.faults] }),
          ...(refusal.questions && { confirm: [...refusal.questions] }),
        }
      : {
          code: 'failed',
          message: `Something went wrong here and nothing was changed. It is logged as ${String(request.id)}.`,
        },
  };
  if (refusal?.retryAfter !== undefined) response.setHeader('Retry-After', String(refusal.retryAfter));
  response.status(refusal?.status ?? 500).json(answer);
};

/** For calls to an address that is none. */
export const noSuchCall: RequestHandler = (request) => {
  throw new Refusal(
    404,
    'no-such-call',
    `There is no ${request.method} ${request.baseUrl}${request.path}; /api describes what there is.`,
  );
};

import type { Knex } from 'knex';
import type { Request, Response, Router } from 'express';
import type * as v from 'valibot';
import {
  companyHeader,
  companyParameter,
  fileAnswer,
  roleWords,
  type Access,
  type Download,
  type Endpoint,
  type FileAnswer,
  type Permission,
  type Unworkable,
} from '@coffer/contract';
import type { Membership, Visitor } from '../session/who-calls.ts';
import { withOneConnection } from '../database/one-connection.ts';
import type { BodyThread } from '../workers/body-thread.ts';
import { checked } from './checked.ts';
import { answerOnce } from './idempotency.ts';
import { readBody } from './read-body.ts';
import { Refusal } from './refusal.ts';
import { sendAsFile } from './send-file.ts';
import { changes, longCalls } from './turns.ts';

declare module 'express-serve-static-core' {
  interface Request {
    /** Where large bodies are read. */
    bodies: BodyThread;
    /** Whether the call changes something; said once its endpoint is known. */
    changes?: boolean;
  }
}

/** Who makes a call, in the company that it is about. */
export interface Person {
  readonly id: number;
  readonly companyId: number;
  readonly name: string;
  readonly logIn: string;
  readonly role: readonly Permission[];
}

/** A checked call: what was sent, by whom, and the database, inside a transaction where something changes. */
export interface Call<E extends Endpoint> {
  readonly params: v.InferOutput<E['params']>;
  readonly query: v.InferOutput<E['query']>;
  readonly body: v.InferOutput<E['body']>;
  /** Who is logged in, in the company of the call; asked for by a call that is about none, it throws. */
  readonly person: Person;
  /** Who is logged in; asked for where nobody needs to be, it throws. */
  readonly visitor: Visitor;
  readonly database: Knex;
  readonly request: Request;
}

/** Who is logged in. Throws {@link Refusal} 401. */
export function visitorOf({ visitor }: Request): Visitor {
  if (!visitor) throw new Refusal(401, 'not-logged-in', 'Log in first.');
  return visitor;
}

/** The company that a call is about: the one it names, or the only one of who calls. Throws {@link Refusal}. */
function membershipOf(request: Request, { memberships }: Visitor): Membership {
  const named = request.get(companyHeader) ?? request.query[companyParameter];
  if (named === undefined) {
    const [only, ...others] = memberships;
    if (!only) throw notOfCompany();
    if (others.length === 0) return only;
    throw new Refusal(
      400,
      'which-company',
      `You are of several companies; name one by the header ${companyHeader}, or for a file by ?${companyParameter}.`,
    );
  }
  const member = memberships.find(({ companyId }) => String(companyId) === named);
  if (member) return member;
  throw notOfCompany();
}

function notOfCompany(): Refusal {
  return new Refusal(
    403,
    'not-of-company',
    'You are not of this company, or your access to it is suspended.',
  );
}

/** Who calls in the company of the call, where they may. Throws {@link Refusal} 400, 401 or 403. */
export function authorized(request: Request, access: 'member' | readonly Permission[]): Person {
  const visitor = visitorOf(request);
  const { companyId, companyName, role, secondFactorRequired } = membershipOf(request, visitor);
  if (secondFactorRequired && !visitor.hasSecondFactor) {
    throw new Refusal(
      403,
      'second-factor-needed',
      `${companyName} asks everybody for a second factor. Set one up at your own account first.`,
    );
  }
  if (access !== 'member' && !access.some((each) => role.includes(each))) {
    throw new Refusal(
      403,
      'not-allowed',
      `Your role in ${companyName} ${roleWords(role)}; this asks for one that ${access.map((each) => roleWords([each])).join(' or ')}.`,
    );
  }
  return { id: visitor.id, companyId, name: visitor.name, logIn: visitor.logIn, role };
}

/** Checks an access; gives what of the caller a call may ask for. */
function callerOf(request: Request, access: Access): { person?: Person; visitor?: Visitor } {
  if (access === 'anyone') return request.visitor ? { visitor: request.visitor } : {};
  if (access === 'person') return { visitor: visitorOf(request) };
  if (access === 'administrator') return { visitor: administratorOf(request) };
  return { person: authorized(request, access), visitor: visitorOf(request) };
}

/** Who administers a company here. Throws {@link Refusal} 401 or 403. */
function administratorOf(request: Request): Visitor {
  const visitor = visitorOf(request);
  if (visitor.memberships.some(({ role }) => role.includes('administer'))) return visitor;
  throw new Refusal(
    403,
    'not-allowed',
    'Only who administers a company here makes or brings another. Ask an administrator.',
  );
}

function sure<Value>(value: Value | undefined, what: string): Value {
  if (value === undefined) throw new Error(`This call is made without ${what}.`);
  return value;
}

/** The query of a call, without the company that it is about. */
function queryOf(request: Request): object {
  return Object.fromEntries(Object.entries(request.query).filter(([key]) => key !== companyParameter));
}

/** Notes the instruments that could not be worked out for a call. */
export function logUnworkable(request: Request, unworkable: readonly Unworkable[]): void {
  for (const { name, message } of unworkable) {
    request.log.warn({ instrument: name, why: message }, 'an instrument cannot be worked out');
  }
}

/** Serves an endpoint: checks access, then what was sent, opens a transaction for changes, answers as the contract says. */
export function serve<E extends Endpoint>(
  router: Router,
  database: Knex,
  endpoint: E,
  handle: (call: Call<E>) => Promise<v.InferOutput<E['answer']>>,
): void {
  serveAfter(router, database, endpoint, () => Promise.resolve(), handle);
}

/**
 * Serves an endpoint as {@link serve} does, after something that is no part of its transaction and stays where that is
 * rolled back: counting who tries a password, judging it.
 *
 * @param before what comes first; what it gives is handed on
 */
export function serveAfter<E extends Endpoint, Before>(
  router: Router,
  database: Knex,
  endpoint: E,
  before: (call: Call<E>) => Promise<Before>,
  handle: (call: Call<E>, before: Before) => Promise<v.InferOutput<E['answer']>>,
): void {
  type Answer = v.InferOutput<E['answer']>;
  const inTransaction = endpoint.changes && endpoint.access !== 'anyone';
  router[endpoint.method](endpoint.path, async (request, response) => {
    request.changes = endpoint.changes;
    const caller = callerOf(request, endpoint.access);
    const params = checked(endpoint.params, request.params) as v.InferOutput<E['params']>;
    const query = checked(endpoint.query, queryOf(request)) as v.InferOutput<E['query']>;
    const { value: body, hash } = await readBody(request, endpoint, request.bodies);
    const callOn = (on: Knex): Call<E> => ({
      params,
      query,
      body,
      request,
      database: on,
      get person() {
        return sure(caller.person, 'a company');
      },
      get visitor() {
        return sure(caller.visitor, 'a person');
      },
    });
    const made = await withOneConnection(async () => {
      const first = await before(callOn(database));
      if (!inTransaction) return inTurn(endpoint, () => handle(callOn(database), first));
      const change = (work: (on: Knex) => Promise<Answer>): Promise<Answer> =>
        inTurn(endpoint, () => transaction(database, work));
      if (!endpoint.idempotent) return change((on) => handle(callOn(on), first));
      return answerOnce<Answer>(database, request, sure(caller.person, 'a company'), hash, (claimed) =>
        change((on) => claimed(on, () => handle(callOn(on), first))),
      );
    });
    if (endpoint.answer === fileAnswer) {
      const { name, type, bytes } = made as FileAnswer;
      sendAsFile(response, name, type);
      response.end(bytes);
    } else response.json(made);
  });
}

/** Acts when it is the turn of such calls. */
function inTurn<Made>(endpoint: Endpoint, act: () => Promise<Made>): Promise<Made> {
  if (endpoint.long) return longCalls.take(act);
  return endpoint.changes && endpoint.access !== 'anyone' ? changes.take(act) : act();
}

/** Acts in a transaction that does not wait for ever for what another one holds. */
function transaction<Made>(database: Knex, act: (on: Knex) => Promise<Made>): Promise<Made> {
  return database.transaction(async (on) => {
    await on.raw(`set local lock_timeout = '5s'`);
    return act(on);
  });
}

/** A call for a file, checked. */
export interface FileCall<D extends Download> {
  readonly params: v.InferOutput<D['params']>;
  readonly query: v.InferOutput<D['query']>;
  readonly person: Person;
  /** Where the file is written to, once it is named. */
  readonly response: Response;
}

/** Serves a file to whoever is logged in. */
export function serveFile<D extends Download>(
  router: Router,
  file: D,
  send: (call: FileCall<D>) => Promise<void>,
): void {
  router.get(file.path, async (request, response) => {
    const person = authorized(request, 'member');
    const params = checked(file.params, request.params) as v.InferOutput<D['params']>;
    const query = checked(file.query, queryOf(request)) as v.InferOutput<D['query']>;
    await withOneConnection(() => send({ params, query, person, response }));
  });
}

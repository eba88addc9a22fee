import type { Knex } from 'knex';
import type { Request, Response, Router } from 'express';
import * as v from 'valibot';
import {
  companyHeader,
  companyParameter,
  faultsOf,
  roleWords,
  type Access,
  type Download,
  type Endpoint,
  type Permission,
  type Unworkable,
} from '@coffer/contract';
import type { Membership, Visitor } from '../session/who-calls.ts';
import { answerOnce } from './idempotency.ts';
import { faultyInput, Refusal } from './refusal.ts';

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

/** What was sent, read by its schema. Throws {@link Refusal} 422 with every fault. */
export function checked<S extends v.GenericSchema>(schema: S, value: unknown): v.InferOutput<S> {
  const read = v.safeParse(schema, value);
  if (!read.success) throw faultyInput(faultsOf(read.issues));
  return read.output;
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
  return { person: authorized(request, access), visitor: visitorOf(request) };
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

/** Serves an endpoint: checks access and input, opens a transaction for changes, answers as the contract says. */
export function serve<E extends Endpoint>(
  router: Router,
  database: Knex,
  endpoint: E,
  handle: (call: Call<E>) => Promise<v.InferOutput<E['answer']>>,
): void {
  router[endpoint.method](endpoint.path, async (request, response) => {
    const caller = callerOf(request, endpoint.access);
    const parts = {
      params: checked(endpoint.params, request.params) as v.InferOutput<E['params']>,
      query: checked(endpoint.query, queryOf(request)) as v.InferOutput<E['query']>,
      body: checked(endpoint.body, request.body ?? {}) as v.InferOutput<E['body']>,
    };
    const changes = endpoint.method !== 'get' && endpoint.access !== 'anyone';
    const run = (on: Knex): Promise<v.InferOutput<E['answer']>> =>
      handle({
        ...parts,
        request,
        database: on,
        get person() {
          return sure(caller.person, 'a company');
        },
        get visitor() {
          return sure(caller.visitor, 'a person');
        },
      });
    const answer = !changes
      ? await run(database)
      : await database.transaction((on) =>
          endpoint.idempotent
            ? answerOnce(on, request, sure(caller.person, 'a company'), () => run(on))
            : run(on),
        );
    response.json(answer);
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
    await send({
      params: checked(file.params, request.params) as v.InferOutput<D['params']>,
      query: checked(file.query, queryOf(request)) as v.InferOutput<D['query']>,
      person,
      response,
    });
  });
}

import type { Knex } from 'knex';
import type { Request, Response, Router } from 'express';
import * as v from 'valibot';
import {
  faultsOf,
  mayDo,
  type Access,
  type Download,
  type Endpoint,
  type Role,
  type Unworkable,
} from '@coffer/contract';
import { answerOnce } from './idempotency.ts';
import { faultyInput, Refusal } from './refusal.ts';

/** Who makes a call. */
export interface Person {
  readonly id: number;
  readonly companyId: number;
  readonly name: string;
  readonly logIn: string;
  readonly role: Role;
}

/** A checked call: what was sent, by whom, and the database, inside a transaction where something changes. */
export interface Call<E extends Endpoint> {
  readonly params: v.InferOutput<E['params']>;
  readonly query: v.InferOutput<E['query']>;
  readonly body: v.InferOutput<E['body']>;
  readonly person: Person;
  readonly database: Knex;
  readonly request: Request;
}

/** What was sent, read by its schema. Throws {@link Refusal} 422 with every fault. */
export function checked<S extends v.GenericSchema>(schema: S, value: unknown): v.InferOutput<S> {
  const read = v.safeParse(schema, value);
  if (!read.success) throw faultyInput(faultsOf(read.issues));
  return read.output;
}

/** Who is logged in, where the access asks for somebody. Throws {@link Refusal} 401 or 403. */
export function authorized(request: Request, access: Access): Person {
  const { person } = request;
  if (access === 'anyone') return person as Person;
  if (!person) throw new Refusal(401, 'not-logged-in', 'Log in first.');
  if (access !== 'logged-in' && !mayDo(person.role, access)) {
    throw new Refusal(403, 'not-allowed', `As ${person.role} you can read this but not change it.`);
  }
  return person;
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
    const person = authorized(request, endpoint.access);
    const parts = {
      params: checked(endpoint.params, request.params) as v.InferOutput<E['params']>,
      query: checked(endpoint.query, request.query) as v.InferOutput<E['query']>,
      body: checked(endpoint.body, request.body ?? {}) as v.InferOutput<E['body']>,
      person,
      request,
    };
    const changes = endpoint.method !== 'get' && endpoint.access !== 'anyone';
    const run = (on: Knex): Promise<v.InferOutput<E['answer']>> => handle({ ...parts, database: on });
    const answer = !changes
      ? await run(database)
      : await database.transaction((on) =>
          endpoint.idempotent ? answerOnce(on, request, person, () => run(on)) : run(on),
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
    const person = authorized(request, 'logged-in');
    await send({
      params: checked(file.params, request.params) as v.InferOutput<D['params']>,
      query: checked(file.query, request.query) as v.InferOutput<D['query']>,
      person,
      response,
    });
  });
}

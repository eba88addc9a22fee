import * as v from 'valibot';
import type { Permission } from './permissions.ts';

/**
 * Who may call an endpoint: anyone, a person about their own account, who administers any company here, whoever is of
 * the company, or of those whoever has one of some permissions.
 */
export type Access = 'anyone' | 'person' | 'administrator' | 'member' | readonly Permission[];

/** The header by which a call says which company it is about, by its id; who is of one company alone need not. */
export const companyHeader = 'x-coffer-company';
/** The same in the query of a file, which is fetched by a plain link. */
export const companyParameter = 'company';

/** An access in words. */
export function accessWords(access: Access): string {
  return typeof access === 'string' ? access : access.join(' or ');
}

/** One call of the HTTP interface: the one source for the server's route, the client's call and the description. */
export interface Endpoint<
  Params extends v.GenericSchema = v.GenericSchema,
  Query extends v.GenericSchema = v.GenericSchema,
  Body extends v.GenericSchema = v.GenericSchema,
  Answer extends v.GenericSchema = v.GenericSchema,
> {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  /** With `:name` for each path parameter. */
  readonly path: string;
  readonly summary: string;
  readonly access: Access;
  /** Repeating the call with the same `Idempotency-Key` header must not act twice; the key is required. */
  readonly idempotent: boolean;
  /** Whether it changes what is kept; a call with a body may only ask. */
  readonly changes: boolean;
  /** The most that its body may have. */
  readonly most: BodyBound;
  /** Whether its work grows with all that a company has: few of these are worked on at once. */
  readonly long: boolean;
  readonly params: Params;
  readonly query: Query;
  readonly body: Body;
  readonly answer: Answer;
}

/** How much a body may have, in bytes and in values: numbers, texts, lists and objects. */
export interface BodyBound {
  readonly bytes: number;
  readonly values: number;
}

/** What calls of people take, and what calls that anyone may make. */
export const mostOfPerson: BodyBound = { bytes: 4 * 1_048_576, values: 250_000 };
export const mostOfAnyone: BodyBound = { bytes: 16_384, values: 1000 };

/** The bound of a file that is sent as its bytes. */
export const fileBound = (bytes: number): BodyBound => ({ bytes, values: 0 });

/** A body of bytes as they are, sent as `application/octet-stream`. */
export const bytesBody = v.instance(Uint8Array, 'expected the bytes of a file, as application/octet-stream.');

/** A file that is answered: its name, its media type and its bytes, sent as they are. */
export const fileAnswer = v.strictObject({
  name: v.string(),
  type: v.string(),
  bytes: v.custom<Uint8Array>((value) => value instanceof Uint8Array),
});
export type FileAnswer = v.InferOutput<typeof fileAnswer>;

/** For what an endpoint does not take. */
export const nothing = v.optional(v.strictObject({}), {});
export type Nothing = typeof nothing;

/** An endpoint with what it leaves out filled in. */
export function endpoint<
  Answer extends v.GenericSchema,
  Params extends v.GenericSchema = Nothing,
  Query extends v.GenericSchema = Nothing,
  Body extends v.GenericSchema = Nothing,
>(
  method: Endpoint['method'],
  path: string,
  summary: string,
  access: Access,
  parts: {
    answer: Answer;
    params?: Params;
    query?: Query;
    body?: Body;
    idempotent?: boolean;
    changes?: boolean;
    most?: BodyBound;
    long?: boolean;
  },
): Endpoint<Params, Query, Body, Answer> {
  return {
    method,
    path,
    summary,
    access,
    idempotent: parts.idempotent ?? false,
    changes: parts.changes ?? method !== 'get',
    most: parts.most ?? (access === 'anyone' ? mostOfAnyone : mostOfPerson),
    long: parts.long ?? false,
    answer: parts.answer,
    params: parts.params ?? (nothing as unknown as Params),
    query: parts.query ?? (nothing as unknown as Query),
    body: parts.body ?? (nothing as unknown as Body),
  };
}

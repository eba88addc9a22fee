import { endpoints, type Endpoint } from '@coffer/contract';
import { jsonBody } from '../http/json-body.ts';
import { Refusal } from '../http/refusal.ts';

/** A body to be read by the schema of its call. */
export interface BodyTask {
  readonly method: string;
  readonly path: string;
  readonly bytes: Uint8Array;
}

/** What is made of it: a refusal comes back as its parts, which is how it gets out of a thread. */
export type BodyMade =
  { readonly value: unknown } | { readonly refused: Pick<Refusal, 'status' | 'code' | 'message' | 'faults'> };

/** Reads a body in a thread, as {@link jsonBody} does. */
export default function read({ method, path, bytes }: BodyTask): BodyMade {
  const endpoint = (Object.values(endpoints) as Endpoint[]).find(
    (each) => each.method === method && each.path === path,
  );
  if (!endpoint) throw new Error(`There is no ${method} ${path}.`);
  try {
    return { value: jsonBody(endpoint, bytes) };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const { status, code, message, faults } = error;
    return { refused: { status, code, message, faults } };
  }
}

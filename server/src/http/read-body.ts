import { createHash } from 'node:crypto';
import express, { type Request, type Response } from 'express';
import type * as v from 'valibot';
import { bytesBody, type Endpoint } from '@coffer/contract';
import type { BodyThread } from '../workers/body-thread.ts';
import { jsonBody } from './json-body.ts';
import { checked } from './checked.ts';
import { Refusal } from './refusal.ts';

/** Bytes up to which a body is read where everybody is served; a larger one could hold others up. */
const smallest = 32_768;

/** Bytes of a long body for which it has a second more to arrive: a slow line brings it. */
const slowest = 65_536;

/** What came with a call. */
export interface ReadBody<E extends Endpoint> {
  readonly value: v.InferOutput<E['body']>;
  /** SHA-256 of its bytes, hexadecimal, where a repeated call is recognised by it. */
  readonly hash: string;
}

/**
 * Reads the body of a call, once it is known that who makes it may. Throws {@link Refusal} 400, 413, 415 or 422.
 *
 * @param bodies where a large one is read
 */
export async function readBody<E extends Endpoint>(
  request: Request,
  endpoint: E,
  bodies: BodyThread,
): Promise<ReadBody<E>> {
  if (endpoint.method === 'get')
    return { value: checked(endpoint.body, {}) as v.InferOutput<E['body']>, hash: '' };
  const asFile = endpoint.body === bytesBody;
  const bytes = await bytesOf(
    request,
    asFile ? 'application/octet-stream' : 'application/json',
    endpoint.most.bytes,
    bodies.within,
  );
  const hash = endpoint.idempotent
    ? createHash('sha256')
        .update(bytes ?? '')
        .digest('hex')
    : '';
  if (asFile) return { value: checked(endpoint.body, bytes ?? {}) as v.InferOutput<E['body']>, hash };
  const value =
    bytes === undefined || bytes.length <= smallest
      ? jsonBody(endpoint, bytes ?? new Uint8Array())
      : await bodies.read(endpoint, bytes);
  return { value: value as v.InferOutput<E['body']>, hash };
}

/** The bytes of a body of a type; nothing where none came, or one of another type. */
async function bytesOf(
  request: Request,
  type: string,
  limit: number,
  within: number,
): Promise<Buffer | undefined> {
  const read = express.raw({ type, limit, inflate: false });
  const length = Number(request.get('content-length') ?? 0);
  await new Promise<void>((resolve, reject) => {
    const late = setTimeout(
      () => {
        const message = 'What was to be sent has not arrived, and nothing was done. Send it again.';
        reject(new Refusal(408, 'not-arrived', message));
      },
      within + (length / slowest) * 1000,
    );
    read(request, request.res as Response, (error?: unknown) => {
      clearTimeout(late);
      if (error === undefined) resolve();
      else reject(error as Error);
    });
  });
  const body: unknown = request.body;
  return Buffer.isBuffer(body) ? body : undefined;
}

import * as v from 'valibot';
import { faultsOf, type Endpoint } from '@coffer/contract';
import { faultyInput, Refusal } from './refusal.ts';

/** Levels that no honest call comes near; what is nested deeper would exhaust whoever walks through it. */
const deepest = 64;

/** Different names that no honest call comes near: each has to be remembered, by whoever reads it. */
const mostNames = 5000;

/** Faults that are told of one call: who sends more of them learns nothing by the others. */
const mostFaults = 200;

/** NUL, which the database cannot keep, and halves of characters. */
const unkept = /[\0\p{Cs}]/u;

const message =
  'Found a NUL or half of a character, which cannot be kept; send the text without it, whole and in UTF-8.';

/**
 * The body of a call, from its bytes: JSON in UTF-8, counted while it is walked, then read by the endpoint's schema.
 * Throws {@link Refusal} 400, 413 or 422.
 */
export function jsonBody<E extends Pick<Endpoint, 'most' | 'body'>>(
  endpoint: E,
  bytes: Uint8Array,
): v.InferOutput<E['body']> {
  const value = bytes.length === 0 ? {} : parsed(bytes);
  holdToBounds(value, endpoint.most.values);
  const read = v.safeParse(endpoint.body, value);
  if (!read.success) throw faultyInput(faultsOf(read.issues).slice(0, mostFaults));
  return read.output;
}

function parsed(bytes: Uint8Array): unknown {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Refusal(400, 'not-json', 'What was sent is not JSON in UTF-8.');
  }
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Refusal(400, 'not-json', 'What was sent is not JSON.');
  }
}

/** Refuses what has more values or names than is sensible, is nested beyond sense, or has text that cannot be kept. */
function holdToBounds(body: unknown, mostValues: number): void {
  const open: unknown[] = [body];
  const depths = [0];
  const names = new Set<string>();
  let counted = 1;
  while (open.length > 0) {
    const value = open.pop();
    const depth = depths.pop() ?? 0;
    if (typeof value === 'string') {
      if (unkept.test(value)) throw faultyInput([{ key: keyOf(body, value), message }]);
      continue;
    }
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= deepest)
      throw new Refusal(400, 'too-deep', `What was sent is nested more than ${deepest} levels deep.`);
    const list = Array.isArray(value);
    const inner: unknown[] = list ? value : Object.values(value);
    counted += inner.length;
    if (counted > mostValues) throw tooMany('values', mostValues);
    for (const name of list ? [] : Object.keys(value)) {
      if (names.has(name)) continue;
      if (unkept.test(name)) throw faultyInput([{ key: keyOf(body, value), message }]);
      names.add(name);
    }
    if (names.size > mostNames) throw tooMany('different names', mostNames);
    for (const each of inner) {
      open.push(each);
      depths.push(depth + 1);
    }
  }
}

function tooMany(what: string, most: number): Refusal {
  return new Refusal(
    413,
    'too-many-values',
    `What was sent has more than ${most.toLocaleString('en')} ${what}, the most that is taken at once.`,
  );
}

/** Where a part of a body stands: looked for only once something is wrong with it. */
function keyOf(body: unknown, wanted: unknown): string {
  const open: { value: unknown; key: string }[] = [{ value: body, key: '' }];
  for (let part = open.pop(); part; part = open.pop()) {
    const { value, key } = part;
    if (value === wanted) return key;
    if (typeof value !== 'object' || value === null) continue;
    for (const [name, inner] of Object.entries(value)) {
      open.push({ value: inner, key: key === '' ? name : `${key}.${name}` });
    }
  }
  return '';
}

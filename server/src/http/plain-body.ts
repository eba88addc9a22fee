import type { RequestHandler } from 'express';
import { faultyInput, Refusal } from './refusal.ts';

/** Levels that no honest call comes near; what is nested deeper would exhaust whoever walks through it. */
const deepest = 64;

/** NUL, which the database cannot keep, and halves of characters. */
const unkept = /[\0\p{Cs}]/u;

const message =
  'Found a NUL or half of a character, which cannot be kept; send the text without it, whole and in UTF-8.';

/** Refuses a body that is nested beyond sense, or has text that cannot be kept, naming where. */
export const plainBody: RequestHandler = (request, _response, next) => {
  // Bytes are no text.
  if (Buffer.isBuffer(request.body)) {
    next();
    return;
  }
  const open: { value: unknown; key: string; depth: number }[] = [{ value: request.body, key: '', depth: 0 }];
  for (let part = open.pop(); part; part = open.pop()) {
    const { value, key, depth } = part;
    if (typeof value === 'string') {
      if (unkept.test(value)) throw faultyInput([{ key, message }]);
      continue;
    }
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= deepest) {
      throw new Refusal(400, 'too-deep', `What was sent is nested more than ${deepest} levels deep.`);
    }
    for (const [name, inner] of Object.entries(value)) {
      if (unkept.test(name)) throw faultyInput([{ key, message }]);
      open.push({ value: inner, key: key === '' ? name : `${key}.${name}`, depth: depth + 1 });
    }
  }
  next();
};

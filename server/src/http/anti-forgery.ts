import { randomBytes, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import { Refusal } from './refusal.ts';

const cookie = 'XSRF-TOKEN';
const header = 'x-xsrf-token';

/** Gives the session a token if it has none, and the page a cookie that it must send back as a header. */
export function handOutToken(request: Request, response: Response): void {
  request.session.token ??= randomBytes(24).toString('base64url');
  response.cookie(cookie, request.session.token, { sameSite: 'strict', path: '/' });
}

function same(a: string, b: string): boolean {
  return a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));
}

/** Refuses a change that does not carry the session's token: another site cannot read it. */
export const antiForgery: RequestHandler = (request, _response, next) => {
  if (['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
    next();
    return;
  }
  const sent = request.get(header) ?? '';
  const expected = request.session.token;
  if (expected === undefined || !same(sent, expected)) {
    throw new Refusal(
      403,
      'anti-forgery',
      'The call lacks this session’s anti-forgery token (header X-XSRF-TOKEN, from the cookie XSRF-TOKEN). Load the page again.',
    );
  }
  next();
};

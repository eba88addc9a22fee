import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { Refusal } from './refusal.ts';

/** A fresh nonce for the page's own style elements. */
export const styleNonce: RequestHandler = (_request, response, next) => {
  response.locals['nonce'] = randomBytes(16).toString('base64');
  next();
};

/** The nonce of this answer. */
export function nonceOf(response: Response): string {
  return String(response.locals['nonce']);
}

/**
 * Response headers. Scripts, styles, fonts and pictures come from here alone. The chart library sets style
 * attributes, so those are allowed; style elements need the nonce.
 */
export const headers: RequestHandler = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'"],
      scriptSrcAttr: ["'none'"],
      styleSrc: ["'self'", (_request, response) => `'nonce-${nonceOf(response as Response)}'`],
      styleSrcAttr: ["'unsafe-inline'"],
      imgSrc: ["'self'", 'data:'],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'self'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  strictTransportSecurity: false,
});

/** Calls a minute from one address; far above what people make, below what a runaway script would. */
export const limiter: RequestHandler = rateLimit({
  windowMs: 60_000,
  limit: 3000,
  standardHeaders: 'draft-8',
  legacyHeaders: false,
  handler: () => {
    throw new Refusal(429, 'too-many-calls', 'Too many calls in a minute; wait a minute and try again.');
  },
});

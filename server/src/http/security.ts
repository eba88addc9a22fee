import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import { rateLimit, type Options } from 'express-rate-limit';
import helmet from 'helmet';
import type { PublicPlace } from './public-place.ts';
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
export function headers({ secure }: PublicPlace): RequestHandler {
  return helmet({
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
    // A year, and whatever is below its name; nothing on a machine's own address, which has no TLS.
    strictTransportSecurity: secure && { maxAge: 31_536_000, includeSubDomains: true },
  });
}

/**
 * Limits the calls of a minute: of a session far above what a person makes and below what a runaway script would, and of
 * an address, behind which a whole company may sit.
 */
export function limits(
  mostOfSession = 3000,
  mostOfAddress = 60_000,
): { readonly byAddress: RequestHandler; readonly bySession: RequestHandler } {
  const each = (limit: number): Partial<Options> => ({
    windowMs: 60_000,
    limit,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    // Whom to believe about addresses is decided where the application is put together.
    validate: { xForwardedForHeader: false },
    handler: () => {
      throw new Refusal(429, 'too-many-calls', 'Too many calls in a minute; wait a minute and try again.');
    },
  });
  return {
    byAddress: rateLimit(each(mostOfAddress)),
    // Who is not logged in is counted by the address alone, and again where names and passwords are tried.
    bySession: rateLimit({
      ...each(mostOfSession),
      skip: ({ session }) => session.personId === undefined,
      keyGenerator: ({ sessionID }) => sessionID,
    }),
  };
}

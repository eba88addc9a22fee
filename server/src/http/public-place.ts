import { createHash } from 'node:crypto';
import type { RequestHandler } from 'express';
import { Refusal } from './refusal.ts';

/** Where browsers reach the application: on this machine as it is, or behind a proxy that ends TLS for it. */
export interface PublicPlace {
  /** Its address as people have it; `undefined` where it is only reached from this machine. */
  readonly url: string | undefined;
  /** Whether browsers come by TLS, which then everything relies on. */
  readonly secure: boolean;
  /** How a cookie is called; one that only this very host over TLS can set says so (RFC 6265bis, 4.1.3.2). */
  readonly cookie: (name: string) => string;
}

/** What tells the installations of a machine apart: cookies know no ports. All servers of one have the same. */
export function installationId(secret: string): string {
  return createHash('sha256').update(`installation ${secret}`).digest('hex').slice(0, 8);
}

/**
 * The place that an address names; without one, the machine itself.
 *
 * @param id of the installation
 */
export function publicPlace(url: string | undefined, id: string): PublicPlace {
  if (url === undefined) return { url, secure: false, cookie: (name) => `${name}-${id}` };
  return { url: new URL(url).origin, secure: true, cookie: (name) => `__Host-${name}` };
}

/** What this machine calls itself; any other name was made to lead here. */
const loopback = new Set(['127.0.0.1', 'localhost', '[::1]']);

/**
 * Refuses calls that came for another host, or not by TLS: a name that was made to lead here is none of ours. What the
 * proxy says of both is believed, since it alone reaches the loopback address.
 */
export function cameHere({ url }: PublicPlace): RequestHandler {
  return (request, _response, next) => {
    if (url === undefined) {
      if (!loopback.has(request.hostname)) {
        throw new Refusal(
          421,
          'elsewhere',
          'Coffer answers to the names of its own machine: 127.0.0.1 or localhost. A name of its own is told by COFFER_PUBLIC_URL.',
        );
      }
    } else if (`${request.protocol}://${request.host}` !== url) {
      throw new Refusal(
        421,
        'elsewhere',
        `Coffer is at ${url}. The proxy before it passes on X-Forwarded-Proto and X-Forwarded-Host.`,
      );
    }
    next();
  };
}

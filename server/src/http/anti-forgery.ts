import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import type { PublicPlace } from './public-place.ts';
import { Refusal } from './refusal.ts';

/** The cookie that the page reads and answers with as a header. */
export const tokenCookie = 'XSRF-TOKEN';
const header = 'x-xsrf-token';

function same(a: string, b: string): boolean {
  return a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));
}

/**
 * Tokens that a change must carry, which another site cannot read: signed, and bound to the session where there is
 * one, so that nothing is kept of who only visits. Source: OWASP's Cross-Site Request Forgery Prevention Cheat Sheet,
 * signed double-submit cookie.
 */
export class AntiForgery {
  constructor(
    private readonly secret: string,
    private readonly place: PublicPlace,
  ) {}

  private tokenOf(request: Request, nonce: string): string {
    const bound = request.session.personId === undefined ? 'visit' : request.sessionID;
    const signature = createHmac('sha256', this.secret).update(`anti-forgery ${bound} ${nonce}`);
    return `${nonce}.${signature.digest('base64url')}`;
  }

  /** Whether a call comes with the cookie of a session that is no more. */
  private hadSession(request: Request): boolean {
    const name = `${this.place.cookie('coffer')}=`;
    return (request.get('cookie') ?? '').split(/;\s*/).some((cookie) => cookie.startsWith(name));
  }

  /** Gives the page a cookie that it must send back as a header. */
  handOut(request: Request, response: Response): void {
    const token = this.tokenOf(request, randomBytes(18).toString('base64url'));
    const { secure } = this.place;
    response.cookie(this.place.cookie(tokenCookie), token, { sameSite: 'strict', path: '/', secure });
  }

  /** Refuses a change that does not carry the token of its session. */
  readonly check: RequestHandler = (request, _response, next) => {
    if (['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
      next();
      return;
    }
    const sent = request.get(header) ?? '';
    if (!same(sent, this.tokenOf(request, sent.split('.')[0] ?? ''))) {
      if (request.session.personId === undefined && this.hadSession(request)) {
        throw new Refusal(
          401,
          'session-ended',
          'Your session has ended, and nothing was changed. Log in in another window, then try again: what you typed is still here.',
        );
      }
      throw new Refusal(
        403,
        'anti-forgery',
        'The call lacks this session’s anti-forgery token (header X-XSRF-TOKEN, from the cookie XSRF-TOKEN). Load the page again.',
      );
    }
    next();
  };
}

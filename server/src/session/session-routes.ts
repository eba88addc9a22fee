import { Router, type Response } from 'express';
import { endpoints, type VisitView } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import type { PublicPlace } from '../http/public-place.ts';
import { serve } from '../http/route.ts';
import { logIn, type SignIn } from './log-in.ts';
import { endSession } from './sessions.ts';
import { personViewOf } from './who-calls.ts';

/**
 * Log-in, log-out and who is logged in.
 *
 * @param demo whether the installation shows the demo company
 * @param place where browsers reach it
 */
export function sessionRoutes(signIn: SignIn, demo: boolean, place: PublicPlace): Router {
  const router = Router();
  const { database, tokens } = signIn;
  const installation = async (): Promise<VisitView['installation']> => {
    if (demo) return 'demo';
    return (await database('company').first('id')) ? 'own' : 'empty';
  };
  serve(router, database, endpoints.session, async ({ request }) => {
    tokens.handOut(request, request.res as Response);
    const person = request.visitor ? personViewOf(request.visitor) : null;
    return { person, installation: await installation() };
  });
  serve(router, database, endpoints.logIn, async ({ body, request }) => {
    const { visitor, wrongCodes } = await logIn(signIn, request, body);
    return { person: personViewOf(visitor), wrongCodes };
  });
  serve(router, database, endpoints.logOut, async ({ request, visitor, database: on }) => {
    await endSession(request);
    // What the browser keeps of pages and files of this host goes; drafts that somebody has not finished are theirs.
    if (place.secure) request.res?.setHeader('Clear-Site-Data', '"cache"');
    request.res?.clearCookie(place.cookie('coffer'), {
      httpOnly: true,
      sameSite: 'strict',
      secure: place.secure,
      path: '/',
    });
    await audit(on, { companyId: null, id: visitor.id }, 'log-out', [{ subject: visitor.logIn, detail: {} }]);
    return {};
  });
  return router;
}

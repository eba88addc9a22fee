import compression from 'compression';
import express, { type Express } from 'express';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { openApiDescription } from '@coffer/contract';
import { chartRoutes } from '../accounts/account-routes.ts';
import { trailRoutes } from '../audit/trail-routes.ts';
import type { Clock } from '../clock.ts';
import { bundleRoutes } from '../bundle/bundle-routes.ts';
import { closedDayRoutes } from '../closed-days/closed-day-routes.ts';
import { companyRoutes } from '../company/company-routes.ts';
import { correctionRoutes } from '../corrections/correction-routes.ts';
import { healthRoutes } from '../health/health-routes.ts';
import { fileRoutes } from '../instruments/files/file-routes.ts';
import { instrumentRoutes } from '../instruments/instrument-routes.ts';
import { journalRoutes } from '../journal/journal-routes.ts';
import { paymentRoutes } from '../payments/payment-routes.ts';
import { closePaperRoutes } from '../periods/paper/close-paper-routes.ts';
import { periodRoutes } from '../periods/period-routes.ts';
import { portfolioRoutes } from '../portfolio/portfolio-routes.ts';
import { paperRoutes } from '../papers/paper-routes.ts';
import { rateRoutes } from '../rates/rate-routes.ts';
import { registerRoutes } from '../register/register-routes.ts';
import { scenarioRoutes } from '../scenarios/scenario-routes.ts';
import { sessionRoutes } from '../session/session-routes.ts';
import { peopleRoutes } from '../people/people-routes.ts';
import { accountRoutes } from '../session/account-routes.ts';
import type { SignIn } from '../session/log-in.ts';
import { SecondFactors } from '../session/second-factor.ts';
import { sessions } from '../session/sessions.ts';
import { whoCalls } from '../session/who-calls.ts';
import { setUpRoutes } from '../set-up/set-up-routes.ts';
import { AntiForgery } from './anti-forgery.ts';
import { errorHandler, noSuchCall } from './error-handler.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { BodyThread } from '../workers/body-thread.ts';
import { FileThread } from '../workers/file-thread.ts';
import { UnpackThread } from '../workers/unpack-thread.ts';
import { cameHere, type PublicPlace } from './public-place.ts';
import { headers, limits, styleNonce } from './security.ts';
import { site } from './site.ts';

/** What the application is put together from. */
export interface Parts {
  readonly database: Knex;
  readonly databaseUrl: string;
  readonly secret: string;
  /** Where browsers reach it. */
  readonly place: PublicPlace;
  readonly logger: Logger;
  readonly figures: FigureThreads;
  /** Whether the demo company is shown, whose passwords are in the README. */
  readonly demo: boolean;
  /** By which an empty installation is set up. */
  readonly setUpCode?: string | undefined;
  readonly today: Clock;
  /** Address of the rate service; without one fixings are typed or pasted. */
  readonly rateService?: string | undefined;
  /** Folder of the built workers. */
  readonly workersFolder: string;
  /** Milliseconds that a body may take to arrive; a minute where it is left out. */
  readonly bodiesWithin?: number;
  /** Whether what makes files is loaded before the first is asked for, and stays. */
  readonly filesReady?: boolean;
  /** Folder of the built web application; without it only the interface is served. */
  readonly siteFolder?: string | undefined;
}

/** The whole request path, top to bottom. `end` closes what the application itself opened. */
export function application(parts: Parts): { app: Express; end: () => Promise<void> } {
  const { database, figures, place } = parts;
  const app = express();
  app.disable('x-powered-by');
  // The proxy before it is on this machine: the loopback address is all that it listens on.
  if (place.secure) app.set('trust proxy', 'loopback');
  app.use(
    pinoHttp({
      logger: parts.logger,
      redact: ['req.headers.cookie', 'req.headers["x-xsrf-token"]', 'res.headers["set-cookie"]'],
    }),
  );
  app.use(styleNonce, headers(place), compression());
  app.use('/api', (_request, response, next) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  // Whoever watches over the application is never told to wait.
  app.use(healthRoutes(database));
  app.use('/api', cameHere(place));
  const { byAddress, bySession } = limits();
  app.use('/api', byAddress);
  const files = new FileThread(parts.workersFolder, parts.logger, parts.filesReady);
  const session = sessions(parts.databaseUrl, parts.secret, place, parts.logger);
  const archives = new UnpackThread(parts.workersFolder, parts.logger);
  const bodies = new BodyThread(parts.workersFolder, parts.logger, parts.bodiesWithin);
  const tokens = new AntiForgery(parts.secret, place);
  app.use('/api', session.handler, bySession, tokens.check);
  app.use('/api', whoCalls(database));
  // Bodies are read by each route, once it knows who calls and that they may.
  app.use('/api', (request, _response, next) => {
    request.bodies = bodies;
    next();
  });
  app.get('/api', (_request, response) => {
    response.json(openApiDescription());
  });
  const { secret } = parts;
  const signIn: SignIn = { database, secret, tokens, factors: new SecondFactors(secret) };
  app.use(sessionRoutes(signIn, parts.demo, place));
  app.use(setUpRoutes(signIn, parts.setUpCode));
  app.use(accountRoutes(signIn));
  app.use(peopleRoutes(signIn));
  app.use(companyRoutes(database, parts.today));
  app.use(bundleRoutes(database, figures, archives));
  app.use(chartRoutes(database, figures));
  app.use(rateRoutes(database, figures, parts.today, parts.rateService));
  app.use(closedDayRoutes(database, figures));
  app.use(registerRoutes(database, figures));
  app.use(portfolioRoutes(database, figures, files));
  app.use(instrumentRoutes(database, figures));
  app.use(fileRoutes(database, figures, files));
  app.use(paperRoutes(database));
  app.use(scenarioRoutes(database, figures));
  app.use(paymentRoutes(database, figures));
  app.use(periodRoutes(database, figures, parts.today));
  app.use(closePaperRoutes(database, figures, files));
  app.use(correctionRoutes(database, figures));
  app.use(journalRoutes(database));
  app.use(trailRoutes(database));
  app.use('/api', noSuchCall);
  if (parts.siteFolder !== undefined) app.use(site(parts.siteFolder, place));
  app.use(errorHandler);
  const end = async (): Promise<void> => {
    await session.end();
    await files.end();
    await bodies.end();
    await archives.end();
  };
  return { app, end };
}

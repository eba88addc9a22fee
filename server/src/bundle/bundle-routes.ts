import { once } from 'node:events';
import express, { Router, type RequestHandler } from 'express';
import type { Knex } from 'knex';
import { downloads, endpoints, mostBundleBytes } from '@coffer/contract';
import { refuseUnlessAdministering } from '../company/administers.ts';
import { companyOf } from '../company/company-store.ts';
import { serve, serveFile, visitorOf } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { keepBundle } from './keep-bundle.ts';
import { readBundle } from './read-bundle.ts';
import { writeBundle } from './write-bundle.ts';

/** Where the bytes of a bundle are taken in. */
export const bundleBytes = express.raw({ type: 'application/octet-stream', limit: mostBundleBytes });
export const bundlePath = endpoints.keepBundle.path;

/** Looks at who brings a bundle before any of its bytes are read. */
export const mayBring: RequestHandler = (request, _response, next) => {
  refuseUnlessAdministering(visitorOf(request));
  next();
};

/** Everything that a company has, out and in again. */
export function bundleRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serveFile(router, downloads.bundle, async ({ person, response }) => {
    const { name } = await companyOf(database, person.companyId);
    sendAsFile(response, `${name}.zip`, downloads.bundle.type);
    await writeBundle(database, person.companyId, async (chunk) => {
      // Who fetches slowly is waited for; who went away ends it.
      if (response.destroyed) throw new Error('The file is no longer fetched.');
      if (!response.write(chunk)) await Promise.race([once(response, 'drain'), once(response, 'close')]);
    });
    response.end();
  });
  serve(router, database, endpoints.keepBundle, async ({ body, query, visitor, database: on }) => {
    const bundle = await readBundle(body);
    const companyId = await keepBundle(on, figures, visitor.id, bundle, query.name);
    const { instruments, entries } = bundle.rows;
    return {
      companyId,
      name: query.name ?? bundle.head.name,
      instruments: instruments.length,
      entries: entries.length,
      papers: bundle.papers.size,
    };
  });
  return router;
}

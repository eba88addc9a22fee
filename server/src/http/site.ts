import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router } from 'express';
import { tokenCookie } from './anti-forgery.ts';
import type { PublicPlace } from './public-place.ts';
import { nonceOf } from './security.ts';

const forAYear = 365 * 24 * 60 * 60 * 1000;

/**
 * Serves the built web application: its files for a year (their names change with them), its page for any path.
 *
 * @param place which the page is told, so that it finds the cookie it answers with
 */
export function site(folder: string, place: PublicPlace): Router {
  const router = Router();
  const page = readFileSync(join(folder, 'index.html'), 'utf8').replace(
    'COFFER_TOKEN_COOKIE',
    place.cookie(tokenCookie),
  );
  router.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) => {
        const hashed = /-[A-Z0-9]{8}\.\w+$/.test(path);
        response.setHeader(
          'Cache-Control',
          hashed ? `public, max-age=${forAYear / 1000}, immutable` : 'no-cache',
        );
      },
    }),
  );
  router.get('/{*path}', (request, response) => {
    if (/\.\w+$/.test(request.path)) {
      response.status(404).type('text').send('There is no such file.');
      return;
    }
    response.setHeader('Cache-Control', 'no-store');
    response.type('html').send(page.replaceAll('COFFER_NONCE', nonceOf(response)));
  });
  return router;
}

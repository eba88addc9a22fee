import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { Router } from 'express';
import { nonceOf } from './security.ts';

const forAYear = 365 * 24 * 60 * 60 * 1000;

/** Serves the built web application: its files for a year (their names change with them), its page for any path. */
export function site(folder: string): Router {
  const router = Router();
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
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

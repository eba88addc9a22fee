import { createReadStream } from 'node:fs';
import { mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import type { Knex } from 'knex';
import { downloads, endpoints } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { serveAfter, serveFile } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { longCalls } from '../http/turns.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { UnpackThread } from '../workers/unpack-thread.ts';
import { keepBundle } from './keep-bundle.ts';
import { readBundle, type ReadBundle } from './read-bundle.ts';
import { writeBundle } from './write-bundle.ts';

/** Everything that a company has, out and in again. */
export function bundleRoutes(database: Knex, figures: FigureThreads, archives: UnpackThread): Router {
  const router = Router();
  serveFile(router, downloads.bundle, async ({ person, response }) => {
    const { name } = await companyOf(database, person.companyId);
    const folder = await mkdtemp(join(tmpdir(), 'coffer-bundle-'));
    try {
      // Written first and sent then: who fetches slowly holds no moment of the database meanwhile.
      const path = join(folder, 'company.zip');
      const file = await open(path, 'wx', 0o600);
      try {
        await longCalls.take(() =>
          writeBundle(database, person.companyId, async (chunk) => {
            await file.writeFile(chunk);
          }),
        );
      } finally {
        await file.close();
      }
      sendAsFile(response, `${name}.zip`, downloads.bundle.type);
      await pipeline(createReadStream(path), response);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
  // Read before anything is begun in the database: no moment of it waits for that.
  const read = ({ body }: { readonly body: Uint8Array }): Promise<ReadBundle> =>
    longCalls.take(async () => readBundle(await archives.unpack(body)));
  serveAfter(router, database, endpoints.keepBundle, read, async (call, bundle) => {
    const { query, visitor, database: on } = call;
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

import { Router } from 'express';
import type { Knex } from 'knex';
import { downloads, endpoints } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { serve, serveFile } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { newestVersion } from '../instruments/instrument-store.ts';
import { contentOf, insertPaper, papersOf, takeAway } from './paper-store.ts';
import { fileNameOf, paperTypeOf } from './paper-type.ts';

/** The files that are kept at an instrument. */
export function paperRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.papers, async ({ params, person, database: on }) => {
    const { id } = await newestVersion(on, person.companyId, params.id);
    return { papers: await papersOf(on, id) };
  });
  serve(router, database, endpoints.keepPaper, async ({ params, query, body, person, database: on }) => {
    const { id } = await newestVersion(on, person.companyId, params.id);
    const type = await paperTypeOf(body);
    const kept = await insertPaper(on, person, { instrumentId: id, name: query.name, type, content: body });
    const { name, bytes, sha256 } = kept.paper;
    if (kept.isNew) await audit(on, person, 'paper-kept', [{ subject: id, detail: { name, bytes, sha256 } }]);
    return kept.paper;
  });
  serve(router, database, endpoints.takePaperAway, async ({ params, body, person, database: on }) => {
    const { id } = await newestVersion(on, person.companyId, params.id);
    const gone = await takeAway(on, person, id, params.paper, body.reason);
    const detail = { ...gone, reason: body.reason };
    await audit(on, person, 'paper-taken-away', [{ subject: id, detail }]);
    return {};
  });
  serveFile(router, downloads.paper, async ({ params, person, response }) => {
    const { id } = await newestVersion(database, person.companyId, params.id);
    const { name, type, content } = await contentOf(database, id, params.paper);
    // Whatever is in it, nothing of it runs, and nothing else is fetched for it.
    response.setHeader('Content-Security-Policy', "sandbox; default-src 'none'; frame-ancestors 'none'");
    sendAsFile(response, fileNameOf(name, type), type);
    response.end(content);
  });
  return router;
}

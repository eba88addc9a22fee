import { createServer, type Server } from 'node:http';
import { parseDay } from '@coffer/core';
import { publications } from './publications.ts';

/** A stand-in for a service that publishes reference rates, asked over HTTP as a real one would be. */
export function standInRateService(): Server {
  return createServer((request, response) => {
    const answer = (status: number, body: object): void => {
      response.writeHead(status, { 'Content-Type': 'application/json; charset=utf-8' });
      response.end(JSON.stringify(body));
    };
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    const through = parseDay(url.searchParams.get('through') ?? '');
    if (request.method !== 'GET') answer(405, { message: 'Published rates are only read: use GET.' });
    else if (url.pathname !== '/fixings') answer(404, { message: 'Ask for /fixings?through=2026-10-31.' });
    else if (through === undefined) answer(400, { message: 'through: expected a day such as 2026-10-31.' });
    else answer(200, { indexes: publications(through) });
  });
}

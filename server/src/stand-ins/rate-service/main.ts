import { createServer } from 'node:http';
import { parseDay } from '@coffer/core';
import { publications } from './publications.ts';

// A stand-in for a service that publishes reference rates: a process of its own, asked over HTTP as the real one would be.
const port = Number(process.env['COFFER_RATE_PORT'] ?? '4690');

const server = createServer((request, response) => {
  const answer = (status: number, body: object): void => {
    response
      .writeHead(status, { 'Content-Type': 'application/json; charset=utf-8' })
      .end(JSON.stringify(body));
  };
  const url = new URL(request.url ?? '/', 'http://127.0.0.1');
  if (request.method !== 'GET') answer(405, { message: 'Published rates are only read: use GET.' });
  else if (url.pathname === '/health') answer(200, { status: 'ok' });
  else if (url.pathname !== '/fixings') answer(404, { message: 'Ask for /fixings?through=2026-10-31.' });
  else {
    const through = parseDay(url.searchParams.get('through') ?? '');
    if (through === undefined) answer(400, { message: 'through: expected a day such as 2026-10-31.' });
    else answer(200, { indexes: publications(through) });
  }
});
server.listen(port, '127.0.0.1');
process.once('SIGTERM', () => server.close());
process.once('SIGINT', () => server.close());

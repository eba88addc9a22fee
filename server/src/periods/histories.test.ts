import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dayOf } from '../testing/plain/plain-stand.ts';
import { RandomPlay } from '../testing/play/random-play.ts';
import { TestServer } from '../testing/test-server.ts';

// The seed that a hunt names repeats what it found.
const seed = Number(process.env['COFFER_SEED'] ?? 20_260_930);
const booksFrom = '2026-01-01';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.startEmpty(booksFrom);
});
afterAll(() => server.stop());

// Double-entry bookkeeping, common practice: whatever was entered when, the ledger stands where everything known puts it.
describe('twenty random histories', () => {
  it('leave ledger, cash and reports where a model of the books puts them, and closed months as they were', async () => {
    const play = new RandomPlay(server, await server.as('ilka'), dayOf(booksFrom), seed);
    for (let month = 0; month < 12; month += 1) await play.month(month);
    expect(play.played.length).toBeGreaterThan(10);
  }, 120_000);
});

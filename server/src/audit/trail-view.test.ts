import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TrailEvent, TrailView } from '@coffer/contract';
import { loanDocument, TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
let tobiah: Caller;
let id: string;
beforeAll(async () => {
  server = await TestServer.start();
  [ilka, tobiah] = [await server.as('ilka'), await server.as('tobiah')];
  id = (await ilka.insist('POST', '/api/instruments', { document: loanDocument('Trail loan') })).body.id;
  const document = loanDocument('Trail loan', { amount: '120000.00', lender: 'Marrowfen Mutual' });
  await ilka.insist('PUT', `/api/instruments/${id}`, { version: 1, document, reason: 'Read wrongly' });
  await server.alone();
  const of = '/api/periods/2026-10-31';
  await ilka.call('POST', `${of}/comments`, { instrumentId: id, text: 'Looked through.' });
});
afterAll(() => server.stop());

const read = async (query = ''): Promise<TrailView> => (await tobiah.call('GET', `/api/trail${query}`)).body;
const sentences = ({ events }: TrailView): string[] => events.map(({ sentence }) => sentence);
const found = ({ events }: TrailView, sentence: RegExp): TrailEvent => {
  const event = events.find((each) => sentence.test(each.sentence));
  if (!event) throw new Error(`Nothing tells ${String(sentence)}.`);
  return event;
};

describe('the audit trail, read', () => {
  it('tells of terms and settings as sentences, with old and new in the words of the screen', async () => {
    const all = await read();
    expect(found(all, /Trail loan was changed/)).toMatchObject({
      by: 'Ilka Varga',
      sentence: 'Trail loan was changed to version 2: Read wrongly',
      instrumentId: id,
      changes: expect.arrayContaining([
        { name: 'Lender', before: '', after: 'Marrowfen Mutual' },
        expect.objectContaining({
          before: expect.stringContaining('100,000.00'),
          after: expect.stringContaining('120,000.00'),
        }),
      ]),
    });
    expect(found(all, /^Settings were changed/)).toMatchObject({
      by: 'Sunniva Dahl',
      changes: [
        {
          name: 'Closing a month',
          before: 'one person hands it over, and another approves it',
          after: 'one person alone; every paper says so',
        },
      ],
    });
    expect(sentences(all)).toContain('October 2026, Trail loan: Looked through.');
    expect(sentences(all)).toContain('September 2026 was approved and locked: 38 entries');
  });

  it('is asked for by instrument, by person and by day, newest first', async () => {
    expect(sentences(await read(`?instrument=${id}`))).toEqual([
      'October 2026, Trail loan: Looked through.',
      'Trail loan was changed to version 2: Read wrongly',
      'Trail loan was taken on',
    ]);
    const { people } = await read();
    const sunniva = people.find(({ name }) => name === 'Sunniva Dahl');
    const hers = await read(`?person=${sunniva?.id ?? 0}`);
    expect(new Set(hers.events.map(({ by }) => by))).toEqual(new Set(['Sunniva Dahl']));
    const today = new Date().toISOString().slice(0, 10);
    expect((await read(`?from=${today}`)).events.length).toBeGreaterThan(0);
    expect((await read('?to=2020-01-01')).events).toEqual([]);
    const [newest] = (await read()).events;
    expect((await read(`?before=${newest?.id ?? 0}`)).events[0]?.id).toBeLessThan(newest?.id ?? 0);
  });

  it('is taken out with a line of each change, and followed on request', async () => {
    const { text } = await tobiah.call('GET', `/api/trail.csv?instrument=${id}`);
    const rows = parse(text, { columns: true }) as Record<string, string>[];
    expect(rows.filter(({ changed }) => changed === 'Lender')).toMatchObject([{ after: 'Marrowfen Mutual' }]);
    const { body } = await tobiah.call('GET', '/api/trail/checked');
    expect(body).toMatchObject({ from: 1, broken: null, head: expect.stringMatching(/^[0-9a-f]{64}$/) });
  });
});

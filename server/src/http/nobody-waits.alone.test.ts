import { randomUUID } from 'node:crypto';
import { setTimeout } from 'node:timers/promises';
import { gzipSync } from 'node:zlib';
import { promisify } from 'node:util';
import { zip, type AsyncZippable } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, passwords, type Answer, type Caller } from '../testing/test-server.ts';
import { WatchedServer, type During } from '../testing/watched/watched-server.ts';

let server: WatchedServer;
let bystander: Caller;
let ilka: Caller;
let tobiah: Caller;
beforeAll(async () => {
  server = await WatchedServer.start();
  bystander = await server.as('bram');
  [ilka, tobiah] = [await server.as('ilka'), await server.as('tobiah')];
  // A server that has just begun compiles what it does for the first time.
  for (let call = 0; call < 200; call += 1) await bystander.call('GET', '/api/company');
  await ilka.send('/api/instruments', Buffer.from(zeros(100_000)));
});
afterAll(() => server.stop());

/** The most that the event loop may be held up by, milliseconds. */
const byAnyone = 50;
const bySomebody = 200;

/** What is done stops nobody: a light call of a bystander is answered, in at most three times what it takes alone. */
async function expectNobodyWaits(act: () => Promise<unknown>, longest: number): Promise<void> {
  const enough = (seen: During): boolean => seen.longest <= longest && seen.slower <= 3 && seen.refused === 0;
  const seen = await server.during(bystander, act, enough);
  expect(seen, JSON.stringify(seen)).toSatisfy(enough);
}

const many = <Made>(times: number, make: (at: number) => Made): Made[] =>
  Array.from({ length: times }, (_, at) => make(at));
const zeros = (bytes: number): string => `[${'0,'.repeat(bytes / 2 - 1)}0]`;
const names = (times: number): object => Object.fromEntries(many(times, (at) => [`k${at}`, 0]));

describe('what anybody may send stops nobody', () => {
  const bodies: [string, () => Uint8Array<ArrayBuffer>, string | undefined, number][] = [
    ['four packed kilobytes of four megabytes', () => gzipSync(zeros(4_000_000)), 'gzip', 415],
    ['four megabytes as they are', () => Buffer.from(zeros(4_000_000)), undefined, 413],
    ['sixteen kilobytes of values', () => Buffer.from(zeros(16_000)), undefined, 413],
    ['sixteen kilobytes of depth', () => Buffer.from('['.repeat(8000) + ']'.repeat(8000)), undefined, 400],
  ];
  it.each(bodies)('%s', async (_, body, encoding, status) => {
    const visitor = server.caller();
    await visitor.call('GET', '/api/session');
    const bytes = body();
    await expectNobodyWaits(async () => {
      expect((await visitor.send('/api/session', bytes, encoding)).status).toBe(status);
      await setTimeout(100);
    }, byAnyone);
  });
});

describe('what somebody who is logged in may send stops nobody', () => {
  const bodies: [string, string, () => string][] = [
    ['documents that are none', '/api/instruments/many', () => `{"documents":${zeros(700_000)}}`],
    ['names', '/api/instruments', () => JSON.stringify({ document: names(200_000) })],
    ['lists', '/api/instruments', () => `{"document":[${'[],'.repeat(240_000)}[]]}`],
    ['payments', '/api/payments', () => `{"payments":[${'{"due":0},'.repeat(80_000)}{}]}`],
  ];
  it.each(bodies)('%s', async (_, path, body) => {
    const bytes = Buffer.from(body());
    await expectNobodyWaits(async () => {
      await ilka.send(path, bytes);
      await setTimeout(200);
    }, bySomebody);
  });
});

describe('many of the same at once stop nobody', () => {
  it('ends of sessions by one who only reads', async () => {
    await expectNobodyWaits(async () => {
      const end = { password: passwords.tobiah };
      const answers = await Promise.all(
        many(10, () => tobiah.call('POST', '/api/account/sessions/ended', end)),
      );
      for (const { status, text } of answers) expect(status, text).toBe(200);
      await setTimeout(1000);
    }, byAnyone);
  });

  it.each([50, 500])('%i log-ins of a visitor', async (times) => {
    await expectNobodyWaits(async () => {
      await server.test.database('log_in_failure').delete();
      const tried = (at: number): Promise<Answer> => server.caller().logIn(`nobody-${at}`, 'any password');
      const statuses = (await Promise.all(many(times, tried))).map(({ status }) => status);
      for (const status of statuses) expect([401, 429]).toContain(status);
      // They come once: what they leave waiting is over when the next hundred calls of others are.
      await setTimeout(6 * times + 1000);
    }, bySomebody);
  });

  it('repeats of one key that is under way', async () => {
    await expectNobodyWaits(async () => {
      const key = { 'idempotency-key': randomUUID() };
      const document = loanDocument(`Repeated ${key['idempotency-key']}`);
      const once = (): Promise<Answer> => ilka.call('POST', '/api/instruments', { document }, key);
      const answers = await Promise.all(many(14, once));
      expect(answers.filter(({ status }) => status === 200).length).toBeGreaterThan(0);
      for (const { status, text } of answers) expect([200, 409], text).toContain(status);
      await setTimeout(200);
    }, byAnyone);
  });

  it('scenarios of five hundred instruments side by side', async () => {
    const documents = many(500, (at) => loanDocument(`Beside ${at}`));
    const taken = await ilka.call('POST', '/api/instruments/many', { documents });
    expect(taken.status, taken.text).toBe(200);
    const { rows } = (await ilka.call('GET', '/api/register?on=2026-10-31')).body;
    const changes = rows
      .filter(({ name }: { name: string }) => name.startsWith('Beside'))
      .map(({ id, version }: { id: string; version: number }) => ({
        instrumentId: id,
        version,
        events: [{ type: 'extra-principal', on: '2027-01-01', amount: '1000.00' }],
      }));
    expect(changes).toHaveLength(500);
    const asked = { on: '2026-10-31', scenarios: many(12, () => changes) };
    await expectNobodyWaits(async () => {
      const answer = await ilka.call('POST', '/api/scenarios/side-by-side', asked);
      expect(answer.status, answer.text.slice(0, 500)).toBe(200);
    }, bySomebody);
  });
});

describe('an archive stops nobody', () => {
  it('that says of four hundred megabytes that they are a hundred bytes', async () => {
    // Packed beside: who packs for seconds loses the connections that were open.
    const packed = await promisify<AsyncZippable, Uint8Array>(zip)({
      'papers/1': new Uint8Array(400_000_000),
    });
    const forged = Buffer.from(packed);
    const at = forged.indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    forged.writeUInt32LE(100, at + 24);
    const sunniva = await server.as('sunniva');
    await expectNobodyWaits(async () => {
      const answer = await sunniva.sendFile('/api/companies/bundle', new Uint8Array(forged));
      expect(answer.status).toBe(422);
      await setTimeout(200);
    }, bySomebody);
  });
});

import { strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { bundleFiles, type BundleFile } from '@coffer/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer, type Answer, type Caller } from '../testing/test-server.ts';
import { pdf } from '../testing/small-files.ts';

let server: TestServer;
let preparer: Caller;
let keeper: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  preparer = await server.as('ilka');
  keeper = await server.as('sunniva');
});
afterAll(async () => {
  const found = await server.disagreements();
  await server.stop();
  expect(found).toEqual([]);
});

type Files = Record<string, Uint8Array<ArrayBuffer>>;

const takeOut = async (caller = preparer): Promise<Files> =>
  unzipSync(new Uint8Array(await caller.bytes('/api/company.zip'))) as Files;
const bring = (files: Zippable, name: string, by = keeper): Promise<Answer> =>
  by.sendFile(
    `/api/companies/bundle?name=${encodeURIComponent(name)}`,
    zipSync(files) as Uint8Array<ArrayBuffer>,
  );
const text = (bytes: Uint8Array | undefined): string => new TextDecoder().decode(bytes);
/** What the files say, but when they were written and what the company is called. */
const saying = (files: Files): Record<string, string> =>
  Object.fromEntries(
    Object.entries(files).map(([name, bytes]) => [
      name,
      name === 'company.json'
        ? JSON.stringify({ ...(JSON.parse(text(bytes)) as object), madeAt: '', name: '', trail: null })
        : Buffer.from(bytes).toString('base64'),
    ]),
  );
/** One row of a file told otherwise. */
const altered = (files: Files, file: BundleFile, change: (row: never) => object): Files => {
  const [first = '', ...others] = text(files[`${file}.jsonl`]).split('\n');
  const line = JSON.stringify({ ...(JSON.parse(first) as object), ...change(JSON.parse(first) as never) });
  return { ...files, [`${file}.jsonl`]: strToU8([line, ...others].join('\n')) as Uint8Array<ArrayBuffer> };
};

const without = (files: Files, name: string): Files =>
  Object.fromEntries(Object.entries(files).filter(([each]) => each !== name));

describe('everything that a company has', () => {
  it('comes in again equal: every version, entry, report, fixing, setting, scenario and paper', async () => {
    const { 'leftOut.jsonl': none, ...earlier } = await takeOut();
    const { rows } = (await preparer.call('GET', '/api/register?on=2026-10-31')).body;
    const [{ id }, withdrawn] = rows;
    const done = async (answer: Promise<Answer>): Promise<Answer['body']> => {
      const { status, body } = await answer;
      expect([status, body]).toEqual([200, body]);
      return body;
    };
    const paper = (name: string, bytes: Uint8Array<ArrayBuffer>): Promise<Answer> =>
      preparer.sendFile(`/api/instruments/${id}/papers?name=${name}`, bytes);
    await done(paper('Agreement.pdf', pdf));
    const gone = await done(paper('Wrong.pdf', new Uint8Array([...pdf, 10])));
    const because = { reason: 'Of another loan' };
    await done(preparer.call('POST', `/api/instruments/${id}/papers/${gone.id}/taken-away`, because));
    const settings = {
      numbers: 'point-comma',
      closedDays: [{ on: '2026-12-24', name: 'Christmas Eve' }],
      materiality: { each: 2_000_00, sum: 4_000_00 },
    };
    await done(keeper.call('POST', '/api/settings', { settings, reason: 'As we write' }));
    const own = { accounts: [{ role: 'interest-expense', code: '7340' }], costCentre: 'K-12' };
    await done(preparer.call('PUT', `/api/instruments/${id}/accounts`, own));
    const { version } = withdrawn;
    const twice = { reason: 'Taken on twice', version };
    await done(preparer.insist('POST', `/api/instruments/${withdrawn.id}/withdrawal`, twice));
    const loan = rows.find(({ kind }: { kind: string }) => kind === 'loan');
    const changes = [
      { instrumentId: loan.id, version: loan.version, change: { annual: '5%', from: '2027-06-01' } },
    ];
    await done(preparer.call('POST', '/api/scenarios', { name: 'Lower', changes }));

    await server.alone();
    const confirm = ['month-not-ended', 'payments-unrecorded', 'fixings-missing'];
    await done(preparer.call('POST', '/api/periods/2026-10-31/lock', { confirm }));
    const out = await takeOut();
    // Every file says something, but what the demo has none of: balances of its ledger, and closed months of a fund.
    const empty = Object.keys(bundleFiles).filter((file) => text(out[`${file}.jsonl`]) === '');
    expect(empty).toEqual(['ledgerBalances', 'reportedFunds']);
    const kept = await bring(out, 'Ostrel once more');
    expect([kept.status, kept.body]).toMatchObject([200, { name: 'Ostrel once more', papers: 1 }]);
    expect(kept.body.entries).toBeGreaterThan(400);
    const there = { 'x-coffer-company': String(kept.body.companyId) };
    const again = unzipSync(
      new Uint8Array(await keeper.bytes(`/api/company.zip?company=${kept.body.companyId}`)),
    ) as Files;
    expect(Object.keys(saying(again))).toEqual(Object.keys(saying(out)));
    for (const [name, said] of Object.entries(saying(again)))
      expect([name, said === saying(out)[name]]).toEqual([name, true]);
    // And it goes on there: the figures are the same, and the open month is locked.
    const on = '/api/register?on=2026-11-30';
    const figures = ({ body }: Answer): unknown[] =>
      body.rows.map(({ name, figures: of }: { name: string; figures: object }) => [name, of]);
    expect(figures(await keeper.call('GET', on, undefined, there))).toEqual(
      figures(await preparer.call('GET', on)),
    );
    const locked = await keeper.call('POST', '/api/periods/2026-11-30/lock', { confirm }, there);
    expect([locked.status, locked.text]).toEqual([200, expect.any(String)]);
    // An earlier Coffer left no accruals out, and wrote no file of them; every other file has to be there.
    expect(text(none)).toBe('');
    expect((await bring(earlier, 'Of earlier')).status).toBe(200);
    expect((await bring(without(earlier, 'entries.jsonl'), 'Lacking')).status).toBe(422);
  });

  it('is brought by who administers a company here, under a name of its own', async () => {
    const out = await takeOut();
    expect((await bring(out, 'By a preparer', preparer)).status).toBe(403);
    const taken = await bring(out, 'ostrel GLASSWORKS');
    expect([taken.status, taken.body.error.faults[0].key]).toEqual([422, 'name']);
  });

  it('is refused whole where a row is wrong, at its line, and where it does not agree with itself', async () => {
    const out = await takeOut();
    const companies = async (): Promise<unknown> => (await server.database('company').count('id as many'))[0];
    const before = await companies();
    const refusals: [Files, RegExp][] = [
      [altered(out, 'entries', () => ({ number: 'one' })), /entries\.jsonl, line 1: number/],
      [altered(out, 'entries', () => ({ extra: 1 })), /entries\.jsonl, line 1: extra/],
      [altered(out, 'fixings', () => ({ index: 99 })), /no index 99/],
      // What would be read on every page from then on is read here first.
      [altered(out, 'fixings', () => ({ rate: 'three' })), /fixings\.jsonl, line 1: rate/],
      [altered(out, 'indexes', () => ({ key: 'other' })), /indexes\.jsonl, line 1/],
      [altered(out, 'settings', () => ({ value: 'roman' })), /settings\.jsonl, line 1/],
      [altered(out, 'scenarioChanges', () => ({ change: { term: 1 } })), /scenarioChanges\.jsonl, line 1/],
      [
        altered(out, 'versions', (row: { document: object }) => ({
          document: { ...row.document, currency: 'USD' },
        })),
        /is in USD/,
      ],
      [altered(out, 'versions', () => ({ instrument: 999 })), /no instrument 999/],
      [altered(out, 'versions', () => ({ document: { document: 'coffer.instrument/1' } })), /./],
      [
        altered(out, 'reported', (row: { current: number; nonCurrent: number }) => ({
          current: row.current + 1,
          nonCurrent: row.nonCurrent - 1,
        })),
        /./,
      ],
      [
        altered(
          out,
          'entries',
          ({ lines: [one, ...rest] }: { lines: { debit: number; credit: number }[] }) => ({
            lines: [{ ...one, debit: (one?.debit ?? 0) + 1 }, ...rest],
          }),
        ),
        /balance/,
      ],
      [altered(out, 'papers', () => ({ sha256: '0'.repeat(64) })), /./],
      [altered(out, 'papers', () => ({ type: 'image/png' })), /not what it is said to be/],
      [altered(out, 'periods', () => ({ endsOn: '2026-02-28' })), /does not follow/],
      [{ ...out, 'papers/1': strToU8('other') as Uint8Array<ArrayBuffer> }, /./],
      [{ ...out, 'more.txt': strToU8('x') as Uint8Array<ArrayBuffer> }, /more\.txt: This is no part/],
      [
        Object.fromEntries(Object.entries(out).filter(([name]) => name !== 'periods.jsonl')),
        /periods\.jsonl: It is missing/,
      ],
    ];
    for (const [at, [files, why]] of refusals.entries()) {
      const answer = await bring(files, 'Wrong');
      expect([at, answer.status < 500, answer.body.error.message]).toEqual([
        at,
        true,
        expect.stringMatching(why),
      ]);
    }
    const noZip = await keeper.sendFile('/api/companies/bundle', pdf);
    expect([noZip.status, noZip.body.error.message]).toEqual([422, expect.stringMatching(/no ZIP/)]);
    expect(await companies()).toEqual(before);
  });

  // A directory of a ZIP says how long a file is unpacked, and its checksum (APPNOTE.TXT, 4.3.12: offsets 24 and 16).
  it.each<[string, Zippable, number, (sum: number) => number, RegExp]>([
    [
      'far longer than it says',
      { 'papers/1': new Uint8Array(60_000_000) },
      24,
      (): number => 100,
      /papers\/1: It is not as long as it says/,
    ],
    [
      'far shorter than it says',
      { 'company.json': new Uint8Array(1_000) },
      24,
      (): number => 0xfffffff0,
      /company\.json: It is not as long as it says/,
    ],
    [
      'not what its checksum is of',
      { 'company.json': new Uint8Array(1_000) },
      16,
      (sum): number => (sum ^ 1) >>> 0,
      /company\.json: Its checksum does not fit/,
    ],
    [
      'longer than such a file is',
      { 'company.json': new Uint8Array(70_000) },
      24,
      (length): number => length,
      /company\.json: It unpacks to more than 65,536 bytes/,
    ],
  ])('with a file that is %s is refused', async (_, files, offset, forge, why) => {
    const forged = Buffer.from(zipSync(files));
    const at = forged.indexOf(Buffer.from([0x50, 0x4b, 1, 2])) + offset;
    forged.writeUInt32LE(forge(forged.readUInt32LE(at)), at);
    const answer = await keeper.sendFile('/api/companies/bundle', new Uint8Array(forged));
    expect([answer.status, answer.body.error.message]).toEqual([422, expect.stringMatching(why)]);
  });
});

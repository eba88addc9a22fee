import { strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
let sunniva: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  [ilka, sunniva] = [await server.as('ilka'), await server.as('sunniva')];
});
afterAll(() => server.stop());

// What a later Coffer has written, in a database whose form is this one's: a document, a setting, an event, a step that it
// alone knows. Whoever kept it so can read everything else, and is told what cannot be read.
describe('what another version wrote', () => {
  it('as a file of a company is refused by the name of its form', async () => {
    const files = unzipSync(new Uint8Array(await ilka.bytes('/api/company.zip')));
    const head = JSON.parse(new TextDecoder().decode(files['company.json'])) as object;
    const later = {
      ...files,
      'company.json': strToU8(JSON.stringify({ ...head, bundle: 'coffer.company/2', more: 1 })),
    };
    const { status, body } = await sunniva.sendFile(
      '/api/companies/bundle?name=Later',
      zipSync(later) as Uint8Array<ArrayBuffer>,
    );
    expect([status, body.error.message]).toEqual([422, expect.stringContaining('coffer.company/2')]);
  });

  it('as a document of an instrument is refused as well, and where it is kept all others are shown', async () => {
    const document = { ...loanDocument('Of tomorrow'), document: 'coffer.instrument/2' };
    const sent = await ilka.call('POST', '/api/instruments', { document });
    expect([sent.status, sent.body.error.faults[0]]).toEqual([
      422,
      { key: 'document', message: expect.stringContaining('coffer.instrument/2') },
    ]);
    const { id } = (await ilka.insist('POST', '/api/instruments', { document: loanDocument('Of tomorrow') }))
      .body;
    const before = (await ilka.call('GET', '/api/register?on=2026-10-31')).body.rows.length;
    await server.owned.raw(
      `insert into instrument_version (instrument_id, version, document, reason)
         select instrument_id, 2, jsonb_set(document, '{document}', '"coffer.instrument/2"'), 'Later'
         from instrument_version where instrument_id = ?`,
      [id],
    );
    await server.owned.raw('update instrument set version = 2 where id = ?', [id]);
    const register = await ilka.call('GET', '/api/register?on=2026-10-31');
    expect([register.status, register.body.rows.length]).toEqual([200, before - 1]);
    expect(JSON.stringify(register.body)).toContain('Of tomorrow');
    for (const path of ['/api/payments', '/api/periods/2026-10-31/close', '/api/trail'])
      expect([path, (await ilka.call('GET', path)).status]).toEqual([path, 200]);
    const one = await ilka.call('GET', `/api/instruments/${id}`);
    expect([one.status, one.body.error?.message]).toEqual([
      one.status,
      expect.stringContaining('coffer.instrument/2'),
    ]);
    expect(one.status).toBeLessThan(500);
  });

  it('as settings, events and steps that nobody here knows hinders nothing', async () => {
    await server.owned.raw(
      `insert into setting (company_id, key, was, value, holds_from, reason)
         values (1, 'of-tomorrow', '1', '{"a": [1]}', '2026-10-01', 'Later');
       insert into audit_event (company_id, person_id, action, subject, detail)
         values (1, null, 'of-tomorrow', 'x', '{"a": [1]}')`,
    );
    for (const path of ['/api/settings', '/api/trail', '/api/people', '/api/company', '/api/accounts'])
      expect([path, (await sunniva.call('GET', path)).status]).toEqual([path, 200]);
  });
});

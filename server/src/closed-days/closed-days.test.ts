import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ClosedDaysOfInstrument } from '@coffer/contract';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
let sunniva: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  ilka = await server.as('ilka');
  sunniva = await server.as('sunniva');
});
afterAll(() => server.stop());

const keep = async (...days: string[]): Promise<void> => {
  const closedDays = days.map((on) => ({ on, name: 'Regional holiday' }));
  const sent = { settings: { closedDays }, reason: 'As the region has it' };
  expect((await sunniva.call('POST', '/api/settings', sent)).status).toBe(200);
};
/** Those of these tests: the demo has a loan whose dates move. */
const lacking = async (): Promise<ClosedDaysOfInstrument[]> =>
  (await ilka.call('GET', '/api/closed-days')).body.instruments.filter(({ name }: ClosedDaysOfInstrument) =>
    names.has(name),
  );
const names = new Set<string>();
const take = (of: readonly ClosedDaysOfInstrument[]): Promise<Answer> => {
  const instruments = of.map(({ instrumentId: id, version }) => ({ id, version }));
  return ilka.insist('POST', '/api/closed-days', { reason: 'Holidays of the region', instruments });
};
const takenOn = async (name: string, closed?: string[]): Promise<string> => {
  const businessDays = { rule: 'following', calendar: 'TARGET', accrual: 'moved', ...(closed && { closed }) };
  const phases = [{ type: 'level', count: 12 }];
  const payments = { every: 'month', first: '2026-11-02', phases, businessDays };
  const { status, body } = await ilka.insist('POST', '/api/instruments', {
    document: loanDocument(name, { payments }),
  });
  expect(status).toBe(200);
  names.add(name);
  return body.id;
};
const closedOf = async (id: string): Promise<unknown> =>
  (await ilka.call('GET', `/api/instruments/${id}`)).body.document.payments.businessDays.closed;

// 2 February, 2 March and 2 April 2027 are a Tuesday, a Tuesday and a Friday on which TARGET is open.
describe('the closed days of a company', () => {
  it('reach instruments whose due dates move, as one reasoned change that was looked at', async () => {
    expect(await lacking()).toEqual([]);
    const id = await takenOn('Moving loan', ['2027-04-02']);
    const plain = await ilka.insist('POST', '/api/instruments', { document: loanDocument('Plain loan') });
    await keep('2027-02-02', '2041-02-02');
    const [seen, ...others] = await lacking();
    expect(others).toEqual([]);
    expect(seen).toMatchObject({
      instrumentId: id,
      follows: false,
      // What lies beyond its life it does not need.
      added: ['2027-02-02'],
      removed: [],
      moved: [{ from: '2027-02-02', to: '2027-02-03' }],
      faults: [],
    });
    expect(seen?.effect?.month).toEqual({
      before: seen?.effect?.month.after,
      after: seen?.effect?.month.before,
    });
    expect((await take(seen ? [{ ...seen, version: 7 }] : [])).body.error.code).toBe('changed-meanwhile');
    expect((await take(seen ? [seen] : [])).body.saved).toEqual([{ id, version: 2 }]);
    expect(await closedOf(id)).toEqual(['2027-02-02', '2027-04-02']);
    expect(await lacking()).toEqual([]);
    expect(plain.status).toBe(200);
  });

  it('go from who had them when the company has them no more, and its own stay', async () => {
    const other = await takenOn('Another loan');
    await keep('2027-03-02');
    const found = await lacking();
    expect(found.map(({ name, follows }) => [name, follows])).toEqual([
      ['Moving loan', true],
      ['Another loan', false],
    ]);
    expect(found[0]).toMatchObject({
      added: ['2027-03-02'],
      removed: ['2027-02-02'],
      moved: [
        { from: '2027-02-03', to: '2027-02-02' },
        { from: '2027-03-02', to: '2027-03-03' },
      ],
    });
    expect((await take(found)).status).toBe(200);
    expect(await closedOf(found[0]?.instrumentId ?? '')).toEqual(['2027-03-02', '2027-04-02']);
    expect(await closedOf(other)).toEqual(['2027-03-02']);
    await keep();
    expect((await take(await lacking())).status).toBe(200);
    expect(await closedOf(other)).toBeUndefined();
  });

  it('that an instrument cannot have are told in words, and nothing is kept of any', async () => {
    const id = await takenOn('Weekly loan');
    const { body } = await ilka.call('GET', `/api/instruments/${id}`);
    const { payments } = body.document;
    const weekly = { ...body.document, payments: { ...payments, every: 'week' } };
    const changed = { version: 1, document: weekly, reason: 'It is weekly' };
    expect((await ilka.insist('PUT', `/api/instruments/${id}`, changed)).status).toBe(200);
    // A week that is closed leaves two payments on one day.
    await keep('2026-11-09', '2026-11-10', '2026-11-11', '2026-11-12', '2026-11-13', '2026-11-16');
    const found = await lacking();
    const weeks = found.find(({ instrumentId }) => instrumentId === id);
    expect(weeks?.faults[0]).toContain('leave a business day to each');
    const refused = await take(found);
    expect(refused.status).toBe(422);
    expect(refused.body.error.faults[0].message).toContain('Weekly loan');
    expect(await lacking()).toEqual(found);
  });
});

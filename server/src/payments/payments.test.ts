import { afterAll, beforeAll, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

// Monthly mortgage payment tables, widely printed: 100,000 at 6 % over 360 pays 599.55, 500.00 of it interest in the
// first month; from memory.
const scheduled = { interest: 50_000, principal: 9955, amount: 59_955 };
const inOctober = (name: string): Record<string, unknown> =>
  loanDocument(name, {
    start: '2026-09-25',
    payments: { every: 'month', first: '2026-10-25', phases: [{ type: 'level', count: 360 }] },
  });

const takeOn = async (document: object): Promise<string> => {
  const { status, body, text } = await preparer.insist('POST', '/api/instruments', { document });
  expect(status, text).toBe(200);
  return body.id;
};
const record = (payments: object[], by = preparer): Promise<Answer> =>
  by.call('POST', '/api/payments', { payments });
const dueOf = async (id: string): Promise<Record<string, unknown>[]> => {
  const { body } = await preparer.call('GET', '/api/payments');
  expect(body.month).toBe('2026-10-31');
  return body.payments.filter((payment: { instrumentId: string }) => payment.instrumentId === id);
};
const versionOf = async (id: string): Promise<number> =>
  (await preparer.call('GET', `/api/instruments/${id}`)).body.version;

it('lists what falls due in the open month as agreed, and what was booked of it once it is recorded', async () => {
  const instrumentId = await takeOn(inOctober('Listed loan'));
  const [due] = await dueOf(instrumentId);
  expect(due).toMatchObject({ n: 1, due: '2026-10-25', ...scheduled, recorded: [], version: 1 });
  await record([{ instrumentId, version: 1, due: '2026-10-25', on: '2026-11-02', amount: '0.00' }]);
  const [missed] = await dueOf(instrumentId);
  const nothing = [{ on: '2026-11-02', amount: 0 }];
  expect(missed).toMatchObject({ ...scheduled, principal: 0, recorded: nothing, version: 2 });
});

it('lists a credit line’s bill and records it', async () => {
  const instrumentId = await takeOn({
    document: 'coffer.instrument/1',
    kind: 'credit-line',
    name: 'Listed line',
    currency: 'EUR',
    start: '2026-10-01',
    matures: '2027-09-30',
    limit: '50000.00',
    rate: { annual: '7.3%', dayCount: 'ACT/365F' },
    events: [{ type: 'draw', on: '2026-10-01', amount: '10000.00' }],
  });
  const [due] = await dueOf(instrumentId);
  // Simple interest, common practice: 10,000 x 7.3 % is 2.00 a day, for 30 days until the bill on the 31st.
  expect(due).toMatchObject({ due: '2026-10-31', interest: 6000, principal: 0, amount: 6000 });
  const paid = { instrumentId, version: 1, due: '2026-10-31', on: '2026-10-31', amount: '60.00' };
  expect((await record([paid])).body).toEqual({ payments: 1, instruments: 1 });
});

it('records many at once, each instrument in one version that says what was paid', async () => {
  const [one, other] = [await takeOn(inOctober('Bulk one')), await takeOn(inOctober('Bulk other'))];
  const paid = (instrumentId: string, due: string): object => ({
    instrumentId,
    version: 1,
    due,
    on: due,
    amount: '599.55',
  });
  const payments = [paid(one, '2026-10-25'), paid(other, '2026-10-25'), paid(one, '2026-11-25')];
  const { body } = await preparer.insist('POST', '/api/payments', { payments });
  expect(body).toEqual({ payments: 3, instruments: 2 });
  const { body: view } = await preparer.call('GET', `/api/instruments/${one}`);
  expect(view.version).toBe(2);
  expect(view.versions[0].reason).toMatch(/2026-10-25 recorded: 599\.55.*2026-11-25 recorded: 599\.55/);
});

it('refuses all when one cannot be, at the payment and field at fault', async () => {
  const [good, bad] = [await takeOn(inOctober('Good one')), await takeOn(inOctober('Bad one'))];
  const payment = { version: 1, due: '2026-10-25', on: '2026-10-25', amount: '599.55' };
  const refused = async (more: object, key: string): Promise<void> => {
    const { status, body } = await record([
      { ...payment, instrumentId: good },
      { ...payment, instrumentId: bad, ...more },
    ]);
    expect(status).toBe(422);
    expect(body.error.faults.map((fault: { key: string }) => fault.key)).toEqual([`payments.1.${key}`]);
  };
  await refused({ due: '2026-10-26' }, 'due');
  await refused({ on: '2026-09-01' }, 'on');
  await refused({ amount: '1,000' }, 'amount');
  await refused({ instrumentId: good }, 'due');
  expect([await versionOf(good), await versionOf(bad)]).toEqual([1, 1]);
});

// Common practice: instalments are paid in parts; each counts once, on its day.
it('takes a payment in parts, and a correction in place of all of them', async () => {
  const instrumentId = await takeOn(inOctober('Parts loan'));
  const part = { instrumentId, version: 1, due: '2026-10-25', on: '2026-10-25', amount: '400.00' };
  await record([part]);
  const rest = { ...part, version: 2, on: '2026-10-28', amount: '199.55', adds: true };
  expect((await record([rest])).body).toEqual({ payments: 1, instruments: 1 });
  const [due] = await dueOf(instrumentId);
  expect(due?.['recorded']).toEqual([
    { on: '2026-10-25', amount: 40_000 },
    { on: '2026-10-28', amount: 19_955 },
  ]);
  await record([{ ...part, version: 3, amount: '599.55', corrects: true }]);
  const [corrected] = await dueOf(instrumentId);
  expect(corrected?.['recorded']).toEqual([{ on: '2026-10-25', amount: 59_955 }]);
});

it('is refused twice unless it corrects, from an old version, for a bond, and to who only reads', async () => {
  const instrumentId = await takeOn(inOctober('Corrected loan'));
  const paid = { instrumentId, version: 1, due: '2026-10-25', on: '2026-10-25', amount: '599.55' };
  await record([paid]);
  expect((await record([{ ...paid, version: 2 }])).body.error.faults[0].message).toMatch(/recorded already/);
  expect((await record([{ ...paid, due: '2026-11-25', on: '2026-11-25' }])).body.error.code).toBe(
    'stale-version',
  );
  const corrected = await record([{ ...paid, version: 2, amount: '600.00', corrects: true }]);
  expect(corrected.body).toEqual({ payments: 1, instruments: 1 });
  const [due] = await dueOf(instrumentId);
  // 600.00 less 500.00 of interest.
  const parts = [{ on: '2026-10-25', amount: 60_000 }];
  expect(due).toMatchObject({ ...scheduled, principal: 10_000, recorded: parts });
  const { body } = await preparer.call('GET', '/api/register?on=2026-10-31');
  const bond = body.rows.find((row: { kind: string }) => row.kind === 'bond');
  const ofBond = await record([{ ...paid, instrumentId: bond.id, version: bond.version }]);
  expect(ofBond.body.error.faults[0].message).toMatch(/Coupons/);
  expect((await record([paid], await server.as('tobiah'))).status).toBe(403);
});

// Common practice: what is overdue is asked for first.
it('lists arrears of a closed month first, with what they still lack, until they are paid', async () => {
  const instrumentId = await takeOn(inOctober('Overdue loan'));
  const paid = { instrumentId, version: 1, due: '2026-10-25', on: '2026-10-25', amount: '400.00' };
  await record([paid]);
  expect(await dueOf(instrumentId)).toMatchObject([{ due: '2026-10-25', left: 19_955 }]);
  const close = '/api/periods/2026-10-31';
  const { digest } = (await preparer.call('GET', `${close}/close`)).body;
  await preparer.insist('POST', `${close}/hand-over`, { digest });
  const reviewer = await server.as('bram');
  expect((await reviewer.insist('POST', `${close}/approve`, { digest })).status).toBe(200);

  const { payments } = (await preparer.call('GET', '/api/payments')).body;
  const ofIt = payments.filter((payment: { instrumentId: string }) => payment.instrumentId === instrumentId);
  expect(ofIt).toMatchObject([
    { due: '2026-10-25', n: 1, left: 19_955, recorded: [{ on: '2026-10-25', amount: 40_000 }] },
    { due: '2026-11-25', n: 2, left: 0, recorded: [] },
  ]);
  const short = payments.filter(({ due }: { due: string }) => due < '2026-11-01');
  expect(payments.slice(0, short.length)).toEqual(short);
  const rest = { ...paid, version: 2, on: '2026-11-10', amount: '199.55', adds: true };
  expect((await record([rest])).body).toEqual({ payments: 1, instruments: 1 });
  const after = (await preparer.call('GET', '/api/payments')).body.payments;
  expect(after.filter((payment: { due: string }) => payment.due < '2026-11-01')).toEqual(
    short.filter((payment: { instrumentId: string }) => payment.instrumentId !== instrumentId),
  );
});

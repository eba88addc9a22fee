import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CloseCheck, CloseFund, EntryView, FundRowView } from '@coffer/contract';
import { TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  await server.alone();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

/** What the command line works out, as it stands in the demo's folder. */
const redemption = (): Record<string, unknown> =>
  JSON.parse(readFileSync(new URL('../../../demo/funds/redemption-fund-2034.json', import.meta.url), 'utf8'));
const takeOn = (more: object = {}): Promise<Answer> =>
  preparer.insist('POST', '/api/instruments', { document: { ...redemption(), ...more } });
const register = async (on: string): Promise<FundRowView[]> =>
  (await preparer.call('GET', `/api/register?on=${on}`)).body.funds;
const close = async (
  endsOn: string,
): Promise<{ funds: CloseFund[]; checks: CloseCheck[]; rows: unknown[] }> =>
  (await preparer.call('GET', `/api/periods/${endsOn}/close`)).body;
const lock = (endsOn: string): Promise<Answer> => preparer.insist('POST', `/api/periods/${endsOn}/lock`, {});
const entriesOf = async (endsOn: string, id: string): Promise<EntryView[]> =>
  (await preparer.call('GET', `/api/periods/${endsOn}/close/${id}`)).body.entries;

describe('a fund in the books', () => {
  it.each([
    [{ for: 'No such bonds' }, 'for'],
    [{ for: undefined }, 'for'],
    [{ for: ['5.50% bonds due 2034', '4.75% notes due 2031'] }, 'for'],
    [{ currency: 'USD' }, 'currency'],
    [{ count: undefined }, 'deposit'],
    [{ events: [{ type: 'paid', due: '2026-10-02', on: '2026-10-02', amount: '1.00' }] }, 'events.0.due'],
  ])('is refused where it repays nothing, or two, or cannot be: %j', async (more, key) => {
    const { status, body } = await takeOn(more);
    expect([status, body.error.faults.map((fault: { key: string }) => fault.key)]).toEqual([422, [key]]);
  });

  it('is taken on, closed with the months, reported, corrected and withdrawn like the rest', async () => {
    const { status, body } = await takeOn();
    expect(status).toBe(200);
    const { id } = body;
    // Ten deposits by 1 October 2026, of 40 from 1 July 2024.
    const [october] = await register('2026-10-31');
    expect(october).toMatchObject({ id, repays: '5.50% bonds due 2034', owed: 300_000_000, rate: '2.40%' });
    const made = october?.figures;
    expect(made && made.balance).toBe((made?.deposited ?? 0) + (made?.earned ?? 0));
    expect(october?.next?.due).toBe('2027-01-01');
    expect(await register('2024-06-30')).toEqual([]);

    // Older than the books: what it held by then is brought in, and the month's own deposit is booked.
    const before = await close('2026-10-31');
    expect(before.funds.map((fund) => fund.figures)).toEqual([made]);
    expect(before.checks.find(({ of }) => of === 'funds')).toMatchObject({
      instruments: (made?.balance ?? 0) + (made?.accruedInterest ?? 0),
      difference: 0,
    });
    const entries = await entriesOf('2026-10-31', id);
    expect(entries.map(({ kind, date }) => [kind, date])).toEqual([
      ['opening', '2026-10-01'],
      ['reversal', '2026-10-01'],
      ['payment', '2026-10-01'],
      ['accrual', '2026-10-31'],
    ]);
    await lock('2026-10-31');
    expect(await server.disagreements()).toEqual([]);
    const reported = await preparer.call('GET', `/api/instruments/${id}`);
    expect(reported.body.reportedFund).toEqual([{ periodEnd: '2026-10-31', version: 1, figures: made }]);
    expect((await close('2026-10-31')).funds.map((fund) => fund.figures)).toEqual([made]);

    // A deposit recorded late and short: the closed month stays as reported, the open one makes it good.
    const { body: now } = await preparer.call('GET', `/api/instruments/${id}`);
    const paid = { type: 'paid', due: '2026-10-01', on: '2026-10-20', amount: '1000.00' };
    const changed = {
      version: 1,
      document: { ...now.document, events: [paid] },
      reason: 'As the bank has it',
    };
    await preparer.insist('PUT', `/api/instruments/${id}`, changed);
    expect((await register('2026-10-31'))[0]?.figures).toEqual(made);
    const corrections = (await entriesOf('2026-11-30', id)).filter(({ kind }) => kind === 'correction');
    expect(corrections.map(({ forPeriod }) => forPeriod)).toEqual(['2026-10-31']);
    const cash = corrections.flatMap(({ lines }) => lines).find(({ role }) => role === 'cash');
    expect(cash?.debit).toBeGreaterThan(0);
    await lock('2026-11-30');
    expect(await server.disagreements()).toEqual([]);
    const [november] = await register('2026-11-30');
    expect(november?.figures.deposited).toBe((made?.deposited ?? 0) - (cash?.debit ?? 0));

    // A debt stays one: neither becomes the other.
    const kinds = await preparer.call('PUT', `/api/instruments/${id}`, {
      version: 2,
      document: { ...now.document, kind: 'loan' },
      reason: 'No',
    });
    expect([kinds.status, kinds.body.error.faults[0].key]).toEqual([422, 'kind']);

    await preparer.insist('POST', `/api/instruments/${id}/withdrawal`, { version: 2, reason: 'By mistake' });
    expect(await register('2026-12-31')).toEqual([]);
    const out = await close('2026-12-31');
    expect(out.checks.find(({ of }) => of === 'funds')).toMatchObject({ instruments: 0, journal: 0 });
    await lock('2026-12-31');
    expect(await server.disagreements()).toEqual([]);
  });

  it('is paid out when its last deposit is made, and then is gone from register and books', async () => {
    const { body } = await takeOn({
      name: 'Short fund',
      goal: '90000.00',
      every: 'month',
      first: '2027-01-10',
      count: 2,
    });
    const named = async (on: string): Promise<string[]> =>
      (await register(on)).map(({ name }) => name).filter((name) => name === 'Short fund');
    expect(await named('2027-01-31')).toEqual(['Short fund']);
    await lock('2027-01-31');
    expect(await named('2027-02-28')).toEqual([]);
    const entries = await entriesOf('2027-02-28', body.id);
    const redeemed = entries.find(({ kind }) => kind === 'redemption');
    expect(redeemed?.lines.map(({ role, debit, credit }) => [role, debit, credit])).toEqual([
      ['cash', 9_000_000, 0],
      ['sinking-fund', 0, 9_000_000],
    ]);
    const { checks } = await close('2027-02-28');
    expect(checks.find(({ of }) => of === 'funds')).toMatchObject({
      instruments: 0,
      journal: 0,
      difference: 0,
    });
    await lock('2027-02-28');
    expect((await close('2027-03-31')).funds).toEqual([]);
    expect(await server.disagreements()).toEqual([]);
  });

  it('is no part of a scenario, a portfolio or the payments, and has no schedule of a debt', async () => {
    const { body } = await takeOn({ name: 'Fund beside' });
    const changes = [{ instrumentId: body.id, version: 1, terms: { lender: 'Osier' } }];
    expect((await preparer.call('POST', '/api/scenarios', { name: 'Of a fund', changes })).status).toBe(404);
    const listed = await Promise.all(
      ['/api/payments', '/api/portfolio?from=2026-10-01&to=2027-09-30&by=month&show=closing'].map((path) =>
        preparer.call('GET', path),
      ),
    );
    for (const { text } of listed) expect(text).not.toContain('Fund beside');
    for (const file of ['schedule.csv', 'schedule.xlsx', 'working-paper.pdf?on=2026-10-31']) {
      const answer = await preparer.call('GET', `/api/instruments/${body.id}/${file}`);
      expect([file, answer.status]).toEqual([file, 409]);
    }
    const { body: document } = await preparer.call('GET', `/api/instruments/${body.id}/document.json`);
    expect(document).toEqual({ ...redemption(), name: 'Fund beside' });
    await preparer.insist('POST', `/api/instruments/${body.id}/withdrawal`, { version: 1, reason: 'Tried' });
  });
});

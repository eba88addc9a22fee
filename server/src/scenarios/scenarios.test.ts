import { randomUUID } from 'node:crypto';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeFaults, PortfolioRow, RegisterRow, SideBySideView } from '@coffer/contract';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

/** A loan of 100,000.00 at 6 % over 60 months from January 2026, under a name of its own. */
async function loan(name: string): Promise<string> {
  const document = loanDocument(`${name} ${randomUUID().slice(0, 8)}`, {
    takenOn: { accruedInterest: '0.00' },
    payments: { every: 'month', first: '2026-12-10', phases: [{ type: 'level', count: 60 }] },
    start: '2026-11-10',
  });
  const { body } = await preparer.insist('POST', '/api/instruments', { document });
  return body.id;
}
const raised = (instrumentId: string, payment = '5000.00', on = '2027-02-10'): object => ({
  instrumentId,
  version: 1,
  events: [{ type: 'payment-change', on, payment }],
});
const keep = (...changes: object[]): Promise<Answer> =>
  preparer.call('POST', '/api/scenarios', { name: `Faster ${randomUUID().slice(0, 8)}`, changes });
const adopt = ({ body }: Answer, more: object = {}): Promise<Answer> =>
  preparer.call('POST', `/api/scenarios/${body.id}/terms`, {
    revision: body.revision,
    reason: 'Agreed with the bank',
    ...more,
  });
const instrument = async (id: string): Promise<Answer['body']> =>
  (await preparer.call('GET', `/api/instruments/${id}`)).body;
const span = { from: '2026-11-01', to: '2027-10-31', by: 'month', show: 'payment' };
const portfolioRow = async (id: string): Promise<PortfolioRow> => {
  const { body } = await preparer.call('GET', `/api/portfolio?${new URLSearchParams(span).toString()}`);
  return body.rows.find((row: { id: string }) => row.id === id);
};
const tried = (...changes: object[]): Promise<Answer> =>
  preparer.call('POST', '/api/portfolio/tried', { asked: span, on: '2026-10-31', changes });

describe('a scenario', () => {
  it('is kept, seen by everybody, changed from its newest revision only, and taken away', async () => {
    const [one, other] = [await loan('One'), await loan('Other')];
    const kept = await keep(raised(one));
    const named = { name: kept.body.name, changes: [raised(one), raised(other)] };
    const put = (revision: number): Promise<Answer> =>
      preparer.call('PUT', `/api/scenarios/${kept.body.id}`, { revision, ...named });
    const changed = await put(1);
    expect([changed.status, changed.body.revision, changed.body.changes.length]).toEqual([200, 2, 2]);
    expect([(await put(1)).status, (await put(1)).body.error.code]).toEqual([409, 'stale-revision']);
    const auditor = await server.as('tobiah');
    const { body } = await auditor.call('GET', '/api/scenarios');
    expect(body.scenarios.find(({ id }: { id: string }) => id === kept.body.id)).toEqual(changed.body);
    expect((await auditor.call('POST', '/api/scenarios', named)).status).toBe(403);
    const drop = (revision: number): Promise<Answer> =>
      preparer.call('DELETE', `/api/scenarios/${kept.body.id}?revision=${revision}`);
    expect([(await drop(1)).status, (await drop(2)).status, (await drop(2)).status]).toEqual([409, 200, 404]);
    // It was never part of the books.
    expect((await instrument(one)).version).toBe(1);
  });

  it('becomes the terms of all that it changes, with one reason, and is what was tried', async () => {
    const [one, other] = [await loan('One'), await loan('Other')];
    const before = await portfolioRow(one);
    const { body } = await tried(raised(one), raised(other, '4000.00'));
    const done = await adopt(await keep(raised(one), raised(other, '4000.00')));
    expect([done.status, done.body.saved.map(({ version }: { version: number }) => version)]).toEqual([
      200,
      [2, 2],
    ]);
    for (const id of [one, other]) {
      const { versions } = await instrument(id);
      expect(versions[0]).toMatchObject({ version: 2, reason: 'Agreed with the bank', madeBy: 'Ilka Varga' });
      const row = await portfolioRow(id);
      const was = body.rows.find((each: { id: string }) => each.id === id);
      expect(row.values).toEqual(was.values);
    }
    const after = await portfolioRow(one);
    // Payments of December and January come before the change; February's is the first of the new amount.
    expect(after.values.slice(0, 3)).toEqual(before.values.slice(0, 3));
    expect([after.values[3], before.values[3]]).toEqual([500_000, before.values[1]]);
    expect(body.rows[0].changed.interest).toBeLessThan(body.rows[0].asItIs.interest);
  });

  it('changes nothing where one instrument was changed or withdrawn meanwhile, naming it', async () => {
    const [one, other, gone] = [await loan('One'), await loan('Other'), await loan('Gone')];
    const kept = await keep(raised(one), raised(other), raised(gone));
    const { document } = await instrument(other);
    await preparer.insist('PUT', `/api/instruments/${other}`, {
      version: 1,
      document,
      reason: 'Looked over',
    });
    await preparer.insist('POST', `/api/instruments/${gone}/withdrawal`, {
      version: 1,
      reason: 'By mistake',
    });
    const refused = await adopt(kept);
    expect([refused.status, refused.body.error.code]).toEqual([409, 'changed-meanwhile']);
    expect(refused.body.error.message).toMatch(/Other .* was changed, Gone .* was withdrawn/);
    expect((await instrument(one)).version).toBe(1);
  });

  it('changes nothing where one change cannot be, naming the change', async () => {
    const [one, other] = [await loan('One'), await loan('Other')];
    const refused = await adopt(await keep(raised(one), raised(other, 'much')));
    expect(refused.status).toBe(422);
    expect(refused.body.error.faults[0].key).toMatch(/^changes\.1\./);
    expect((await instrument(one)).version).toBe(1);
  });

  it('never brings another currency into the books', async () => {
    const one = await loan('One');
    const refused = await adopt(await keep({ instrumentId: one, version: 1, terms: { currency: 'USD' } }));
    expect([refused.status, refused.body.error.faults[0].key]).toEqual([422, 'changes.0.terms.currency']);
    expect((await instrument(one)).version).toBe(1);
  });

  it('leaves as files that say what is seen, named in head and file name', async () => {
    const [one, other] = [await loan('One'), await loan('Other')];
    const { body } = await tried(raised(one, '4000.00'));
    const fileOf = (as: string, ...changes: object[]): Promise<Answer> =>
      preparer.call('POST', '/api/portfolio/tried-file', {
        asked: span,
        on: '2026-10-31',
        scenario: 'Faster',
        changes,
        as,
      });
    const csv = await fileOf('csv', raised(one, '4000.00'));
    expect(csv.headers.get('content-disposition')).toContain(
      'Portfolio payment 2026-11-01 to 2027-10-31, scenario Faster.csv',
    );
    const lines = parse(csv.text, { columns: true, bom: true }) as Record<string, string>[];
    expect(new Set(lines.map(({ scenario }) => scenario))).toEqual(new Set(['Faster']));
    const amountsOf = (id: string): string[] => {
      const line = lines.find(({ name }) => name === names.get(id)) ?? {};
      return Object.entries(line).flatMap(([key, value]) => (key.startsWith('20') ? [value] : []));
    };
    const names = new Map<string, string>();
    for (const id of [one, other]) names.set(id, (await instrument(id)).document.name);
    const [changed] = body.rows as PortfolioRow[];
    expect(amountsOf(one)).toEqual(changed?.values.map((minor) => (minor / 100).toFixed(2)));
    const asItIs = await portfolioRow(other);
    expect(amountsOf(other)).toEqual(asItIs.values.map((minor) => (minor / 100).toFixed(2)));
    expect(amountsOf(one)).not.toEqual(
      (await portfolioRow(one)).values.map((minor) => (minor / 100).toFixed(2)),
    );
    const [book, paper] = [await fileOf('xlsx', raised(one)), await fileOf('pdf', raised(one))];
    expect([book.text.slice(0, 2), paper.text.slice(0, 5)]).toEqual(['PK', '%PDF-']);
    // What does not fit is in no file.
    const unfit = await fileOf('csv', raised(one, 'much'));
    expect([unfit.status, unfit.body.error.code]).toEqual([422, 'does-not-fit']);
  });

  it('is told what is wrong of it as it is tried, and the others are worked out', async () => {
    const [one, other] = [await loan('One'), await loan('Other')];
    const { body } = await tried(raised(one, 'much'), raised(other));
    expect(
      body.faulty.map(({ instrumentId, faults }: ChangeFaults) => [instrumentId, faults[0]?.key]),
    ).toEqual([[one, 'events.0.payment']]);
    expect(body.rows.map(({ id }: { id: string }) => id)).toEqual([other]);
  });

  it.each([
    [[], 'changes'],
    [['twice', 'twice'], 'changes'],
    [['nothing'], 'changes.0'],
    [['version'], 'changes.0.version'],
  ])('is refused for changes that are none or not one: %j', async (which, key) => {
    const id = await loan('One');
    const change: Record<string, object> = {
      twice: raised(id),
      nothing: { instrumentId: id, version: 1 },
      version: { ...raised(id), version: 9 },
    };
    const { status, body } = await keep(...which.map((name) => change[name] as object));
    expect([status, body.error.faults[0]?.key]).toEqual([422, key]);
  });
});

describe('side by side', () => {
  it('stand all instruments, with what each scenario makes of those that it changes', async () => {
    const [one, other] = [await loan('One'), await loan('Other')];
    const scenarios = [[raised(one)], [raised(one, '9000.00'), raised(other)]];
    const { body } = await preparer.call('POST', '/api/scenarios/side-by-side', {
      on: '2026-10-31',
      scenarios,
    });
    const rows = new Map<string, SideBySideView['rows'][number]>(
      body.rows.map((row: { id: string }) => [row.id, row]),
    );
    expect([...rows.keys()].sort()).toEqual([one, other].sort());
    expect(rows.get(other)?.columns[1]).toBeNull();
    const [asItIs, ...under] = body.columns;
    under.forEach(({ all, owed }: SideBySideView['columns'][number], at: number) => {
      const moved = [...rows.values()].reduce((sum, { columns }) => {
        const before = columns[0]?.interest ?? 0;
        return sum + (columns[at + 1]?.interest ?? before) - before;
      }, 0);
      expect(all.interest - asItIs.all.interest).toBe(moved);
      expect(owed).toHaveLength(body.days.length);
      // Three months on nothing was changed yet; a year on, what is told as owed then.
      expect(owed.slice(0, 4)).toEqual(asItIs.owed.slice(0, 4));
      expect(owed[12]).toBe(all.owedAfter);
    });
    expect(under[1].all.interest).toBeLessThan(under[0].all.interest);
    const { body: register } = await preparer.call('GET', '/api/register?on=2026-10-31');
    const outstanding = register.rows.reduce(
      (sum: number, row: RegisterRow) => sum + row.figures.outstanding,
      0,
    );
    expect(asItIs.owed[0]).toBe(outstanding);
  });
});

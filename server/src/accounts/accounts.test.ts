import {
  closeSteps,
  isOffTheLedger,
  type AccountOfRole,
  type ChartView,
  type CloseView,
  type EntryView,
} from '@coffer/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
beforeAll(async () => {
  server = await TestServer.startEmpty('2026-10-01');
  ilka = await server.as('ilka');
});
afterAll(() => server.stop());

const chart = async (): Promise<ChartView> => (await ilka.call('GET', '/api/accounts')).body;
const keep = async (change: (view: ChartView) => Partial<ChartView>, by = ilka): Promise<Answer> => {
  const view = await chart();
  const { revision, accounts, defaults } = { ...view, ...change(view) };
  return by.call('PUT', '/api/accounts', {
    revision,
    accounts: accounts.map(({ code, name }) => ({ code, name })),
    defaults,
  });
};
const without = (role: string, all: AccountOfRole[]): AccountOfRole[] =>
  all.filter((each) => each.role !== role);
const faults = ({ body }: Answer): string[] =>
  body.error.faults.map(({ message }: { message: string }) => message);
const entriesOf = async (id: string, endsOn: string): Promise<EntryView[]> =>
  (await ilka.call('GET', `/api/periods/${endsOn}/close/${id}`)).body.entries;
/** What the journal holds in an account by its code, debits positive. */
const held = async (code: string): Promise<number> => {
  const { body } = await ilka.call('GET', '/api/journal?from=2026-10-01&to=2027-03-31');
  const lines = (body.entries as EntryView[]).flatMap((entry) => entry.lines);
  return lines.filter((line) => line.code === code).reduce((sum, line) => sum + line.debit - line.credit, 0);
};
let id: string;

describe('the chart', () => {
  it('is replaced as a whole, from what was seen, and refuses what cannot be', async () => {
    const { revision, accounts } = await chart();
    const more = [...accounts, { code: '2511', name: 'Loan of the owner', posted: false, instruments: 0 }];
    expect((await keep(() => ({ accounts: more }))).body).toEqual({ revision: revision + 1 });
    expect((await keep(() => ({ revision }))).body.error.code).toBe('stale-version');
    const twice = await keep((view) => ({ accounts: [...view.accounts, more[0]] as ChartView['accounts'] }));
    expect(faults(twice)[0]).toMatch(/^The code 1010 stands in line 1 already/);
    const unknown = await keep((view) => ({
      defaults: [...without('cash', view.defaults), { role: 'cash', code: '9' }],
    }));
    expect(faults(unknown)).toEqual(['There is no account 9 in the chart.']);
    const doubled = await keep((view) => ({ defaults: [...view.defaults, { role: 'cash', code: '1010' }] }));
    expect(faults(doubled)).toEqual(['This role has an account already.']);
    // Nothing of what was refused is there.
    expect((await chart()).accounts.map(({ code }) => code)).toEqual(more.map(({ code }) => code).sort());
  });

  it('lacks no account that the month needs, or it is said before the close and nothing is posted', async () => {
    ({ id } = (await ilka.insist('POST', '/api/instruments', { document: loanDocument('Press loan') })).body);
    await keep((view) => ({ defaults: without('interest-expense', without('loan-payable', view.defaults)) }));
    const close = (await ilka.call('GET', '/api/periods/2026-10-31/close')).body;
    expect(close.missingAccounts).toEqual(['loan-payable', 'interest-expense']);
    const refused = await ilka.insist('POST', '/api/periods/2026-10-31/lock', {});
    expect(refused.body.error.message).toMatch(/no account stands for Loan payable, Interest expense\./);
    expect((await ilka.call('GET', '/api/journal?from=2026-10-01&to=2026-10-31')).body.count).toBe(0);
    await keep((view) => ({
      defaults: [
        ...view.defaults,
        { role: 'loan-payable', code: '2510' },
        { role: 'interest-expense', code: '7310' },
      ],
    }));
    expect((await ilka.call('GET', '/api/periods/2026-10-31/close')).body.missingAccounts).toEqual([]);
  });
});

describe('an instrument’s own account', () => {
  const own = (accounts: object[], costCentre: string | null): Promise<Answer> =>
    ilka.call('PUT', `/api/instruments/${id}/accounts`, { accounts, costCentre });

  it('stands for a role, and its cost centre for the instrument, in drafts, ledger and files', async () => {
    expect(faults(await own([{ role: 'loan-payable', code: '99' }], null))).toEqual([
      'There is no account 99 in the chart.',
    ]);
    expect((await own([{ role: 'loan-payable', code: '2511' }], 'Press shop')).status).toBe(200);
    const drafted = await entriesOf(id, '2026-10-31');
    const [issue] = drafted.filter(({ kind }) => kind === 'issue');
    expect(issue?.costCentre).toBe('Press shop');
    expect(issue?.lines.map(({ code, account }) => [code, account])).toEqual([
      ['1010', 'Cash at bank'],
      ['2511', 'Loan of the owner'],
    ]);
    expect((await ilka.insist('POST', '/api/periods/2026-10-31/lock', {})).status).toBe(200);
    expect(await held('2511')).toBeLessThan(0);
    const { text } = await ilka.call('GET', '/api/journal.csv?from=2026-10-01&to=2026-10-31');
    expect(text).toMatch(/,2511,Loan of the owner,Press shop,/);
    const { instruments, posted } = (await chart()).accounts.find(({ code }) => code === '2511') ?? {};
    expect([instruments, posted]).toEqual([1, true]);
    const gone = await keep((view) => ({ accounts: view.accounts.filter(({ code }) => code !== '2511') }));
    expect(faults(gone)[0]).toMatch(/2511 Loan of the owner cannot go away: entries are posted in it/);
  });

  it('is given up with its balance moved by an entry of the open month; what is posted keeps its code', async () => {
    const stood = await held('2511');
    await own([], null);
    const close = (await ilka.call('GET', '/api/periods/2026-11-30/close')).body;
    const transfer = close.sums.find(({ kind }: { kind: string }) => kind === 'transfer');
    expect(
      transfer.lines.map(({ code, debit, credit }: EntryView['lines'][number]) => [code, debit, credit]),
    ).toEqual([
      ['2511', -stood, 0],
      ['2510', 0, -stood],
    ]);
    for (const { difference } of close.checks) expect(difference).toBe(0);
    await ilka.insist('POST', '/api/periods/2026-11-30/lock', {});
    expect(await held('2511')).toBe(0);
    const october = (await ilka.call('GET', '/api/journal?from=2026-10-01&to=2026-10-31')).body
      .entries as EntryView[];
    expect(
      october.flatMap(({ lines }) => lines).filter(({ code }) => code === '2511').length,
    ).toBeGreaterThan(0);
    // Once moved it is moved: the month after has nothing to move.
    const after = (await ilka.call('GET', '/api/periods/2026-12-31/close')).body;
    expect(after.sums.filter(({ kind }: { kind: string }) => kind === 'transfer')).toEqual([]);
    expect(await server.disagreements()).toEqual([]);
  });
});

// Common practice: only a bank moves money from one of its accounts to another.
it('leaves cash in the account that it was paid from, and pays from the new one', async () => {
  const changed = await keep((view) => ({
    accounts: [...view.accounts, { code: '1011', name: 'Second bank', posted: false, instruments: 0 }],
    defaults: [...without('cash', view.defaults), { role: 'cash', code: '1011' }],
  }));
  expect(changed.status).toBe(200);
  const [first, second] = [await held('1010'), await held('1011')];
  expect([first > 0, second]).toEqual([true, 0]);
  const december = (await ilka.call('GET', '/api/periods/2026-12-31/close')).body;
  expect(december.sums.filter(({ kind }: { kind: string }) => kind === 'transfer')).toEqual([]);
  expect((await ilka.insist('POST', '/api/periods/2026-12-31/lock', {})).status).toBe(200);
  expect(await held('1010')).toBe(first);
  const paid = (await ilka.call('GET', '/api/journal?from=2026-12-01&to=2026-12-31')).body
    .entries as EntryView[];
  const payments = paid.flatMap(({ kind, lines }) => (kind === 'payment' ? lines : []));
  expect(payments.filter(({ role }) => role === 'cash').map(({ code }) => code)).toEqual(['1011']);
  expect(await held('1011')).toBeLessThan(0);
  expect(await server.disagreements()).toEqual([]);
});

describe('what is brought in', () => {
  it('ties to the ledger account by account, or nothing is locked', async () => {
    const own = await TestServer.startEmpty('2026-10-01');
    try {
      const preparer = await own.as('ilka');
      const started = {
        start: '2026-01-01',
        payments: { every: 'month', first: '2026-02-01', phases: [{ type: 'level', count: 12 }] },
      };
      await preparer.insist('POST', '/api/instruments', { document: loanDocument('Older loan', started) });
      const view = (): Promise<ChartView> => preparer.call('GET', '/api/accounts').then(({ body }) => body);
      // A year at 6 % in twelve level payments of 8,606.64: nine are paid by the end of September (annuity tables).
      const brought = (await view()).broughtIn;
      const owed = brought
        .filter(({ code }) => ['2510', '2150'].includes(code))
        .reduce((sum, each) => sum + each.brought, 0);
      const left = 100_000 * 1.005 ** 8 - (8606.64 * (1.005 ** 8 - 1)) / 0.005;
      expect(Math.abs(-owed / 100 - left)).toBeLessThan(0.05);
      // Account by account, what each instrument brings is what all of them bring.
      await preparer.insist('POST', '/api/instruments', {
        document: { ...loanDocument('Smaller loan', started), amount: '5000.00' },
      });
      for (const { code, brought: sum } of (await view()).broughtIn) {
        const { body } = await preparer.call('GET', `/api/accounts/brought-in?code=${code}`);
        const of = body.instruments as { name: string; amount: number }[];
        expect(of.map(({ name }) => name)).toEqual(['Older loan', 'Smaller loan']);
        expect(of.reduce((total, { amount }) => total + amount, 0)).toBe(sum);
      }
      const balances = (await view()).broughtIn.map(({ code, brought: balance }) => ({ code, balance }));
      const ledger = (all: object[]): Promise<Answer> =>
        preparer.call('PUT', '/api/accounts/ledger', { balances: all });
      await ledger(balances.map((each, at) => (at === 0 ? { ...each, balance: each.balance + 1 } : each)));
      const refused = await preparer.insist('POST', '/api/periods/2026-10-31/lock', {});
      expect(refused.body.error.code).toBe('not-tied');
      const close = (await preparer.call('GET', '/api/periods/2026-10-31/close')).body;
      expect(close.brought.filter(isOffTheLedger)).toHaveLength(1);
      await ledger(balances);
      expect((await preparer.insist('POST', '/api/periods/2026-10-31/lock', {})).status).toBe(200);
      expect((await view()).broughtIn.map(({ brought: now }) => now)).toEqual(
        balances.map(({ balance }) => balance),
      );
      // The check stays with the closed month.
      const kept: CloseView = (await preparer.call('GET', '/api/periods/2026-10-31/close')).body;
      expect(closeSteps(kept, 2).find(({ name }) => name === 'Opening balances')).toMatchObject({
        state: 'done',
        text: `${balances.length} accounts tie to the ledger`,
      });
      expect((await ledger(balances)).body.error.code).toBe('period-closed');
    } finally {
      await own.stop();
    }
  });
});

// The elements of financial statements stand apart: an expense is no asset (IASB Conceptual Framework, 4.1).
describe('an account of another kind than a role asks for', () => {
  it.each([
    ['interest-expense', '1010', /Interest expense would stand in 1010 .*by its name is an asset account/],
    ['cash', '7310', /Cash would stand in 7310 .*account of the income statement/],
  ])('%s on %s is asked about by name, for all and for one instrument', async (role, code, told) => {
    const ilka = await server.as('ilka');
    const chart = (await ilka.call('GET', '/api/accounts')).body;
    const accounts = chart.accounts.map(({ code: of, name }: { code: string; name: string }) => ({
      code: of,
      name,
    }));
    const defaults = chart.defaults.map((each: { role: string; code: string }) =>
      each.role === role ? { role, code } : each,
    );
    const asked = await ilka.call('PUT', '/api/accounts', { revision: chart.revision, accounts, defaults });
    expect([asked.status, asked.body.error.code]).toEqual([409, 'to-confirm']);
    expect(asked.body.error.message).toMatch(told);
    expect(asked.body.error.confirm[0].code).toBe('other-kind');
    const { rows } = (await ilka.call('GET', '/api/register?on=2026-10-31')).body;
    const own = { accounts: [{ role, code }], costCentre: null };
    const address = `/api/instruments/${rows[0].id}/accounts`;
    expect((await ilka.call('PUT', address, own)).body.error.message).toMatch(told);
    expect((await ilka.insist('PUT', address, own)).status).toBe(200);
  });

  it('as it is nothing is asked', async () => {
    const ilka = await server.as('ilka');
    const { revision, accounts, defaults } = (await ilka.call('GET', '/api/accounts')).body;
    const lines = accounts.map(({ code, name }: { code: string; name: string }) => ({ code, name }));
    const away = await ilka.call('PUT', '/api/accounts', { revision, accounts: lines, defaults: [] });
    expect(away.status).toBe(200);
    const back = { revision: revision + 1, accounts: lines, defaults };
    expect((await ilka.call('PUT', '/api/accounts', back)).status).toBe(200);
  });
});

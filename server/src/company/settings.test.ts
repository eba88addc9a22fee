import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { loanDocument, setUpCode, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

const faults = ({ body }: Answer): string[] => body.error.faults.map(({ key }: { key: string }) => key);
const names = {
  'term-loan': 'Bank loans',
  'credit-line': 'Facilities',
  note: 'Promissory notes',
  bond: 'Debentures',
};

describe('the settings of a company whose months are closed', () => {
  let server: TestServer;
  let keeper: Caller;
  const decide = (settings: object, more: object = {}, by = keeper): Promise<Answer> =>
    by.call('POST', '/api/settings', { settings, reason: 'As the board decided', ...more });
  beforeEach(async () => {
    server = await TestServer.start();
    keeper = await server.as('sunniva');
  });
  afterEach(async () => {
    const found = await server.disagreements();
    await server.stop();
    expect(found).toEqual([]);
  });

  it('are decided by who administers it, kept with who, when and why, and told in the trail', async () => {
    const before = (await keeper.call('GET', '/api/settings')).body;
    expect(before.changes).toEqual([]);
    const habits = { numbers: 'point-comma', dates: 'day-first-dotted' };
    expect((await decide(habits, {}, await server.as('ilka'))).status).toBe(403);
    const { body } = await decide({ ...habits, classNames: names, belowZero: 'minus' });
    expect(body.settings).toEqual({ ...before.settings, ...habits, classNames: names });
    // What stays as it was is no change.
    expect(body.changes).toHaveLength(3);
    expect(body.changes).toContainEqual(
      expect.objectContaining({
        setting: 'numbers',
        was: 'comma-point',
        is: 'point-comma',
        reason: 'As the board decided',
        by: 'Sunniva Dahl',
      }),
    );
    const { body: company } = await (await server.as('tobiah')).call('GET', '/api/company');
    expect(company).toMatchObject({ habits: { ...habits, belowZero: 'minus' }, classNames: names });
    const [told] = await server
      .database('audit_event')
      .where({ action: 'settings-changed' })
      .select<{ detail: object }[]>('detail');
    expect(told?.detail).toMatchObject({ settings: { numbers: { was: 'comma-point', is: 'point-comma' } } });
    // The same once more is nothing.
    expect((await decide(habits)).body.changes).toHaveLength(3);
  });

  it('refuse what would move closed months, at its place, and keep nothing of what came with it', async () => {
    const refused = await decide({
      dates: 'year-first',
      currency: 'USD',
      fiscalYearEndMonth: 12,
      booksFrom: '2025-01-01',
    });
    expect([refused.status, faults(refused).sort()]).toEqual([
      422,
      ['settings.booksFrom', 'settings.currency', 'settings.fiscalYearEndMonth'],
    ]);
    for (const from of ['2026-09-01', '2026-10-15']) {
      const answer = await decide({ accruals: 'standing' }, { from });
      expect([answer.status, faults(answer)]).toEqual([422, ['from']]);
    }
    const twice = { ...names, bond: names.note };
    expect(faults(await decide({ classNames: twice }))).toEqual(['settings.classNames']);
    expect(faults(await decide({ name: 'orrin POTTERY' }))).toEqual(['settings.name']);
    const [eve, day] = [
      { on: '2026-12-24', name: 'Eve' },
      { on: '2026-12-25', name: 'Day' },
    ];
    expect(faults(await decide({ closedDays: [day, eve] }))).toEqual(['settings.closedDays']);
    expect(faults(await decide({}))).toEqual(['settings']);
    expect((await keeper.call('GET', '/api/settings')).body.changes).toEqual([]);
  });

  it('accruals stand from the month on that they are decided for, and no sooner', async () => {
    const preparer = await server.as('ilka');
    const accrualsOf = async (endsOn: string): Promise<string> =>
      (await preparer.call('GET', `/api/periods/${endsOn}/close`)).body.accruals as string;
    await server.alone();
    await decide({ accruals: 'standing' }, { from: '2026-12-01' });
    expect(await accrualsOf('2026-10-31')).toBe('reversed');
    const lock = (endsOn: string): Promise<Answer> =>
      preparer.insist('POST', `/api/periods/${endsOn}/lock`, {});
    expect((await lock('2026-10-31')).status).toBe(200);
    expect(await accrualsOf('2026-11-30')).toBe('reversed');
    expect((await lock('2026-11-30')).status).toBe(200);
    expect(await accrualsOf('2026-12-31')).toBe('standing');
    // Decided for the open month, it has it at once; what was chosen for one month alone ends with it.
    await decide({ accruals: 'reversed' }, { from: '2026-12-01' });
    expect(await accrualsOf('2026-12-31')).toBe('reversed');
    await preparer.call('PUT', '/api/periods/2026-12-31/accruals', { accruals: 'standing' });
    expect((await lock('2026-12-31')).body).toMatchObject({ reversals: 0 });
    expect(await accrualsOf('2027-01-31')).toBe('reversed');
  });
});

describe('the settings of a company that begins', () => {
  let server: TestServer;
  let maren: Caller;
  const decide = (settings: object): Promise<Answer> =>
    maren.call('POST', '/api/settings', { settings, reason: 'Typed wrongly at first' });
  beforeEach(async () => {
    server = await TestServer.startOwn();
    maren = server.caller();
    await maren.call('GET', '/api/session');
    await maren.call('POST', '/api/set-up', {
      code: setUpCode,
      company: {
        name: 'Pellwin Flat Glass',
        currency: 'GBP',
        fiscalYearEndMonth: 3,
        booksFrom: '2026-04-01',
        habits: { numbers: 'space-comma', belowZero: 'parentheses', dates: 'day-first' },
      },
      person: { name: 'Maren Tolliver', logIn: 'maren', password: 'otter lantern gravel pine' },
    });
  });
  afterEach(() => server.stop());

  it('are as it was set up, and its facts can be put right until an instrument is kept', async () => {
    const { body } = await maren.call('GET', '/api/settings');
    expect(body.settings).toMatchObject({ numbers: 'space-comma', belowZero: 'parentheses' });
    expect(body.fixed).toEqual({});
    const right = { currency: 'JPY', booksFrom: '2026-05-01', fiscalYearEndMonth: 6 };
    const kept = await decide(right);
    expect([kept.status, kept.body]).toMatchObject([200, { settings: right }]);
    const { body: company } = await maren.call('GET', '/api/company');
    expect(company).toMatchObject({ ...right, digits: 0 });
    expect(company.periods.map(({ endsOn }: { endsOn: string }) => endsOn)).toEqual(['2026-05-31']);

    const document = {
      ...loanDocument('Furnace loan', { start: '2026-05-01' }),
      currency: 'JPY',
      amount: '1200000',
    };
    const taken = await maren.insist('POST', '/api/instruments', { document });
    expect([taken.status, taken.text]).toEqual([200, expect.any(String)]);
    const refused = await decide({ currency: 'GBP', booksFrom: '2026-04-01', fiscalYearEndMonth: 3 });
    expect(faults(refused).sort()).toEqual(['settings.booksFrom', 'settings.currency']);
    expect((await decide({ fiscalYearEndMonth: 3 })).status).toBe(200);
    const moved = server.database.raw(`update period set ends_on = '2026-04-30'`);
    await expect(moved).rejects.toMatchObject({ code: 'CF001' });
  });
});

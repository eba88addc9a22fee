import { randomUUID } from 'node:crypto';
import exceljs from 'exceljs';
import { parse } from 'csv-parse/sync';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeEach(async () => {
  server = await TestServer.start();
  await server.alone();
  preparer = await server.as('ilka');
});
// Whatever was locked: ledger, reports and documents agree.
afterEach(async () => {
  const found = await server.disagreements();
  await server.stop();
  expect(found).toEqual([]);
});

const open = '2026-10-31';
const lock = (endsOn = open, headers: Record<string, string> = {}): Promise<Answer> =>
  preparer.call(
    'POST',
    `/api/periods/${endsOn}/lock`,
    { confirm: ['payments-unrecorded', 'fixings-missing'] },
    headers,
  );
const entryCount = async (): Promise<number> =>
  Number((await server.database('entry').count({ many: '*' }).first())?.['many']);

interface Line {
  role: string;
  debit: number;
  credit: number;
}

/** Balances of the ledger by account role up to a day. */
async function ledger(to: string): Promise<Map<string, number>> {
  const { rows } = await server.database.raw(
    `select role, sum(debit - credit)::bigint as balance from entry join entry_line using (company_id, number) where company_id = 1 and date <= ? group by role`,
    [to],
  );
  return new Map(rows.map((row: { role: string; balance: number }) => [row.role, Number(row.balance)]));
}

describe('closing a month', () => {
  it('posts what the close showed, leaves the ledger at the register, and opens the next with the reversals', async () => {
    const { body: shown } = await preparer.call('GET', `/api/periods/${open}/close`);
    const { body: register } = await preparer.call('GET', `/api/register?on=${open}`);
    const { body: locked } = await lock();
    expect(locked).toEqual({
      endsOn: open,
      entries: shown.draftCount,
      reversals: shown.reversalCount,
      opens: '2026-11-30',
      trail: { event: expect.any(Number), hash: expect.stringMatching(/^[0-9a-f]{64}$/) },
    });

    const { body: journal } = await preparer.call('GET', '/api/journal?from=2026-10-01&to=2026-10-31');
    expect(journal.debits).toBe(journal.credits);
    for (const entry of journal.entries as { lines: Line[] }[]) {
      expect(entry.lines.reduce((sum, line) => sum + line.debit - line.credit, 0)).toBe(0);
    }
    const balances = await ledger(open);
    const sum = (of: (figures: Record<string, number>) => number): number =>
      register.rows.reduce(
        (total: number, row: { figures: Record<string, number> }) => total + of(row.figures),
        0,
      );
    expect(balances.get('interest-payable')).toBe(
      -sum((at) => (at['accruedInterest'] ?? 0) + (at['unpaidInterest'] ?? 0)),
    );
    expect(balances.get('current-portion')).toBe(-sum((at) => at['current'] ?? 0));
    const debt = [
      'loan-payable',
      'bonds-payable',
      'bond-discount',
      'bond-premium',
      'issue-costs',
      'current-portion',
    ];
    expect(debt.reduce((total, role) => total + (balances.get(role) ?? 0), 0)).toBe(
      -sum((at) => at['carrying'] ?? 0),
    );

    const { body: kept } = await preparer.call('GET', `/api/periods/${open}/close`);
    const { sums, rows, entryCount, reversalCount, payments } = shown;
    expect(kept).toMatchObject({ sums, rows, entryCount, reversalCount, draftCount: 0, payments });
    expect(journal.count).toBe(entryCount);
    const { body: next } = await preparer.call('GET', '/api/journal?from=2026-11-01&to=2026-11-30');
    expect(next.entries.map((entry: { kind: string }) => entry.kind)).toEqual(
      new Array(shown.reversalCount).fill('reversal'),
    );
    const numbers = (await server
      .database('entry')
      .where({ company_id: 1 })
      .orderBy('number')
      .pluck('number')) as number[];
    expect(numbers).toEqual(numbers.map((_, at) => at + 1));
    const after = await preparer.call('GET', `/api/register?on=${open}`);
    expect(after.body).toMatchObject({ reported: true, rows: register.rows });
  });

  it('leaves accruals standing where that is chosen, and the payments of the next month clear them', async () => {
    const choose = (accruals: string, endsOn = open, who = preparer): Promise<Answer> =>
      who.call('PUT', `/api/periods/${endsOn}/accruals`, { accruals });
    expect((await choose('forgotten')).status).toBe(422);
    expect((await choose('standing', open, await server.as('tobiah'))).status).toBe(403);
    expect((await choose('standing')).body).toEqual({ endsOn: open, accruals: 'standing' });
    const { body: october } = await preparer.call('GET', `/api/periods/${open}/close`);
    expect(october).toMatchObject({ accruals: 'standing', reversalCount: 0 });
    expect((await lock()).body).toMatchObject({ reversals: 0 });
    const refused = await choose('reversed');
    expect([refused.status, refused.body.error.code]).toEqual([409, 'already-locked']);

    const next = '2026-11-30';
    const payable = -((await ledger(open)).get('interest-payable') ?? 0);
    expect(payable).toBe(october.checks[0].journal);
    expect(payable).toBeGreaterThan(0);
    await choose('standing', next);
    const { body: november } = await preparer.call('GET', `/api/periods/${next}/close`);
    expect(november).toMatchObject({ accruals: 'standing', reversalCount: 0 });
    const payments = november.sums.find(({ kind }: { kind: string }) => kind === 'payment');
    expect(payments.lines.some(({ role, debit }: Line) => role === 'interest-payable' && debit > 0)).toBe(
      true,
    );
    expect(november.sums.some(({ kind }: { kind: string }) => kind === 'correction')).toBe(false);
    // Reversed again from the close of November on; its expense is what the schedules say either way.
    await choose('reversed', next);
    const { body: shown } = await preparer.call('GET', `/api/periods/${next}/close`);
    expect(shown.reversalCount).toBeGreaterThan(0);
    const expense = shown.rows.reduce((sum: number, row: { expense: number }) => sum + row.expense, 0);
    await lock(next);
    const [before, after] = [await ledger(open), await ledger(next)];
    expect((after.get('interest-expense') ?? 0) - (before.get('interest-expense') ?? 0)).toBe(expense);
    expect(-(after.get('interest-payable') ?? 0)).toBe(shown.checks[0].journal);
  });

  it('books what was chosen, whichever comes first of a lock and a choice at the same moment', async () => {
    const chosen = preparer.call('PUT', `/api/periods/${open}/accruals`, { accruals: 'standing' });
    const [{ body: locked }, { status }] = await Promise.all([lock(), chosen]);
    const { body: kept } = await preparer.call('GET', `/api/periods/${open}/close`);
    expect([200, 409]).toContain(status);
    expect(kept.accruals).toBe(locked.reversals === 0 ? 'standing' : 'reversed');
    expect(kept.accruals).toBe(status === 200 ? 'standing' : 'reversed');
  });

  it('happens once: a second lock, two at the same time, and a repeat of the same call', async () => {
    const key = randomUUID();
    const answers = await Promise.all([lock(open, { 'idempotency-key': key }), lock(), lock()]);
    const codes = answers.map(({ status, body }) => (status === 200 ? 'locked' : body.error.code)).sort();
    expect(codes.filter((code) => code === 'locked')).toHaveLength(1);
    expect(
      codes
        .filter((code) => code !== 'locked')
        .every((code) => ['already-locked', 'being-locked'].includes(code)),
    ).toBe(true);
    const posted = await entryCount();
    expect((await lock()).body.error.code).toBe('already-locked');
    expect(await entryCount()).toBe(posted);
    const november = { 'idempotency-key': randomUUID() };
    const [first, again] = [await lock('2026-11-30', november), await lock('2026-11-30', november)];
    expect(again.body).toEqual(first.body);
  });

  it('is refused while another close holds the turn, and says so', async () => {
    await server.database.transaction(async (other) => {
      await other.raw(`select pg_advisory_xact_lock(hashtext('period close'), 1)`);
      const answer = await lock();
      expect([answer.status, answer.body.error.code]).toEqual([409, 'being-locked']);
    });
    expect((await lock()).status).toBe(200);
  });

  it('of a month that is not there says when it opens or what is wrong', async () => {
    expect((await lock('2026-12-31')).body.error.message).toMatch(/it opens when the period to 2026-10-31/);
    expect((await lock('2026-10-15')).body.error.message).toMatch(/last day of a month/);
    expect((await lock('2020-01-31')).body.error.message).toMatch(/before the books began/);
  });

  it('writes nothing when anything fails on the way', async () => {
    await server.owned.raw(`alter table entry_line add constraint no_cash check (role <> 'cash') not valid`);
    const before = await entryCount();
    const answer = await lock();
    expect(answer.status).toBe(500);
    expect(answer.text).not.toMatch(/no_cash|entry_line/);
    await server.owned.raw('alter table entry_line drop constraint no_cash');
    expect(await entryCount()).toBe(before);
    const { body } = await preparer.call('GET', '/api/company');
    expect(body.periods.at(-1)).toMatchObject({ endsOn: open, state: 'open' });
  });
});

describe('a late change', () => {
  it('leaves closed months as they were and is made good in the open one', async () => {
    const { body: register } = await preparer.call('GET', '/api/register?on=2026-09-30');
    const row = register.rows.find(
      (candidate: { name: string }) => candidate.name === 'Furnace hall mortgage',
    );
    const { body: held } = await preparer.call('GET', `/api/instruments/${row.id}`);
    const document = {
      ...held.document,
      events: [
        ...(held.document.events ?? []),
        { type: 'extra-principal', on: '2026-07-20', amount: '25000.00' },
      ],
    };
    await preparer.insist('PUT', `/api/instruments/${row.id}`, {
      version: held.version,
      document,
      reason: 'Found on the July statement',
    });
    expect((await preparer.call('GET', '/api/register?on=2026-09-30')).body.rows).toEqual(register.rows);
    const { body } = await preparer.call('GET', `/api/periods/${open}/close/${row.id}`);
    const correction = body.entries.find((entry: { kind: string }) => entry.kind === 'correction');
    const lines = correction.lines as Line[];
    expect(lines.find((line) => line.role === 'cash')).toMatchObject({ credit: 2_500_000 });
    await lock();
    const balances = await server.database.raw(
      `select sum(debit - credit)::bigint as balance from entry join entry_line using (company_id, number)
       where instrument_id = ? and date <= ? and role in ('loan-payable', 'current-portion')`,
      [row.id, open],
    );
    const { body: after } = await preparer.call('GET', `/api/register?on=${open}`);
    const now = after.rows.find((candidate: { id: string }) => candidate.id === row.id);
    expect(Number(balances.rows[0].balance)).toBe(-now.figures.outstanding);
  });

  it('takes on a loan that began in closed months', async () => {
    const start = {
      start: '2026-08-01',
      payments: { every: 'month', first: '2026-09-01', phases: [{ type: 'level', count: 360 }] },
    };
    const document = loanDocument('Found late', start);
    const asked = await preparer.call('POST', '/api/instruments', { document });
    expect([asked.status, asked.body.error.confirm[0].code]).toEqual([409, 'starts-in-closed-month']);
    const { body: saved } = await preparer.insist('POST', '/api/instruments', { document });
    await lock();
    const { body } = await preparer.call('GET', `/api/periods/${open}/close/${saved.id}`);
    expect(body.entries[0]).toMatchObject({ kind: 'opening', date: '2026-10-01', forPeriod: '2026-09-30' });
  });

  // Common practice: what the ledger has already is not brought in twice without a word.
  it('asks before it takes on one that began before the books, with closed months since', async () => {
    const start = {
      start: '2025-08-01',
      payments: { every: 'month', first: '2025-09-01', phases: [{ type: 'level', count: 360 }] },
    };
    const document = loanDocument('Older than the books', start);
    const asked = await preparer.call('POST', '/api/instruments', { document });
    expect(asked.status).toBe(409);
    expect(asked.body.error.confirm).toMatchObject([{ code: 'starts-in-closed-month' }]);
    expect(asked.body.error.confirm[0].message).toContain(
      'what was paid from 2026-01-01 to 2026-09-30 fall in the open month',
    );
  });

  it('keeps what closed months report a loan a loan', async () => {
    const { body: register } = await preparer.call('GET', `/api/register?on=${open}`);
    const row = register.rows.find(({ kind }: { kind: string }) => kind === 'loan');
    const line = {
      document: 'coffer.instrument/1',
      kind: 'credit-line',
      name: row.name,
      currency: 'EUR',
      start: '2026-01-01',
      matures: '2027-12-31',
      limit: '50000.00',
      rate: { annual: '7.3%', dayCount: 'ACT/365F' },
      events: [],
    };
    const change = { version: row.version, document: line, reason: 'Mistyped' };
    const refused = await preparer.insist('PUT', `/api/instruments/${row.id}`, change);
    expect([refused.status, refused.body.error.faults[0].key]).toEqual([422, 'kind']);
    expect(refused.body.error.faults[0].message).toContain('as a loan, so it cannot become a credit line');
    // What no closed month reports may still become what it is.
    const { body: saved } = await preparer.insist('POST', '/api/instruments', {
      document: loanDocument('Rather a line', { start: '2026-10-05' }),
    });
    const rather = { version: 1, document: { ...line, name: 'Rather a line' }, reason: 'Mistyped' };
    expect((await preparer.insist('PUT', `/api/instruments/${saved.id}`, rather)).status).toBe(200);
  });
});

describe('the audit trail', () => {
  it('is a chain that tells of any loss', async () => {
    const { rows } = await server.database.raw(`
      select bool_and(hash = sha256(previous_hash || convert_to(concat_ws(E'\\x1f', id, coalesce(company_id::text, 'installation'), extract(epoch from at), coalesce(person_id::text, 'nobody'), action, subject, detail), 'UTF8')))
         and bool_and(previous_hash = coalesce(before, ''::bytea)) as whole
      from (select *, lag(hash) over (order by id) as before from audit_event) as chained`);
    expect(rows[0].whole).toBe(true);
  });
});

describe('the journal as a file', () => {
  it('balances in CSV and in the workbook, and no text becomes a formula', async () => {
    await preparer.call('POST', '/api/instruments', { document: loanDocument('=HYPERLINK("x")') });
    await lock();
    const span = '?from=2026-10-01&to=2026-10-31';
    const { text } = await preparer.call('GET', `/api/journal.csv${span}`);
    const lines = parse(text, { columns: true }) as Record<string, string>[];
    const cents = (side: string): number =>
      lines.reduce((sum, line) => sum + Math.round(Number(line[side]) * 100), 0);
    expect(cents('debit')).toBe(cents('credit'));
    expect(lines.some((line) => line['instrument'] === `'=HYPERLINK("x")`)).toBe(true);
    const { body } = await preparer.call('GET', `/api/journal${span}`);
    expect(cents('debit')).toBe(body.debits);
  });

  it('is a workbook with amounts as numbers', async () => {
    await lock();
    const answer = await preparer.bytes('/api/journal.xlsx?from=2026-10-01&to=2026-10-31');
    const book = new exceljs.Workbook();
    await book.xlsx.load(answer);
    const sheet = book.getWorksheet('Journal');
    const at = (sheet?.getRow(1).values as unknown[]).indexOf('Debit');
    const debits = sheet?.getColumn(at).values.slice(2) ?? [];
    const total = debits.reduce<number>((sum, value) => sum + Math.round(Number(value ?? 0) * 100), 0);
    const { body } = await preparer.call('GET', '/api/journal?from=2026-10-01&to=2026-10-31');
    expect(total).toBe(body.debits);
  });
});

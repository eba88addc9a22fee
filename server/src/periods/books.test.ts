import type { EntryView } from '@coffer/contract';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import {
  asked,
  line,
  loan,
  moved,
  payments,
  withEvent,
  type Document,
} from '../testing/loans-of-the-books.ts';
import { emptyBooks, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeEach(async () => {
  server = await TestServer.start(emptyBooks('2026-01-01'));
  preparer = await server.as('ilka');
});
// Whatever was done: ledger, reports and documents agree.
afterEach(async () => {
  const found = await server.disagreements();
  await server.stop();
  expect(found).toEqual([]);
});

const takeOn = async (document: Document): Promise<string> => {
  const { status, body, text } = await preparer.insist('POST', '/api/instruments', { document });
  expect(status, text).toBe(200);
  return body.id;
};
const lock = async (...months: string[]): Promise<void> => {
  for (const endsOn of months) {
    const { status, text } = await preparer.insist('POST', `/api/periods/${endsOn}/lock`, {});
    expect(status, text).toBe(200);
  }
};
type Made = 'call' | 'insist';
const pay = async (id: string, due: string, on: string, amount: string, how: Made): Promise<Answer> => {
  const { body } = await preparer.call('GET', `/api/instruments/${id}`);
  const made = { instrumentId: id, version: body.version, due, on, amount };
  return preparer[how]('POST', '/api/payments', { payments: [made] });
};
const change = async (id: string, to: (document: Document) => Document, how: Made): Promise<Answer> => {
  const { body } = await preparer.call('GET', `/api/instruments/${id}`);
  const sent = { version: body.version, document: to(body.document), reason: 'Put right' };
  return preparer[how]('PUT', `/api/instruments/${id}`, sent);
};
const entriesOf = async (id: string, endsOn: string): Promise<EntryView[]> =>
  (await preparer.call('GET', `/api/periods/${endsOn}/close/${id}`)).body.entries;
// Common practice: cash in the books is the cash that left the bank, whatever a schedule makes of it.
describe('cash in the entries is the cash that was paid', () => {
  it('also beyond all that is owed: asked about with what settles, then apart until it comes back', async () => {
    const id = await takeOn(loan(payments('2026-02-10', 2)));
    await lock('2026-01-31');
    const question = await pay(id, '2026-02-10', '2026-02-10', '120000.00', 'call');
    expect(asked(question)).toEqual([409, 'overpaid']);
    // 31 days at 6 % on 100,000 are 509.59.
    expect(question.body.error.message).toContain('100509.59 settles it');
    expect((await pay(id, '2026-02-10', '2026-02-10', '120000.00', 'insist')).status).toBe(200);
    const february = await entriesOf(id, '2026-02-28');
    expect([moved(february, 'cash'), moved(february, 'overpayment')]).toEqual([-12_000_000, 1_949_041]);
    await lock('2026-02-28');
    const { body: register } = await preparer.call('GET', '/api/register?on=2026-03-31');
    expect(register.rows[0].figures).toMatchObject({ outstanding: 0, overpaid: 1_949_041, carrying: 0 });
    const returned = { type: 'overpayment-returned', on: '2026-03-05', amount: '19490.42' };
    const tooMuch = await change(id, withEvent(returned), 'call');
    expect([tooMuch.status, tooMuch.body.error.faults[0].key]).toEqual([422, 'events.1.amount']);
    await change(id, withEvent({ ...returned, amount: '19490.41' }), 'call');
    const march = await entriesOf(id, '2026-03-31');
    expect([moved(march, 'cash'), moved(march, 'overpayment')]).toEqual([1_949_041, -1_949_041]);
  });

  it('where an extra payment had repaid the loan before: interest to the day of a late payment, the rest apart', async () => {
    const id = await takeOn(loan(payments('2026-02-10', 3)));
    await lock('2026-01-31');
    await pay(id, '2026-02-10', '2026-02-20', '33668.68', 'call');
    const extra = { type: 'extra-principal', on: '2026-02-12', amount: '100000.00' };
    expect(asked(await change(id, withEvent(extra), 'call'))).toEqual([409, 'overpaid']);
    await change(id, withEvent(extra), 'insist');
    const february = await entriesOf(id, '2026-02-28');
    expect(moved(february, 'cash')).toBe(-13_366_868);
    // 31 days and two more: 509.59 and 32.88; January's 345.21 was accrued then and is reversed.
    expect(moved(february, 'interest-expense')).toBe(50_959 + 3_288 - 34_521);
    expect(moved(february, 'interest-payable')).toBe(34_521);
  });

  it('a payment and a settlement on one day are two', async () => {
    const id = await takeOn(loan());
    await lock('2026-01-31');
    await pay(id, '2026-02-10', '2026-02-10', '5000.00', 'call');
    await change(id, withEvent({ type: 'settled', on: '2026-02-10', amount: '90000.00' }), 'call');
    expect(moved(await entriesOf(id, '2026-02-28'), 'cash')).toBe(-9_500_000);
  });

  it('two instalments paid on one day are both booked on it', async () => {
    const id = await takeOn(loan());
    await lock('2026-01-31');
    await pay(id, '2026-02-10', '2026-02-10', '8606.64', 'call');
    expect(asked(await pay(id, '2026-03-10', '2026-02-10', '8606.64', 'call'))).toEqual([409, 'due-later']);
    await pay(id, '2026-03-10', '2026-02-10', '8606.64', 'insist');
    expect(moved(await entriesOf(id, '2026-02-28'), 'cash')).toBe(-2 * 860_664);
    await lock('2026-02-28');
    const march = await entriesOf(id, '2026-03-31');
    expect(moved(march, 'cash')).toBe(0);
  });

  it('nothing paid moves no cash, where interest is not rounded and where a line bills a fee', async () => {
    const unrounded = { amount: '1000.00', rounding: { interest: 'none' }, ...payments('2026-02-10', 6) };
    const id = await takeOn(loan(unrounded));
    const limited = {
      limit: '200000.00',
      start: '2026-01-01',
      matures: '2027-12-31',
      firstBill: '2026-01-31',
      unusedFee: '0.40%',
      events: [{ type: 'draw', on: '2026-01-01', amount: '100000.00' }],
    };
    const drawn = await takeOn(line(limited));
    await pay(drawn, '2026-01-31', '2026-01-31', '0.00', 'call');
    expect(moved(await entriesOf(drawn, '2026-01-31'), 'cash')).toBe(10_000_000);
    await lock('2026-01-31', '2026-02-28');
    await pay(id, '2026-03-10', '2026-03-10', '0.00', 'call');
    expect(moved(await entriesOf(id, '2026-03-31'), 'cash')).toBe(0);
  });

  it('a payment for a day on which nothing falls due is refused, naming it and the dues around it', async () => {
    const early = { start: '2025-12-10', ...payments('2026-01-10', 12) };
    const id = await takeOn(loan(early));
    await pay(id, '2026-01-10', '2026-01-10', '5000.00', 'call');
    await lock('2026-01-31');
    const moved = { start: '2025-12-05', ...payments('2026-01-05', 12) };
    const { status, body } = await change(id, (document) => ({ ...document, ...moved }), 'call');
    expect([status, body.error.faults[0].key]).toEqual([422, 'events.0.due']);
    expect(body.error.faults[0].message).toContain('2026-01-05 and 2026-02-05');
  });
});

describe('books follow their instruments', () => {
  it('an instrument moved past the open month leaves them by a correction', async () => {
    const id = await takeOn(loan());
    await lock('2026-01-31');
    const moved = { start: '2026-06-10', ...payments('2026-07-10', 12) };
    await change(id, (document) => ({ ...document, ...moved }), 'call');
    const { body: close } = await preparer.call('GET', '/api/periods/2026-02-28/close');
    expect(close.rows[0]).toMatchObject({ name: 'Loan', expense: 0 });
    await lock('2026-02-28');
    const ledger = await server
      .database('entry_line')
      .groupBy('role')
      .select('role')
      .sum('debit as debit')
      .sum('credit as credit');
    for (const { role, debit, credit } of ledger)
      expect([role, Number(debit)]).toEqual([role, Number(credit)]);
  });

  it('a bond whose issue moves past it likewise', async () => {
    const bond = (issued: string, matures: string): Document => ({
      document: 'coffer.instrument/1',
      kind: 'bond',
      name: 'Bond',
      currency: 'EUR',
      face: '100000.00',
      coupon: { annual: '6%', every: 'half-year', dayCount: '30/360' },
      issued,
      matures,
      price: '98',
      issueCosts: { amount: '500.00' },
    });
    const id = await takeOn(bond('2026-01-15', '2029-01-15'));
    await lock('2026-01-31');
    await change(id, () => bond('2026-06-15', '2029-06-15'), 'call');
    await lock('2026-02-28');
    const [first] = await entriesOf(id, '2026-02-28');
    expect(first?.kind).toBe('reversal');
    const held = await server
      .database('entry_line')
      .groupBy('role')
      .select('role')
      .sum('debit as debit')
      .sum('credit as credit');
    for (const { role, debit, credit } of held) expect([role, Number(debit)]).toEqual([role, Number(credit)]);
  });

  it('what one payment rests on stops no list of payments', async () => {
    const id = await takeOn(loan(payments('2026-02-10', 1)));
    await lock('2026-01-31');
    await pay(id, '2026-02-10', '2026-02-10', '50000.00', 'call');
    await change(id, withEvent({ type: 'draw', on: '2026-02-20', amount: '10000.00' }), 'call');
    const { status, body } = await preparer.call('GET', '/api/payments');
    expect([status, body.payments[0].amount]).toEqual([200, 5_000_000]);
  });

  // ASC 835-30-S45-1: ratably over the arrangement's term; 25 of 365 days.
  it('costs of a line that is not drawn are an asset, by days', async () => {
    const arranged = {
      limit: '500000.00',
      start: '2026-04-05',
      matures: '2027-04-05',
      issueCosts: { amount: '3000.00' },
    };
    const id = await takeOn(
      line({ ...arranged, events: [{ type: 'draw', on: '2026-05-12', amount: '1.00' }] }),
    );
    await lock('2026-01-31', '2026-02-28', '2026-03-31');
    expect(moved(await entriesOf(id, '2026-04-30'), 'interest-expense')).toBe(20_548);
  });

  it.each(['reversed', 'standing'])(
    'a correction names what each closed month should have held, accruals %s',
    async (accruals) => {
      await preparer.call('PUT', '/api/periods/2026-01-31/accruals', { accruals });
      const id = await takeOn(loan(payments('2026-03-10', 12)));
      await lock('2026-01-31', '2026-02-28');
      await change(
        id,
        (document) => ({ ...document, rate: { annual: '12%', dayCount: 'ACT/365F' } }),
        'call',
      );
      const { body: close } = await preparer.call('GET', '/api/periods/2026-03-31/close');
      const march = await entriesOf(id, '2026-03-31');
      const corrections = march.filter(({ kind }) => kind === 'correction');
      // 21 and 28 days of 100,000: 690.41 and 920.55 at 12 %, where 345.21 and 460.27 were booked at 6 %.
      expect(corrections.map((entry) => [entry.forPeriod, moved([entry], 'interest-expense')])).toEqual([
        ['2026-01-31', 34_520],
        ['2026-02-28', 46_028],
      ]);
      const expense = close.checks.find(({ of }: { of: string }) => of === 'expense');
      expect(expense).toMatchObject({ fromClosed: 34_520 + 46_028, difference: 0 });
      expect(moved(march, 'interest-expense') - 34_520 - 46_028).toBe(close.rows[0].expense);
    },
  );

  it('a draw entered late on a line that was never booked is a correction; entries say row and version', async () => {
    const id = await takeOn(line({ limit: '500000.00', start: '2026-01-05', matures: '2027-04-05' }));
    await lock('2026-01-31');
    await change(id, withEvent({ type: 'draw', on: '2026-01-20', amount: '1000.00' }), 'call');
    const [first] = await entriesOf(id, '2026-02-28');
    expect(first).toMatchObject({ kind: 'correction', forPeriod: '2026-01-31', version: 2 });
    const other = await takeOn(loan());
    await pay(other, '2026-02-10', '2026-02-20', '100.00', 'call');
    const late = (await entriesOf(other, '2026-02-28')).find(({ memo }) => memo.startsWith('Late'));
    expect(late?.row).toBe(1);
    await lock('2026-02-28');
    const { text } = await preparer.call('GET', '/api/journal.csv?from=2026-02-01&to=2026-02-28');
    expect(text.split(/\r?\n/)[0]).toBe(
      'entry,date,kind,memo,instrument,version,payment,forPeriod,accountCode,account,debit,credit',
    );
  });

  it('what a closed month showed stays when instruments are renamed or taken on later', async () => {
    const id = await takeOn(loan());
    await takeOn(loan({ name: 'Repaid', start: '2025-01-10', ...payments('2025-02-10', 3) }));
    const registerBefore = (await preparer.call('GET', '/api/register?on=2026-01-31')).body;
    await lock('2026-01-31');
    const seen = async (): Promise<unknown[]> => {
      const close = (await preparer.call('GET', '/api/periods/2026-01-31/close')).text;
      const journal = (await preparer.call('GET', '/api/journal?from=2026-01-01&to=2026-01-31')).text;
      const csv = (await preparer.call('GET', '/api/journal.csv?from=2026-01-01&to=2026-01-31')).text;
      return [close, journal, csv];
    };
    const before = await seen();
    await change(id, (document) => ({ ...document, name: 'Another name' }), 'call');
    await takeOn(loan({ name: 'Found late' }));
    expect(await seen()).toEqual(before);
    const { settled, attention } = (await preparer.call('GET', '/api/register?on=2026-01-31')).body;
    expect({ settled, attention }).toEqual({
      settled: registerBefore.settled,
      attention: registerBefore.attention,
    });
  });

  it('asks about a day that looks like a slip', async () => {
    const id = await takeOn(loan());
    await lock('2026-01-31');
    expect(asked(await pay(id, '2026-02-10', '2036-02-10', '8606.64', 'call'))).toEqual([
      409,
      'far-from-due',
    ]);
    const question = await pay(id, '2026-02-10', '2026-01-25', '8606.64', 'call');
    expect(asked(question)).toEqual([409, 'paid-in-closed-month']);
    // 15 days instead of 31: 246.58 of interest for 509.59.
    expect(question.body.error.message).toContain('interest becomes 246.58 (now 509.59)');
  });
});

describe('what was done by mistake is put right', () => {
  it('a payment recorded in a closed month is taken back, and the open month books the difference', async () => {
    const id = await takeOn(loan());
    await lock('2026-01-31');
    await pay(id, '2026-02-10', '2026-02-10', '5000.00', 'call');
    await lock('2026-02-28');
    const takeBack = (due: string, version: number): Promise<Answer> =>
      preparer.call('POST', '/api/payments/taken-back', {
        payments: [{ instrumentId: id, version, due }],
        reason: 'The bank sent it twice',
      });
    const none = await takeBack('2026-03-10', 2);
    expect([none.status, none.body.error.faults[0].key]).toEqual([422, 'payments.0.due']);
    expect((await takeBack('2026-02-10', 1)).body.error.code).toBe('stale-version');
    expect((await takeBack('2026-02-10', 2)).body).toEqual({ payments: 1, instruments: 1 });
    // As scheduled 8,605.52 leave the bank.
    const march = await entriesOf(id, '2026-03-31');
    const correction = march.find(({ kind }) => kind === 'correction');
    expect([correction?.forPeriod, moved(correction ? [correction] : [], 'cash')]).toEqual([
      '2026-02-28',
      -(860_552 - 500_000),
    ]);
    const { body } = await preparer.call('GET', `/api/instruments/${id}`);
    expect(body.versions[0].reason).toBe('Payment due 2026-02-10 taken back: The bank sent it twice');
  });

  it('an instrument taken on by mistake is withdrawn: out of books and lists, its history and name kept apart', async () => {
    const id = await takeOn(loan());
    const stays = await takeOn(loan({ name: 'Stays' }));
    await lock('2026-01-31', '2026-02-28');
    const closed = (await preparer.call('GET', '/api/periods/2026-02-28/close')).text;
    const path = `/api/instruments/${id}/withdrawal`;
    expect((await preparer.call('POST', path, { version: 9, reason: 'Twice' })).body.error.code).toBe(
      'stale-version',
    );
    const auditor = await server.as('tobiah');
    expect((await auditor.call('POST', path, { version: 1, reason: 'Twice' })).status).toBe(403);
    expect((await preparer.call('POST', path, { version: 1, reason: 'Twice' })).body).toEqual({ id });
    expect((await preparer.call('POST', path, { version: 1, reason: 'Twice' })).body.error.code).toBe(
      'withdrawn',
    );
    const names = async (on: string): Promise<string[]> =>
      (await preparer.call('GET', `/api/register?on=${on}`)).body.rows.map(
        ({ name }: { name: string }) => name,
      );
    expect([await names('2026-03-31'), await names('2026-02-28')]).toEqual([['Stays'], ['Loan', 'Stays']]);
    const march = await entriesOf(id, '2026-03-31');
    expect(march.map(({ kind, forPeriod }) => [kind, forPeriod])).toEqual([
      ['reversal', null],
      ['correction', '2026-01-31'],
      ['correction', '2026-02-28'],
      ['reversal', null],
    ]);
    await lock('2026-03-31');
    const left = await server
      .database('entry')
      .join('entry_line', (on) => {
        on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
      })
      .where({ instrument_id: id })
      .groupBy('role')
      .select<{ role: string; left: string }[]>('role', server.database.raw('sum(debit - credit) as left'));
    for (const { role, left: balance } of left) expect([role, Number(balance)]).toEqual([role, 0]);
    await lock('2026-04-30');
    expect(await entriesOf(id, '2026-04-30')).toEqual([]);
    expect((await preparer.call('GET', '/api/periods/2026-02-28/close')).text).toBe(closed);
    const { body } = await preparer.call('GET', `/api/instruments/${id}`);
    expect(body.withdrawn).toMatchObject({ by: 'Ilka Varga', reason: 'Twice' });
    expect((await change(id, (document) => document, 'call')).body.error.code).toBe('withdrawn');
    expect((await takeOn(loan({ start: '2026-05-02', ...payments('2026-06-02', 12) }))).length).toBe(
      stays.length,
    );
  });

  it('a month that has not ended is locked only where that is meant', async () => {
    for (let month = 1; month <= 12; month += 1) {
      const end = new Date(Date.UTC(2026, month, 0)).toISOString().slice(0, 10);
      expect((await preparer.call('POST', `/api/periods/${end}/lock`, {})).status).toBe(200);
    }
    // It is 15 January 2027.
    expect(asked(await preparer.call('POST', '/api/periods/2027-01-31/lock', {}))).toEqual([
      409,
      'month-not-ended',
    ]);
    expect((await preparer.insist('POST', '/api/periods/2027-01-31/lock', {})).status).toBe(200);
  });
});

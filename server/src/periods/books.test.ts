import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import {
  asked,
  line,
  loan,
  moved,
  payments,
  PlayedBooks,
  withEvent,
  type Document,
} from '../testing/played-books.ts';

let books: PlayedBooks;
beforeEach(async () => {
  books = await PlayedBooks.start();
});
// Whatever was done: ledger, reports and documents agree.
afterEach(async () => {
  expect(await books.end()).toEqual([]);
});

// Common practice: cash in the books is the cash that left the bank, whatever a schedule makes of it.
describe('cash in the entries is the cash that was paid', () => {
  it('also beyond all that is owed: asked about with what settles, then apart until it comes back', async () => {
    const id = await books.takeOn(loan(payments('2026-02-10', 2)));
    await books.lock('2026-01-31');
    const question = await books.pay(id, '2026-02-10', '2026-02-10', '120000.00', 'call');
    expect(asked(question)).toEqual([409, 'overpaid']);
    // 31 days at 6 % on 100,000 are 509.59.
    expect(question.body.error.message).toContain('100509.59 settles it');
    expect((await books.pay(id, '2026-02-10', '2026-02-10', '120000.00', 'insist')).status).toBe(200);
    const february = await books.entriesOf(id, '2026-02-28');
    expect([moved(february, 'cash'), moved(february, 'overpayment')]).toEqual([-12_000_000, 1_949_041]);
    await books.lock('2026-02-28');
    const { body: register } = await books.preparer.call('GET', '/api/register?on=2026-03-31');
    expect(register.rows[0].figures).toMatchObject({ outstanding: 0, overpaid: 1_949_041, carrying: 0 });
    const returned = { type: 'overpayment-returned', on: '2026-03-05', amount: '19490.42' };
    const tooMuch = await books.change(id, withEvent(returned), 'call');
    expect([tooMuch.status, tooMuch.body.error.faults[0].key]).toEqual([422, 'events.1.amount']);
    await books.change(id, withEvent({ ...returned, amount: '19490.41' }), 'call');
    const march = await books.entriesOf(id, '2026-03-31');
    expect([moved(march, 'cash'), moved(march, 'overpayment')]).toEqual([1_949_041, -1_949_041]);
  });

  it('where an extra payment had repaid the loan before: interest to the day of a late payment, the rest apart', async () => {
    const id = await books.takeOn(loan(payments('2026-02-10', 3)));
    await books.lock('2026-01-31');
    await books.pay(id, '2026-02-10', '2026-02-20', '33668.68', 'call');
    const extra = { type: 'extra-principal', on: '2026-02-12', amount: '100000.00' };
    expect(asked(await books.change(id, withEvent(extra), 'call'))).toEqual([409, 'overpaid']);
    await books.change(id, withEvent(extra), 'insist');
    const february = await books.entriesOf(id, '2026-02-28');
    expect(moved(february, 'cash')).toBe(-13_366_868);
    // 31 days and two more: 509.59 and 32.88; January's 345.21 was accrued then and is reversed.
    expect(moved(february, 'interest-expense')).toBe(50_959 + 3_288 - 34_521);
    expect(moved(february, 'interest-payable')).toBe(34_521);
  });

  it('a payment and a settlement on one day are two', async () => {
    const id = await books.takeOn(loan());
    await books.lock('2026-01-31');
    await books.pay(id, '2026-02-10', '2026-02-10', '5000.00', 'call');
    await books.change(id, withEvent({ type: 'settled', on: '2026-02-10', amount: '90000.00' }), 'call');
    expect(moved(await books.entriesOf(id, '2026-02-28'), 'cash')).toBe(-9_500_000);
  });

  it('two instalments paid on one day are both booked on it', async () => {
    const id = await books.takeOn(loan());
    await books.lock('2026-01-31');
    await books.pay(id, '2026-02-10', '2026-02-10', '8606.64', 'call');
    expect(asked(await books.pay(id, '2026-03-10', '2026-02-10', '8606.64', 'call'))).toEqual([
      409,
      'due-later',
    ]);
    await books.pay(id, '2026-03-10', '2026-02-10', '8606.64', 'insist');
    expect(moved(await books.entriesOf(id, '2026-02-28'), 'cash')).toBe(-2 * 860_664);
    await books.lock('2026-02-28');
    const march = await books.entriesOf(id, '2026-03-31');
    expect(moved(march, 'cash')).toBe(0);
  });

  it('nothing paid moves no cash, where interest is not rounded and where a line bills a fee', async () => {
    const unrounded = { amount: '1000.00', rounding: { interest: 'none' }, ...payments('2026-02-10', 6) };
    const id = await books.takeOn(loan(unrounded));
    const limited = {
      limit: '200000.00',
      start: '2026-01-01',
      matures: '2027-12-31',
      firstBill: '2026-01-31',
      unusedFee: '0.40%',
      events: [{ type: 'draw', on: '2026-01-01', amount: '100000.00' }],
    };
    const drawn = await books.takeOn(line(limited));
    await books.pay(drawn, '2026-01-31', '2026-01-31', '0.00', 'call');
    expect(moved(await books.entriesOf(drawn, '2026-01-31'), 'cash')).toBe(10_000_000);
    await books.lock('2026-01-31', '2026-02-28');
    await books.pay(id, '2026-03-10', '2026-03-10', '0.00', 'call');
    expect(moved(await books.entriesOf(id, '2026-03-31'), 'cash')).toBe(0);
  });

  it('a payment for a day on which nothing falls due is refused, naming it and the dues around it', async () => {
    const early = { start: '2025-12-10', ...payments('2026-01-10', 12) };
    const id = await books.takeOn(loan(early));
    await books.pay(id, '2026-01-10', '2026-01-10', '5000.00', 'call');
    await books.lock('2026-01-31');
    const moved = { start: '2025-12-05', ...payments('2026-01-05', 12) };
    const { status, body } = await books.change(id, (document) => ({ ...document, ...moved }), 'call');
    expect([status, body.error.faults[0].key]).toEqual([422, 'events.0.due']);
    expect(body.error.faults[0].message).toContain('2026-01-05 and 2026-02-05');
  });
});

describe('books follow their instruments', () => {
  it('an instrument moved past the open month leaves them by a correction', async () => {
    const id = await books.takeOn(loan());
    await books.lock('2026-01-31');
    const moved = { start: '2026-06-10', ...payments('2026-07-10', 12) };
    await books.change(id, (document) => ({ ...document, ...moved }), 'insist');
    const { body: close } = await books.preparer.call('GET', '/api/periods/2026-02-28/close');
    expect(close.rows[0]).toMatchObject({ name: 'Loan', expense: 0 });
    await books.lock('2026-02-28');
    const ledger = await books.server
      .database('entry_line')
      .where({ company_id: 1 })
      .groupBy('role')
      .select<{ role: string; debit: string; credit: string }[]>(
        'role',
        books.server.database.raw('sum(debit) as debit, sum(credit) as credit'),
      );
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
    const id = await books.takeOn(bond('2026-01-15', '2029-01-15'));
    await books.lock('2026-01-31');
    await books.change(id, () => bond('2026-06-15', '2029-06-15'), 'insist');
    await books.lock('2026-02-28');
    const [first] = await books.entriesOf(id, '2026-02-28');
    expect(first?.kind).toBe('reversal');
    const held = await books.server
      .database('entry_line')
      .where({ company_id: 1 })
      .groupBy('role')
      .select<{ role: string; debit: string; credit: string }[]>(
        'role',
        books.server.database.raw('sum(debit) as debit, sum(credit) as credit'),
      );
    for (const { role, debit, credit } of held) expect([role, Number(debit)]).toEqual([role, Number(credit)]);
  });

  it('what one payment rests on stops no list of payments', async () => {
    const id = await books.takeOn(loan(payments('2026-02-10', 1)));
    await books.lock('2026-01-31');
    await books.pay(id, '2026-02-10', '2026-02-10', '50000.00', 'call');
    await books.change(id, withEvent({ type: 'draw', on: '2026-02-20', amount: '10000.00' }), 'call');
    const { status, body } = await books.preparer.call('GET', '/api/payments');
    expect([status, body.payments[0].amount]).toEqual([200, 5_000_000]);
  });

  // What was accrued and what has become due are one balance, of which only the accrued is reversed.
  it('interest of a closed month that turns out to have been due by then is reversed no more', async () => {
    const id = await books.takeOn(loan());
    await books.lock('2026-01-31');
    await books.pay(id, '2026-02-10', '2026-01-20', '0.00', 'insist');
    const february = await books.entriesOf(id, '2026-02-28');
    // Eleven days at 6 % on 100,000 have accrued, 180.82; 345.21 was reversed as the month opened.
    const mended = february.find(({ kind, number }) => kind === 'reversal' && number === null);
    expect(mended?.lines.map(({ role, debit, credit }) => [role, debit - credit])).toEqual([
      ['interest-expense', 16_439],
      ['interest-payable', -16_439],
    ]);
    await books.lock('2026-02-28');
  });

  // ASC 835-30-S45-1: ratably over the arrangement's term; 25 of 365 days.
  it('costs of a line that is not drawn are an asset, by days', async () => {
    const arranged = {
      limit: '500000.00',
      start: '2026-04-05',
      matures: '2027-04-05',
      issueCosts: { amount: '3000.00' },
    };
    const id = await books.takeOn(
      line({ ...arranged, events: [{ type: 'draw', on: '2026-05-12', amount: '1.00' }] }),
    );
    await books.lock('2026-01-31', '2026-02-28', '2026-03-31');
    expect(moved(await books.entriesOf(id, '2026-04-30'), 'interest-expense')).toBe(20_548);
  });

  it.each(['reversed', 'standing'])(
    'a correction names what each closed month should have held, accruals %s',
    async (accruals) => {
      await books.preparer.call('PUT', '/api/periods/2026-01-31/accruals', { accruals });
      const id = await books.takeOn(loan(payments('2026-03-10', 12)));
      await books.lock('2026-01-31', '2026-02-28');
      await books.change(
        id,
        (document) => ({ ...document, rate: { annual: '12%', dayCount: 'ACT/365F' } }),
        'insist',
      );
      const { body: close } = await books.preparer.call('GET', '/api/periods/2026-03-31/close');
      const march = await books.entriesOf(id, '2026-03-31');
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
    const id = await books.takeOn(line({ limit: '500000.00', start: '2026-01-05', matures: '2027-04-05' }));
    await books.lock('2026-01-31');
    await books.change(id, withEvent({ type: 'draw', on: '2026-01-20', amount: '1000.00' }), 'insist');
    const [first] = await books.entriesOf(id, '2026-02-28');
    expect(first).toMatchObject({ kind: 'correction', forPeriod: '2026-01-31', version: 2 });
    const other = await books.takeOn(loan());
    await books.pay(other, '2026-02-10', '2026-02-20', '100.00', 'call');
    const late = (await books.entriesOf(other, '2026-02-28')).find(({ memo }) => memo.startsWith('Late'));
    expect(late?.row).toBe(1);
    await books.lock('2026-02-28');
    const { text } = await books.preparer.call('GET', '/api/journal.csv?from=2026-02-01&to=2026-02-28');
    expect(text.split(/\r?\n/)[0]).toBe(
      'entry,date,kind,memo,instrument,version,payment,forPeriod,accountCode,account,costCentre,debit,credit',
    );
  });

  it('what a closed month showed stays when instruments are renamed or taken on later', async () => {
    const id = await books.takeOn(loan());
    await books.takeOn(loan({ name: 'Repaid', start: '2025-01-10', ...payments('2025-02-10', 3) }));
    const registerBefore = (await books.preparer.call('GET', '/api/register?on=2026-01-31')).body;
    await books.lock('2026-01-31');
    const seen = async (): Promise<unknown[]> => {
      const close = (await books.preparer.call('GET', '/api/periods/2026-01-31/close')).text;
      const journal = (await books.preparer.call('GET', '/api/journal?from=2026-01-01&to=2026-01-31')).text;
      const csv = (await books.preparer.call('GET', '/api/journal.csv?from=2026-01-01&to=2026-01-31')).text;
      return [close, journal, csv];
    };
    const before = await seen();
    await books.change(id, (document) => ({ ...document, name: 'Another name' }), 'call');
    await books.takeOn(loan({ name: 'Found late' }));
    expect(await seen()).toEqual(before);
    const { settled, attention } = (await books.preparer.call('GET', '/api/register?on=2026-01-31')).body;
    expect({ settled, attention }).toEqual({
      settled: registerBefore.settled,
      attention: registerBefore.attention,
    });
  });

  it('asks about a day that looks like a slip', async () => {
    const id = await books.takeOn(loan());
    await books.lock('2026-01-31');
    expect(asked(await books.pay(id, '2026-02-10', '2036-02-10', '8606.64', 'call'))).toEqual([
      409,
      'far-from-due',
    ]);
    const question = await books.pay(id, '2026-02-10', '2026-01-25', '8606.64', 'call');
    expect(asked(question)).toEqual([409, 'paid-in-closed-month']);
    // 15 days instead of 31: 246.58 of interest for 509.59.
    expect(question.body.error.message).toContain('interest becomes 246.58 (now 509.59)');
  });
});

// Simple interest, common practice: 21 days on 100,000.00 are 345.21 at 6 % and 517.81 at 9 %.
it('says before it is saved what a change of terms books for closed months, and asks nothing for what is to come', async () => {
  const id = await books.takeOn(loan());
  await books.lock('2026-01-31');
  const dearer = (document: Document): Document => ({
    ...document,
    rate: { annual: '9%', dayCount: 'ACT/365F' },
  });
  const question = await books.change(id, dearer, 'call');
  expect(asked(question)).toEqual([409, 'closed-months-change']);
  expect(question.body.error.message).toContain(
    'debit Interest expense 172.60, credit Interest payable 172.60.',
  );
  const extra = withEvent({ type: 'extra-principal', on: '2026-02-12', amount: '1000.00' });
  expect((await books.change(id, extra, 'call')).status).toBe(200);
  expect((await books.change(id, dearer, 'insist')).status).toBe(200);
  const february = await books.entriesOf(id, '2026-02-28');
  const corrected = february.filter(({ kind }) => kind === 'correction');
  const roles = [...new Set(corrected.flatMap(({ lines }) => lines.map(({ role }) => role)))];
  expect(Object.fromEntries(roles.map((role) => [role, moved(corrected, role)]))).toEqual({
    'interest-payable': 34_521 - 51_781,
    'interest-expense': 51_781 - 34_521,
  });
});

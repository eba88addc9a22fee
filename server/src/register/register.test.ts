import { parseAmount, parseDay, position } from '@coffer/core';
import { readInstrument, type RegisterRow, type RegisterView } from '@coffer/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

const register = async (on: string): Promise<RegisterView> =>
  (await preparer.call('GET', `/api/register?on=${on}`)).body;
const rowOf = (view: RegisterView, name: string): RegisterRow | undefined =>
  view.rows.find((row) => row.name === name);
const sum = (view: RegisterView, of: (row: RegisterRow) => number): number =>
  view.rows.reduce((total, row) => total + of(row), 0);

describe('the register', () => {
  it('stands where the documents say, on any day', async () => {
    for (const on of ['2026-10-31', '2027-06-30', '2030-12-31']) {
      for (const row of (await register(on)).rows) {
        const { body } = await preparer.call('GET', `/api/instruments/${row.id}`);
        const reading = readInstrument(body.document);
        if (!reading.ok) throw new Error(row.name);
        const at = position(reading.instrument.schedule, parseDay(on) as number);
        expect(row.figures, `${row.name} on ${on}`).toMatchObject({
          outstanding: at.outstanding,
          accruedInterest: at.accruedInterest,
          current: at.current,
        });
      }
    }
  });

  // IAS 1.69; IFRS 7.39: current and non-current make the carrying amount; what falls due by year makes the principal.
  it('adds up two ways', async () => {
    const view = await register('2026-10-31');
    expect(sum(view, ({ figures }) => figures.current + figures.nonCurrent)).toBe(
      sum(view, ({ figures }) => figures.carrying),
    );
    expect(view.maturities.reduce((total, due) => total + due, 0)).toBe(
      sum(view, ({ figures }) => figures.outstanding),
    );
    // Costs not yet amortized lower what is carried of the one loan that falls due whole.
    const costs = rowOf(view, 'Mould shop mortgage')?.figures.unamortizedIssueCosts ?? 0;
    expect(costs).toBeGreaterThan(0);
    // An instalment is presented less its share of what is unamortized: a fifth of it falls due within the year.
    const serial = rowOf(view, '6.00% serial bonds due 2030')?.figures;
    const unamortized = (serial?.outstanding ?? 0) - (serial?.carrying ?? 0);
    expect(unamortized).toBeGreaterThan(0);
    const presented = sum(view, ({ figures }) => figures.current);
    expect(view.maturities[0]).toBe(presented + costs + Math.round(unamortized / 5));
  });

  it('has three hundred loans by name, each with its own figures, whichever thread worked them out', async () => {
    const names = Array.from({ length: 300 }, (_, at) => `Row ${String(1000 + at)}`);
    for (const [at, name] of names.entries()) {
      const document = loanDocument(name, { amount: `${1000 + at}.00` });
      expect((await preparer.call('POST', '/api/instruments', { document })).status).toBe(200);
    }
    const found = (await register('2026-10-15')).rows.filter((row) => row.name.startsWith('Row 1'));
    expect(found.map((row) => row.name)).toEqual(names);
    expect(found.map((row) => row.figures.outstanding)).toEqual(names.map((_, at) => 100 * (1000 + at)));
  });

  it('leaves out what has not begun, and counts what is settled', async () => {
    const before = await register('2026-01-31');
    expect(rowOf(before, 'Ninety-day bridge note')).toBeUndefined();
    const after = await register('2026-12-31');
    expect(rowOf(after, 'Ninety-day bridge note')).toBeUndefined();
    expect(after.settled).toBe(1);
  });

  it('names each payment that is due by the day and not recorded', async () => {
    const { unrecorded } = await register('2026-10-31');
    expect(unrecorded).toEqual([
      {
        instrumentId: expect.any(String),
        name: 'Batch house term loan',
        due: '2026-10-15',
        amount: 4_661_129,
      },
      {
        instrumentId: expect.any(String),
        name: 'Working capital line',
        due: '2026-10-31',
        amount: 229_983,
      },
    ]);
    expect((await register('2026-09-30')).unrecorded).toEqual([]);
  });

  it('names what else needs attention: a fixing that is due, a renewal, an instalment and a maturity that are near', async () => {
    const told = async (on: string): Promise<string[]> =>
      (await register(on)).attention.map(({ kind, name, on: day }) => `${kind}, ${name}, ${day}`);
    expect(await told('2026-10-31')).toEqual([
      'fixing-due, Furnace rebuild loan, 2026-10-15',
      'renewal-near, Mould shop mortgage, 2026-12-20',
      'matures, Ninety-day bridge note, 2026-12-04',
    ]);
    expect(await told('2026-08-31')).toEqual([]);
    expect(await told('2026-12-31')).toContain('instalment-near, 6.00% serial bonds due 2030, 2027-03-01');
  });

  it('shows a class, a pattern and a rate for each', async () => {
    const view = await register('2026-10-31');
    expect(rowOf(view, 'Ninety-day bridge note')).toMatchObject({
      class: 'note',
      pattern: 'all at maturity',
      rate: '9.00%',
    });
    expect(rowOf(view, '5.50% bonds due 2034')).toMatchObject({
      class: 'bond',
      pattern: 'coupon 5.50% half-yearly',
      rate: '5.94%',
      rateNote: 'effective',
    });
    expect(rowOf(view, 'Cullet sorter build loan')).toMatchObject({
      pattern: 'interest only, then level, monthly',
      lender: 'Quillhaven Bank',
    });
  });

  it('moves at once when an instrument is taken on', async () => {
    const before = await register('2026-10-31');
    await preparer.call('POST', '/api/instruments', { document: loanDocument('Register loan') });
    const after = await register('2026-10-31');
    const borrowed = parseAmount('100000.00', 2) as number;
    expect(sum(after, ({ figures }) => figures.outstanding)).toBe(
      sum(before, ({ figures }) => figures.outstanding) + borrowed,
    );
    // 30 of 31 days of an even month of 100,000 at 6 %: 500 × 30/31.
    expect(rowOf(after, 'Register loan')?.figures.accruedInterest).toBe(48_387);
  });

  it('shows a line that is not drawn: its fee accrues and its costs are an asset', async () => {
    const document = {
      document: 'coffer.instrument/1',
      kind: 'credit-line',
      name: 'Undrawn line',
      currency: 'EUR',
      limit: '100000.00',
      start: '2026-10-01',
      matures: '2027-10-01',
      rate: { annual: '6%', dayCount: 'ACT/360' },
      firstBill: '2026-11-01',
      unusedFee: '0.5%',
      issueCosts: { amount: '1200.00' },
    };
    expect((await preparer.call('POST', '/api/instruments', { document })).status).toBe(200);
    const figures = rowOf(await register('2026-10-31'), 'Undrawn line')?.figures;
    // 100,000 × 0.5 % × 30/360 of fee; of 1,200.00 of costs 30 of 365 days are used (common practice).
    expect(figures).toMatchObject({ outstanding: 0, carrying: 0, accruedFee: 4_167, deferredCosts: 110_137 });
    const { body } = await preparer.call('GET', '/api/periods/2026-10-31/close');
    expect(body.rows.find(({ name }: { name: string }) => name === 'Undrawn line')).toMatchObject({
      figures,
    });
  });
});

describe('the journal', () => {
  it('is read in pages that together are all of it, in order', async () => {
    const numbers: number[] = [];
    let after: number | null = 0;
    let count = 0;
    while (after !== null) {
      const { body }: { body: { entries: { number: number }[]; next: number | null; count: number } } =
        await preparer.call('GET', `/api/journal?from=2026-01-01&to=2026-12-31&after=${after}`);
      numbers.push(...body.entries.map((entry) => entry.number));
      count = body.count;
      after = body.next;
    }
    expect(numbers).toEqual(Array.from({ length: count }, (_, at) => at + 1));
  });

  it('shows one instrument alone', async () => {
    const view = await register('2026-10-31');
    const id = rowOf(view, 'Furnace hall mortgage')?.id;
    const { body } = await preparer.call(
      'GET',
      `/api/journal?from=2026-01-01&to=2026-01-31&instrument=${id}`,
    );
    expect(body.entries.map((entry: { kind: string }) => entry.kind)).toEqual([
      'opening',
      'reversal',
      'payment',
      'accrual',
      'current-portion',
    ]);
    expect(new Set(body.entries.map((entry: { instrument: string }) => entry.instrument))).toEqual(
      new Set(['Furnace hall mortgage']),
    );
  });

  it('has opened the books with what was owed and accrued the day before them', async () => {
    const view = await register('2026-10-31');
    const id = rowOf(view, 'Furnace hall mortgage')?.id;
    const { body } = await preparer.call(
      'GET',
      `/api/journal?from=2026-01-01&to=2026-01-31&instrument=${id}`,
    );
    const lines = body.entries[0].lines as { role: string; debit: number; credit: number }[];
    const at = Object.fromEntries(lines.map((line) => [line.role, line.debit - line.credit]));
    const { body: held } = await preparer.call('GET', `/api/instruments/${id}`);
    const reading = readInstrument(held.document);
    if (!reading.ok) throw new Error('unreadable');
    const before = position(reading.instrument.schedule, parseDay('2025-12-31') as number);
    expect(at).toEqual({
      'loan-payable': -before.nonCurrent,
      'current-portion': -before.current,
      'interest-payable': -before.accruedInterest,
      'opening-balances': before.outstanding + before.accruedInterest,
    });
  });
});

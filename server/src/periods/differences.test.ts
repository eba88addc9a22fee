import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CloseView, DifferenceLine, DifferencesView } from '@coffer/contract';
import { loanDocument, TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  ilka = await server.as('ilka');
});
afterAll(() => server.stop());

const october = '/api/periods/2026-10-31';
const differences = async (endsOn = '2026-10-31'): Promise<DifferencesView> =>
  (await ilka.call('GET', `/api/periods/${endsOn}/differences`)).body;
const close = async (endsOn = '2026-10-31'): Promise<CloseView> =>
  (await ilka.call('GET', `/api/periods/${endsOn}/close`)).body;
const lineOf = ({ lines }: DifferencesView, name: string): DifferenceLine => {
  const found = lines.find((line) => line.name === name);
  if (!found) throw new Error(`There is no line of ${name}.`);
  return found;
};
const figures = ['accrued', 'expense', 'carrying', 'current'] as const;
const reasonsOf = (line: DifferenceLine, figure: (typeof figures)[number] = 'expense'): unknown =>
  line[figure].parts.map(({ reason }) => reason);

describe('a month against the month before', () => {
  it('shows every instrument with parts that sum to what changed, whether it is closed or not', async () => {
    for (const endsOn of ['2026-10-31', '2026-09-30']) {
      const { lines, before } = await differences(endsOn);
      const { rows } = await close(endsOn);
      const was = new Map((await close(before ?? '')).rows.map((row) => [row.id, row]));
      expect(lines.map(({ id }) => id).sort()).toEqual(rows.map(({ id }) => id).sort());
      for (const row of rows) {
        const line = lines.find(({ id }) => id === row.id) as DifferenceLine;
        expect(line.carrying).toMatchObject({
          now: row.figures.carrying,
          change: row.figures.carrying - (was.get(row.id)?.figures.carrying ?? 0),
        });
        expect(line.current.now).toBe(row.figures.current);
        for (const figure of figures) {
          const { change, parts } = line[figure];
          expect(parts.reduce((sum, { amount }) => sum + amount, 0)).toBe(change);
          expect(parts.map(({ reason }) => reason)).not.toContain('unexplained');
        }
      }
    }
  });

  it('puts what has a cause first, and what ran as scheduled last', async () => {
    const { lines } = await differences();
    const scheduled = lines.map(({ asScheduled }) => asScheduled);
    expect(scheduled).toEqual([...scheduled].sort());
    expect(new Set(scheduled)).toEqual(new Set([true, false]));
  });

  it('tells what is new, what was withdrawn, and what a correction of closed months brings', async () => {
    const was = (await close()).rows.find(({ name }) => name === 'Batch house term loan');
    const { body: kept } = await ilka.call('GET', `/api/instruments/${was?.id ?? ''}`);
    const document = { ...kept.document, rate: { ...kept.document.rate, annual: '7.77%' } };
    const changed = { version: kept.version, document, reason: 'Read wrongly' };
    expect((await ilka.insist('PUT', `/api/instruments/${kept.id}`, changed)).status).toBe(200);
    await ilka.insist('POST', '/api/instruments', { document: loanDocument('Just begun') });
    // Taken on late: it brings the expense of closed months with it.
    const late = loanDocument('Late', {
      start: '2026-07-15',
      payments: { every: 'month', first: '2026-08-15', phases: [{ type: 'level', count: 36 }] },
    });
    expect((await ilka.insist('POST', '/api/instruments', { document: late })).status).toBe(200);
    const gone =
      (await close()).rows.find(({ name }) => name === 'Delivery fleet note') ?? (await close()).rows.at(-1);
    const { body: away } = await ilka.call('GET', `/api/instruments/${gone?.id ?? ''}`);
    const reason = { version: away.version, reason: 'Twice' };
    expect((await ilka.call('POST', `/api/instruments/${away.id}/withdrawal`, reason)).status).toBe(200);

    const now = await differences();
    // What the lines come to is what the journal holds.
    const expense = (await close()).checks.find(({ of }) => of === 'expense');
    expect(now.lines.reduce((sum, line) => sum + line.expense.now, 0)).toBe(expense?.journal);
    expect(reasonsOf(lineOf(now, 'Late'))).toEqual(['catch-up', 'new']);
    expect(reasonsOf(lineOf(now, 'Just begun'))).toEqual(['new']);
    expect(reasonsOf(lineOf(now, away.document.name), 'carrying')).toEqual(['withdrawn']);
    const corrected = lineOf(now, 'Batch house term loan');
    expect(reasonsOf(corrected)).toEqual(expect.arrayContaining(['catch-up', 'put-right']));
    expect(corrected.asScheduled).toBe(false);
    // The catch-up is what the entries of the close book for closed months.
    const { entries } = (await ilka.call('GET', `${october}/close/${kept.id}`)).body;
    const booked = entries
      .filter(({ kind }: { kind: string }) => kind === 'correction')
      .flatMap(({ lines }: { lines: { role: string; debit: number; credit: number }[] }) => lines)
      .filter(({ role }: { role: string }) => role === 'interest-expense')
      .reduce((sum: number, { debit, credit }: { debit: number; credit: number }) => sum + debit - credit, 0);
    expect(corrected.expense.parts[0]).toEqual({ reason: 'catch-up', amount: booked });
    expect(booked).not.toBe(0);
  });

  it('has nothing before the first month of the books', async () => {
    const first = await differences('2026-01-31');
    expect(first.before).toBeNull();
    expect(new Set(first.lines.flatMap((line) => line.carrying.parts.map(({ reason }) => reason)))).toEqual(
      new Set(['new']),
    );
  });
});

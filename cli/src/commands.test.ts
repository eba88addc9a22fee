import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'coffer-cli-'));

/** The loan of the document format's own example, and a bond. */
const loan = {
  document: 'coffer.instrument/1',
  kind: 'loan',
  name: 'Annealing line loan',
  currency: 'EUR',
  amount: '640000.00',
  start: '2024-06-15',
  rate: { annual: '6.10%', compounding: 'each-payment', dayCount: 'even-periods' },
  payments: { every: 'month', first: '2024-07-15', phases: [{ type: 'level', count: 84 }] },
};
const bond = {
  document: 'coffer.instrument/1',
  kind: 'bond',
  name: '5.50% bonds due 2034',
  currency: 'EUR',
  face: '3000000.00',
  issued: '2024-04-01',
  matures: '2034-04-01',
  coupon: { annual: '5.50%', every: 'half-year', dayCount: '30/360' },
  price: '96.7500',
};

function coffer(args: string[], input?: unknown): { status: number | null; out: string; err: string } {
  const text = typeof input === 'string' ? input : JSON.stringify(input);
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'cli/src/main.ts', ...args], {
    cwd: root,
    encoding: 'utf8',
    ...(input !== undefined && { input: text }),
  });
  return { status: done.status, out: done.stdout, err: done.stderr };
}

describe('schedule', () => {
  it('gives a loan in its published form', () => {
    const made = JSON.parse(coffer(['schedule', '-', '--json'], loan).out);
    expect(Object.keys(made)).toEqual([
      'kind',
      'regularPayment',
      'paymentCount',
      'finalPayment',
      'clears',
      'solved',
      'rows',
      'totals',
      'proofs',
    ]);
    // The payment of the format's example, 9380.19, and its last due date.
    expect(made).toMatchObject({
      kind: 'loan',
      regularPayment: '9380.19',
      paymentCount: 84,
      clears: '2031-06-15',
    });
    expect(Object.keys(made.rows[0])).toEqual([
      'n',
      'due',
      'opening',
      'payment',
      'interest',
      'principal',
      'extra',
      'closing',
    ]);
    expect(
      made.proofs.every(
        (proof: { holds: boolean; difference: string }) => proof.holds && proof.difference === '0.00',
      ),
    ).toBe(true);
    expect(made.totals.principal).toBe('640000.00');
  });

  it('gives a stretch of payments and what it sums to', () => {
    const made = JSON.parse(coffer(['schedule', '-', '--json', '--rows', '13-24'], loan).out);
    expect(made.rows.map((row: { n: number }) => row.n)).toEqual([
      13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24,
    ]);
    const cents = (key: string): number =>
      made.rows.reduce(
        (sum: number, row: Record<string, string>) => sum + Math.round(Number(row[key]) * 100),
        0,
      );
    expect(Math.round(Number(made.range.interest) * 100)).toBe(cents('interest'));
    expect(Math.round(Number(made.range.payment) * 100)).toBe(12 * 938_019);
    expect(made.range.closing).toBe(made.rows.at(-1).closing);
  });

  it('gives a bond in its published form, and a table and CSV to people and programs', () => {
    const made = JSON.parse(coffer(['schedule', '-', '--json'], bond).out);
    expect(made).toMatchObject({
      kind: 'bond',
      proceeds: '2902500.00',
      totals: { coupon: '1650000.00', expense: '1747500.00', amortization: '97500.00' },
    });
    expect(Object.keys(made.rows[1])).toEqual([
      'n',
      'due',
      'opening',
      'coupon',
      'expense',
      'amortization',
      'unamortized',
      'closing',
    ]);
    expect(made.effectiveRate).toMatch(/^5\.93560\d+%$/);
    const file = join(folder, 'bond.json');
    writeFileSync(file, JSON.stringify(bond));
    expect(coffer(['schedule', file, '--csv']).out.split('\n')[0]).toBe(
      'n,due,opening,coupon,expense,amortization,unamortized,closing',
    );
    expect(coffer(['schedule', file]).out).toContain('2,902,500.00');
  });
});

describe('position and entries', () => {
  it('give the published forms', () => {
    const at = JSON.parse(coffer(['position', '-', '--on', '2026-10-31', '--json'], bond).out);
    expect(Object.keys(at)).toEqual([
      'on',
      'outstanding',
      'accruedInterest',
      'unpaidInterest',
      'unamortizedDiscount',
      'unamortizedPremium',
      'unamortizedIssueCosts',
      'carrying',
      'current',
      'nonCurrent',
      'next',
    ]);
    // 30 days of 30/360 at 5.50 % on 3,000,000: a twelfth of 165,000.
    expect(at).toMatchObject({
      accruedInterest: '13750.00',
      next: { due: '2027-04-01', payment: '82500.00' },
    });
    const entries = JSON.parse(
      coffer(['entries', '-', '--from', '2026-10-01', '--to', '2026-10-31', '--json'], bond).out,
    );
    expect(entries.map((entry: { memo: string }) => entry.memo)).toEqual([
      'Reversal: Coupon accrued and discount amortized to 2026-09-30',
      'Coupon 5',
      'Coupon accrued and discount amortized to 2026-10-31',
    ]);
    expect(entries[1].lines[0]).toEqual({ account: 'interest-expense', debit: '86592.22', credit: '0.00' });
  });
});

describe('what cannot be used', () => {
  it.each([
    ['a negative amount', { ...loan, amount: '-5' }, /^amount: /m],
    ['an unknown key', { ...loan, colour: 'green' }, /^colour: This key is not known here/m],
    [
      'several faults at once',
      { ...loan, amount: 5, currency: 'EUX', start: '2024-02-30' },
      /amount: Found the number 5[\s\S]*currency: [\s\S]*start: |currency: [\s\S]*amount: /,
    ],
    ['text that is not JSON', '{', /This is not JSON/],
  ])('%s ends with 2 and nothing on standard output', (_, document, message) => {
    const { status, out, err } = coffer(['schedule', '-', '--json'], document);
    expect([status, out]).toEqual([2, '']);
    expect(err).toMatch(message);
    expect(err).not.toMatch(/\bat .*\.ts:/);
  });

  it.each([
    [['schedule'], /takes one FILE/],
    [['schedule', 'nowhere.json'], /There is no file nowhere.json/],
    [['position', '-'], /--on is missing/],
    [['position', '-', '--on', '2026-02-30'], /--on 2026-02-30 is not a date/],
    [['entries', '-', '--from', '2026-02-01', '--to', '2026-01-01'], /is before --from/],
    [['schedule', '-', '--rows', '9-3'], /--rows 9-3 is not a range/],
    [['schedule', '-', '--colour'], /colour/],
  ])('%j says how it is meant', (args, message) => {
    const { status, out, err } = coffer(args, loan);
    expect([status, out]).toEqual([2, '']);
    expect(err).toMatch(message);
  });
});

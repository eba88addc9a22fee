import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { coffer } from './testing/coffer.ts';

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
      'accruedFee',
      'unpaidInterest',
      'deferredInterest',
      'unamortizedDiscount',
      'unamortizedPremium',
      'unamortizedIssueCosts',
      'deferredCosts',
      'overpaid',
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

describe('accruals', () => {
  // Common practice: what stands is cleared by the payment, which charges only the rest of its interest.
  it('are reversed or left standing, as asked', () => {
    const range = ['--from', '2024-07-31', '--to', '2024-08-31', '--json'];
    const kinds = (accruals: string): { memo: string; lines: { account: string; debit: string }[] }[] =>
      JSON.parse(coffer(['entries', '-', ...range, '--accruals', accruals], loan).out);
    const [reversed, standing] = [kinds('reversed'), kinds('standing')];
    expect(reversed.some(({ memo }) => memo.startsWith('Reversal'))).toBe(true);
    expect(standing.some(({ memo }) => memo.startsWith('Reversal'))).toBe(false);
    const paid = standing.find(({ memo }) => memo === 'Payment 2');
    const accrued = standing[0]?.lines.find(({ account }) => account === 'interest-expense')?.debit;
    expect(paid?.lines.find(({ account }) => account === 'interest-payable')?.debit).toBe(accrued);
    expect(coffer(['entries', '-', ...range, '--accruals', 'kept'], loan)).toMatchObject({
      status: 2,
      out: '',
    });
  });
});

describe('a sinking fund', () => {
  const fund = {
    document: 'coffer.instrument/1',
    kind: 'fund',
    name: 'Redemption fund',
    currency: 'EUR',
    goal: '100000.00',
    rate: { annual: '8%' },
    every: 'year',
    first: '2025-12-31',
    count: 5,
    for: 'Furnace note',
  };
  const debt = {
    ...loan,
    name: 'Furnace note',
    amount: '100000.00',
    start: '2024-12-31',
    rate: { annual: '10%' },
    payments: { every: 'year', first: '2025-12-31', phases: [{ type: 'interest-only', count: 5 }] },
  };
  const debtFile = join(folder, 'furnace-note.json');
  writeFileSync(debtFile, JSON.stringify(debt));

  // Sinking fund factor at 8 % over 5 periods: 0.17046 (engineering-economy tables, from memory).
  it('tells the deposit, and with the debt it repays what both come to', () => {
    const made = JSON.parse(coffer(['schedule', '-', '--json', '--for', debtFile], fund).out);
    expect(made).toMatchObject({ regularDeposit: '17045.65', depositCount: 5, reached: '2029-12-31' });
    expect(made.rows[4]).toMatchObject({ closing: '100000.00', owed: '0.00', netDebt: '0.00' });
    expect(made.proofs.every((proof: { holds: boolean }) => proof.holds)).toBe(true);
    // Five years' interest of 10,000 each; the deposits are the rest of what is paid.
    const paidIn = Number(made.totals.deposit);
    expect(made.together).toMatchObject({ debtInterest: '50000.00', released: '100000.00' });
    expect(Number(made.together.outlay)).toBeCloseTo(50_000 + paidIn, 6);
    expect(Number(made.together.netInterest)).toBeCloseTo(50_000 + paidIn - 100_000, 6);
  });

  it('of the demo ends with the bonds it repays', () => {
    const files = ['demo/funds/redemption-fund-2034.json', '--for', 'demo/instruments/bonds-due-2034.json'];
    const { together, proofs } = JSON.parse(coffer(['schedule', ...files, '--json']).out);
    expect(together).toMatchObject({
      debtEnds: '2034-04-01',
      fundEnds: '2034-04-01',
      released: '3000000.00',
    });
    expect(proofs.every((proof: { holds: boolean }) => proof.holds)).toBe(true);
  });

  it('has a position and entries of its own', () => {
    const at = JSON.parse(coffer(['position', '-', '--on', '2026-12-31', '--json'], fund).out);
    // 17,045.65 × 2.08, the amount of two deposits at 8 %.
    expect(at).toMatchObject({ balance: '35454.95', toGoal: '64545.05', next: { due: '2027-12-31' } });
    const range = ['--from', '2029-12-01', '--to', '2029-12-31'];
    const found = JSON.parse(coffer(['entries', '-', ...range, '--json'], fund).out);
    expect(found.at(-1)).toMatchObject({
      memo: 'Fund paid out to repay Furnace note',
      lines: [
        { account: 'cash', debit: '100000.00' },
        { account: 'sinking-fund', credit: '100000.00' },
      ],
    });
  });

  it('refuses what does not fit together, naming the key', () => {
    const listed = { ...fund, deposits: [{ on: '2025-06-30', amount: '5.00' }] };
    expect(coffer(['schedule', '-'], listed).err).toMatch(/count: .*leave this out[^]*first: .*another day/);
    expect(coffer(['schedule', '-'], { ...fund, goal: 5 }).err).toContain('goal: Found the number 5');
    expect(coffer(['schedule', '-', '--for', debtFile], loan)).toMatchObject({ status: 2, out: '' });
    const dollars = coffer(['schedule', '-', '--for', debtFile], { ...fund, currency: 'USD' });
    expect(dollars.err).toContain('is in EUR and the fund in USD');
  });
});

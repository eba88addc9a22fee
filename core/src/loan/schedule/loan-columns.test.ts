import { describe, expect, it } from 'vitest';
import { FillingColumns, type NewRow } from './loan-columns.ts';

const row = (at: number, more: Partial<NewRow> = {}): NewRow => ({
  ...{ n: at + 1, kind: 'payment', date: 100 + at, due: 100 + at, chargedTo: 100 + at, setting: 0 },
  ...{ payment: 10 + at, interest: at, principal: 10, extra: 0, added: 0, closing: 1_000 - 10 * (at + 1) },
  ...{ unpaid: 0, deferred: 0, principalInArrears: 0, overpaid: 0, fee: 0, ...more },
});
const seldom = ['extra', 'added', 'unpaid', 'deferred', 'principalInArrears', 'overpaid', 'fee'] as const;

describe('columns that are filled', () => {
  it('keep what was written, however often room is made', () => {
    const columns = new FillingColumns(1, 1_000);
    const special: Partial<NewRow> = { due: 90, chargedTo: 91, setting: 3, kind: 'draw', n: 0 };
    for (let at = 0; at < 100; at += 1) {
      columns.write(row(at, at % 10 === 3 ? { ...special, extra: at, unpaid: 2 * at, fee: 3 * at } : {}));
    }
    expect(columns.length).toBe(100);
    for (let at = 0; at < 100; at += 1) {
      const other = at % 10 === 3;
      const of = (name: Exclude<keyof FillingColumns, 'length' | 'exact' | 'reserve' | 'write'>): number =>
        columns[name][at] as number;
      expect([of('n'), of('date'), of('due'), of('chargedTo')]).toEqual(
        other ? [0, 100 + at, 90, 91] : [at + 1, 100 + at, 100 + at, 100 + at],
      );
      // A row opens where the one before it closed.
      expect([of('opening'), of('closing')]).toEqual([1_000 - 10 * at, 990 - 10 * at]);
      expect([of('payment'), of('interest'), of('principal'), of('setting')]).toEqual([
        10 + at,
        at,
        10,
        other ? 3 : 0,
      ]);
      expect(seldom.map(of)).toEqual(other ? [at, 0, 2 * at, 0, 0, 0, 3 * at] : [0, 0, 0, 0, 0, 0, 0]);
    }
    expect([...new Set(columns.rowKind.subarray(0, 100))]).toHaveLength(2);
  });

  it('share what is the same in all of them: days that are the date, and amounts that are nothing', () => {
    const [one, other] = [new FillingColumns(4, 0), new FillingColumns(4, 0)];
    for (const columns of [one, other]) for (let at = 0; at < 9; at += 1) columns.write(row(at));
    expect([one.due, one.chargedTo]).toEqual([one.date, one.date]);
    expect(one.due).toBe(one.date);
    for (const name of seldom) expect(one[name]).toBe(other[name]);
    // Written once, it is a column of its own; the others stay nothing.
    one.write(row(9, { fee: 5 }));
    expect([one.fee[9], one.fee[8], other.fee[9]]).toEqual([5, 0, 0]);
    expect(one.unpaid).toBe(other.unpaid);
  });

  it('have room for all that is asked for at once, and for no less than before', () => {
    const columns = new FillingColumns(2, 500);
    columns.reserve(2);
    const before = columns.date;
    columns.reserve(1);
    expect(columns.date).toBe(before);
    columns.reserve(3);
    expect([columns.date.length, columns.opening[0]]).toEqual([4, 500]);
    columns.reserve(5_000);
    expect([columns.date.length, columns.payment.length, columns.fee.length >= 5_000]).toEqual([
      5_000,
      5_000,
      true,
    ]);
  });
});

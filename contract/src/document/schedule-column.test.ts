import { describe, expect, expectTypeOf, it } from 'vitest';
import * as v from 'valibot';
import { columnsOf, onPaper, publishedRow, rowSchema, type RowOf } from './schedule-column.ts';

const { each, some } = columnsOf<
  { readonly paid: number; readonly fee?: number },
  { readonly line: boolean }
>();
const columns = [
  each('n', 'No.', 'count', () => null),
  each(
    'paid',
    ({ line }) => (line ? 'Repaid' : 'Principal'),
    'amount',
    ({ paid }) => paid,
  ),
  some('fee', 'Fee', 'amount', ({ fee }) => fee, { before: 'paid' }),
] as const;
const schema = rowSchema(columns);

describe('the columns of a schedule', () => {
  it('give published rows, their schema and its type', () => {
    const row = publishedRow(columns, { paid: 12_345 }, { line: false }, 2);
    expect(row).toEqual({ n: null, paid: '123.45' });
    expectTypeOf(row).toEqualTypeOf<RowOf<typeof columns>>();
    expectTypeOf(row.paid).toEqualTypeOf<string>();
    expectTypeOf(row.fee).toEqualTypeOf<string | undefined>();
    expect(v.parse(schema, row)).toEqual(row);
    const whole = publishedRow(columns, { paid: 12_345, fee: 7 }, { line: false }, 0);
    expect(v.parse(schema, whole)).toEqual({ n: null, paid: '12345', fee: '7' });
  });

  it.each([
    ['without what each row has', { n: 1 }],
    ['with what no column has', { n: 1, paid: '1.00', added: '1.00' }],
    ['with an amount that is a number', { n: 1, paid: 1 }],
    ['with an amount written for people', { n: 1, paid: '1,000.00' }],
    ['with half a number', { n: 1.5, paid: '1.00' }],
  ])('refuse a row %s', (_what, row) => {
    expect(v.is(schema, row)).toBe(false);
  });

  it('stand on paper where they say, under a title that follows from the schedule', () => {
    expect(onPaper(columns, { line: true }).map(({ title }) => title)).toEqual(['No.', 'Fee', 'Repaid']);
  });
});

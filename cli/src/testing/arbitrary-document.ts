import { readdirSync, readFileSync } from 'node:fs';
import { compoundings, dayCountNames, frequencies } from '@coffer/core';
import fc from 'fast-check';

export type Value = string | number | boolean | null | Value[] | { [key: string]: Value };

const demo = new URL('../../../demo/', import.meta.url);
const documents = ['instruments/', 'funds/'].flatMap((folder) =>
  readdirSync(new URL(folder, demo)).map(
    (file) => JSON.parse(readFileSync(new URL(folder + file, demo), 'utf8')) as Value,
  ),
);

const amount = fc.oneof(
  fc.constantFrom('0', '0.00', '0.01', '1', '999999999999.99'),
  fc.integer({ min: 1, max: 10 ** 8 }).map((cents) => (cents / 100).toFixed(2)),
);
const rate = fc.oneof(
  fc.constantFrom('0%', '0.000000000001%', '1000%'),
  fc.integer({ min: 1, max: 30_000 }).map((thousandths) => `${(thousandths / 1000).toFixed(3)}%`),
);
const date = fc
  .tuple(fc.constantFrom(1900, 2020, 2024, 2025, 2026, 2028, 2034, 2199), fc.nat(11), fc.nat(30))
  .map(
    ([year, month, day]) =>
      `${year}-${String(month + 1).padStart(2, '0')}-${String(day + 1).padStart(2, '0')}`,
  );
const count = fc.constantFrom<Value>(0, 1, 2, 12, 60, 1200, '?');
const event = fc.oneof(
  fc.record({
    type: fc.constantFrom('extra-principal', 'draw', 'fee', 'settled', 'repayment'),
    on: date,
    amount,
  }),
  fc.record({ type: fc.constant('payment-change'), on: date, payment: amount }),
  fc.record({
    type: fc.constant('payment-change'),
    on: date,
    payment: amount,
    rises: fc.oneof(rate, amount),
  }),
  fc.record({
    type: fc.constant('extra-principal'),
    every: fc.constant('payment'),
    from: date,
    amount,
    rises: fc.oneof(rate, amount),
  }),
  fc.record({ type: fc.constant('interest-added'), on: date }),
  fc.record({ type: fc.constant('paid'), due: date, on: date, amount }),
  fc.record({
    type: fc.constant('renewal'),
    on: date,
    annual: rate,
    count: fc.nat(90),
    amortizeOver: fc.nat(300),
  }),
);
const phase = fc.oneof(
  fc.record({ type: fc.constant('level'), count }),
  fc.record({ type: fc.constant('level'), count, payment: fc.oneof(amount, fc.constant('?')) }),
  fc.record({ type: fc.constant('fixed'), payment: amount }),
  fc.record({ type: fc.constant('fixed'), payment: amount, rises: fc.oneof(rate, amount), count }),
  fc.record({ type: fc.constantFrom('equal-principal', 'interest-only', 'no-payment'), count }),
  fc.record({
    type: fc.constant('custom'),
    payments: fc.array(fc.record({ on: date, amount }), { maxLength: 3 }),
  }),
);

/** What may stand under keys that only some values fit, for these to be tried often enough. */
const fitting: Readonly<Record<string, fc.Arbitrary<Value>>> = {
  every: fc.constantFrom(...frequencies),
  compounding: fc.constantFrom(...compoundings),
  dayCount: fc.constantFrom(...dayCountNames),
  currency: fc.constantFrom('JPY', 'KWD', 'EUR', 'ZZZ'),
  count,
  monthEnd: fc.boolean(),
  last: date,
  due: fc.constantFrom('end', 'start'),
  atEnd: fc.constantFrom('pay', 'leave'),
  method: fc.constantFrom('effective', 'straight-line'),
  events: fc.array(event, { maxLength: 3 }),
  phases: fc.array(phase, { minLength: 1, maxLength: 3 }),
  rounding: fc.record({ interest: fc.constantFrom('cent', 'unit', 'none'), ties: fc.constant('even') }),
  issueCosts: fc.record({ amount, method: fc.constantFrom('effective', 'straight-line') }),
};

/** Another value of the kind that stands there. */
function otherwise(value: Value, key: string): fc.Arbitrary<Value> {
  const fits = fitting[key];
  if (fits) return fits;
  if (Array.isArray(value)) {
    return value.length === 0
      ? fc.constant(value)
      : at(value.length).chain((place) => replaced(value, place));
  }
  if (value !== null && typeof value === 'object') {
    const keys = [...Object.keys(value), 'events', 'issueCosts', 'last'];
    return fc
      .constantFrom(...keys)
      .chain((changed) =>
        otherwise(value[changed] ?? [], changed).map((other): Value => ({ ...value, [changed]: other })),
      );
  }
  if (typeof value !== 'string') return count;
  if (value.endsWith('%')) return rate;
  return /^\d{4}-/.test(value) ? date : /^[\d.]+$/.test(value) ? amount : fc.constant(value);
}

const at = (length: number): fc.Arbitrary<number> => fc.nat(length - 1);

function replaced(list: readonly Value[], place: number): fc.Arbitrary<Value> {
  return otherwise(list[place] ?? null, '').map((other): Value =>
    list.map((value, i) => (i === place ? other : value)),
  );
}

/** Any document of the demo with up to two of its values replaced. */
export const anyDocument: fc.Arbitrary<Value> = fc
  .constantFrom(...documents)
  .chain((document) => otherwise(document, ''))
  .chain((document) => otherwise(document, ''));

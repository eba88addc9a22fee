import fc from 'fast-check';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { documentJsonSchema, readDocumentText } from './read-document.ts';
import { instrumentDocument } from './instrument-document.ts';
import { readInstrument } from './read-instrument.ts';
import { scheduleJson } from './schedule-json.ts';

/** The loan and the bond that the document format gives as its examples. */
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

const faultsOf = (value: unknown): Record<string, string> => {
  const reading = readInstrument(value);
  return reading.ok ? {} : Object.fromEntries(reading.faults.map(({ key, message }) => [key, message]));
};

describe('the document format', () => {
  it('reads its own examples, and defaults are what it says', () => {
    const reading = readInstrument(loan);
    const plain = readInstrument({ ...loan, rate: { annual: '6.10%' } });
    expect(reading.ok && plain.ok && plain.instrument.terms).toEqual(reading.ok && reading.instrument.terms);
    expect(readInstrument(bond).ok).toBe(true);
  });

  it('is described by a JSON Schema that names what it requires', () => {
    const text = JSON.stringify(documentJsonSchema());
    for (const key of ['amount', 'payments', 'coupon', 'extra-principal', 'interest-only', 'deposits'])
      expect(text).toContain(`"${key}"`);
    expect(text).toContain('"additionalProperties":false');
  });

  it.each([
    ['amount', { amount: 640000 }, /Found the number 640000; expected string/],
    ['amount', { amount: '1,000' }, /Found "1,000"/],
    ['amount', { amount: '10.005' }, /EUR has 2 decimals/],
    ['amount', { amount: '0' }, /more than zero/],
    ['amount', { amount: '9000000000000' }, /below 1,000,000,000,000/],
    ['amount', { purchase: { price: '5', downPayment: '1' } }, /not both/],
    ['start', { start: '2024-02-30' }, /there is no such date/],
    ['start', { start: '15.06.2024' }, /expected a date such as/],
    ['rate.annual', { rate: { annual: '6.10' } }, /expected a yearly rate such as "6.10%"/],
    ['rate.anual', { rate: { anual: '6%', annual: '6%' } }, /not known here/],
    [
      'rate.dayCount',
      { rate: { annual: '6%', dayCount: '30/365' } },
      /Found "30\/365"; expected "even-periods" or/,
    ],
    ['currency', { currency: 'EUX' }, /ISO 4217/],
    ['kind', { kind: 'lease' }, /Found "lease"; expected "loan" or "bond"/],
    ['payments.phases', { payments: { ...loan.payments, phases: [] } }, /at least one phase/],
    ['events.0', { events: [{ type: 'extra-principal', amount: '5.00' }] }, /"on" for one day or "every"/],
    [
      'events.0.on',
      { events: [{ type: 'extra-principal', on: '2024-06-14', amount: '5.00' }] },
      /before the loan starts, 2024-06-15/,
    ],
    [
      'events.1.on',
      { events: [1, 2].map(() => ({ type: 'paid', due: '2024-07-15', on: '2024-07-15', amount: '5.00' })) },
      /recorded twice/,
    ],
    ['payments.first', { payments: { ...loan.payments, first: '2024-06-15' } }, /not after the start/],
  ])('names %s at fault', (key, more, message) => {
    expect(faultsOf({ ...loan, ...more })[key]).toMatch(message);
  });

  it.each([
    ['matures', { matures: '2024-04-01' }, /not after its issue/],
    ['matures', { matures: '2034-05-01' }, /not on a coupon date/],
    ['price', { price: undefined }, /Give the price of the bond, or its yield/],
    ['amortization.rate', { amortization: { rate: 'yield' } }, /no yield is given/],
    ['coupon.every', { coupon: { ...bond.coupon, every: 'week' } }, /expected "month" or "quarter"/],
    ['price', { price: '0' }, /above 0 and at most 1000/],
    ['price', { price: '1000.01' }, /above 0 and at most 1000/],
    ['yield', { yield: '5.94' }, /expected a yearly rate such as/],
    ['yield', { price: undefined, yield: '-250%' }, /There is no price at a yield of -250%/],
    ['yield.compounding', { yield: { annual: '6%', compounding: 'annual' } }, /leave this out/],
    ['issueCosts.amount', { issueCosts: { amount: '4000000.00', method: 'straight-line' } }, /leave nothing/],
    ['calls.0.from', { calls: [{ from: '2034-04-01', price: '101' }] }, /between the issue/],
    [
      'calls.1.from',
      {
        calls: [
          { from: '2030-04-01', price: '101' },
          { from: '2030-04-01', price: '100' },
        ],
      },
      /Two calls begin/,
    ],
    ['dated', { dated: '2024-05-01' }, /after the issue on 2024-04-01/],
    ['dated', { coupon: null, dated: '2024-03-01' }, /nothing accrues before the issue/],
    ['coupon.first', { coupon: { ...bond.coupon, first: '2024-06-01' } }, /not on 2024-06-01/],
    [
      'redemptions.0.on',
      { redemptions: [{ on: '2024-03-01', face: '1.00', price: '100' }] },
      /after the issue/,
    ],
    [
      'redemptions.1.face',
      {
        redemptions: [
          { on: '2026-04-01', face: '2000000.00', price: '101.5' },
          { on: '2027-04-01', face: '1000000.01', price: '100' },
        ],
      },
      /1000000.00 of face is outstanding/,
    ],
    ['redemptions.0.on', { redemptions: [{ on: '2026-05-01', face: '1.00' }] }, /next is 2026-10-01/],
    [
      'events.0.to',
      { events: [{ type: 'presentation', on: '2026-01-01', to: '2025-01-01', as: 'current', reason: 'x' }] },
      /before it begins/,
    ],
  ])('names %s of a bond at fault', (key, more, message) => {
    expect(faultsOf(JSON.parse(JSON.stringify({ ...bond, ...more })))[key]).toMatch(message);
  });

  // One of what is lent, the payments and what they leave follows from the others.
  it.each([
    [{ type: 'level', count: 12, balloon: '1.00', payment: '2.00' }, {}, /leave out one of the two/],
    [{ type: 'level', count: '?', balloon: '1.00', payment: '60000.00' }, {}, /until the loan is cleared/],
    [{ type: 'level', count: 12, balloon: '1.00', amortizeOver: 24 }, {}, /not both/],
    [{ type: 'level', count: 12, balloon: '640000.01' }, {}, /at most 640000.00/],
    [{ type: 'level', count: 12, balloon: '0.00' }, {}, /more than zero/],
    [{ type: 'level', count: 12, balloon: '1.00', payment: '2.00' }, { amount: '?' }, undefined],
  ])('says what a balloon contradicts: %j', (phase, more, message) => {
    const { payments } = loan;
    const document = { ...loan, ...more, payments: { ...payments, phases: [phase] } };
    const fault = faultsOf(JSON.parse(JSON.stringify(document)))['payments.phases.0.balloon'];
    if (message) expect(fault).toMatch(message);
    else expect(fault).toBeUndefined();
  });

  it('names the draws and repayments of a credit line that come after its maturity', () => {
    const line = {
      document: 'coffer.instrument/1',
      kind: 'credit-line',
      name: 'Line',
      currency: 'EUR',
      limit: '500.00',
      start: '2026-01-01',
      matures: '2026-06-30',
      rate: { annual: '5%' },
      events: [
        { type: 'draw', on: '2026-02-01', amount: '200.00' },
        { type: 'repayment', on: '2026-06-30', amount: '50.00' },
        { type: 'draw', on: '2026-07-01', amount: '10.00' },
        { type: 'repayment', on: '2026-08-01', amount: '10.00' },
      ],
    };
    expect(Object.keys(faultsOf(line))).toEqual(['events.2.on', 'events.3.on']);
    expect(faultsOf({ ...line, events: line.events.slice(0, 2) })).toEqual({});
  });

  it('refuses anything else with a reason and never throws', () => {
    fc.assert(
      fc.property(fc.anything({ maxDepth: 3 }), (value) => {
        const reading = readInstrument(value);
        expect(reading.ok).toBe(false);
        if (!reading.ok) expect(reading.faults.every(({ message }) => message.length > 10)).toBe(true);
      }),
    );
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(readDocumentText(text).ok).toBe(false);
      }),
    );
  });

  it('with any one value replaced either reads or names a key, and never throws', () => {
    // An unknown amount is asked for by `?`, and may find other terms wanting.
    const text = fc.string().filter((each) => each.trim() !== '?');
    const keys = ['amount', 'start', 'rate', 'payments', 'currency', 'name', 'document', 'kind'];
    fc.assert(
      fc.property(
        fc.constantFrom(...keys),
        fc.oneof(text, fc.double(), fc.constant(null), fc.array(fc.integer())),
        (key, value) => {
          const reading = readInstrument({ ...loan, [key]: value });
          if (!reading.ok)
            expect(reading.faults.some((fault) => fault.key.startsWith(key) || fault.key === '')).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('what was read', () => {
  it('keeps the document as it is: a reading of it reads the same', () => {
    for (const document of [loan, bond]) {
      expect(v.parse(instrumentDocument, document)).toEqual(document);
    }
  });

  it.each([
    ['JPY', '640000', '9380'],
    ['KWD', '640000.000', '9380.187'],
  ])('counts in the minor unit of %s', (currency, amount, payment) => {
    const reading = readInstrument({ ...loan, currency, amount });
    expect(reading.ok && scheduleJson(reading.instrument.schedule)).toMatchObject({
      regularPayment: payment,
    });
  });
});

// Where a document is taken and where it is not: the last that may be, and the first that may not.
describe('the bounds of a document', () => {
  const line = {
    document: 'coffer.instrument/1',
    kind: 'credit-line',
    name: 'Working capital line',
    currency: 'EUR',
    limit: '100000.00',
    start: '2025-01-15',
    matures: '2025-03-31',
    rate: { annual: '6%' },
  };
  const purchase = (downPayment: string): object => {
    const { amount: _amount, ...rest } = loan;
    return { ...rest, purchase: { price: '640000.00', downPayment } };
  };
  const starting = (start: string, first: string): object => ({
    ...loan,
    start,
    payments: { every: 'month', first, phases: [{ type: 'level', count: 1 }] },
  });

  it.each([
    ['amount', { ...loan, amount: '0.01' }, { ...loan, amount: '0.00' }],
    ['amount', { ...loan, amount: '999999999999.99' }, { ...loan, amount: '1000000000000.00' }],
    [
      'amount',
      { ...loan, currency: 'JPY', amount: '640000' },
      { ...loan, currency: 'JPY', amount: '640000.5' },
    ],
    ['purchase.downPayment', purchase('639999.99'), purchase('640000.00')],
    ['start', starting('1900-01-01', '1900-02-01'), starting('1899-12-31', '1900-02-01')],
    ['payments.first', starting('2199-11-30', '2199-12-31'), starting('2199-11-30', '2200-01-01')],
    ['payments.first', starting('2024-06-15', '2024-06-16'), starting('2024-06-15', '2024-06-15')],
    ['matures', { ...line, matures: '2025-01-16' }, { ...line, matures: '2025-01-15' }],
    ['firstBill', { ...line, firstBill: '2025-01-16' }, { ...line, firstBill: '2025-01-15' }],
    [
      'rate.annual',
      { ...loan, rate: { annual: '1000%' } },
      { ...loan, rate: { annual: '1000.000000000001%' } },
    ],
  ])('%s', (key, may, mayNot) => {
    expect(faultsOf(may)).toEqual({});
    expect(Object.keys(faultsOf(mayNot))).toEqual([key]);
  });

  // What is drawn is owed when the line matures, billed by then or not.
  it('a line whose first bill would come after it matures is billed as it matures', () => {
    const dues = (firstBill: string): unknown => {
      const reading = readInstrument({ ...line, firstBill });
      return reading.ok && scheduleJson(reading.instrument.schedule).rows.map(({ due }) => due);
    };
    expect(dues('2025-03-30')).toEqual(['2025-03-30', '2025-03-31']);
    expect(dues('2025-03-31')).toEqual(['2025-03-31']);
    expect(dues('2025-04-01')).toEqual(['2025-03-31']);
  });

  it('a line is refused under the keys that it has', () => {
    const moving = { rule: 'preceding', calendar: 'TARGET', accrual: 'moved' };
    expect(Object.keys(faultsOf({ ...line, start: '1950-01-01', matures: '2100-01-01' }))).toEqual([
      'matures',
    ]);
    // 3 January 2026 is a Saturday; both bills come to fall on the Friday before it.
    const near = {
      start: '2026-01-01',
      firstBill: '2026-01-02',
      matures: '2026-01-03',
      businessDays: moving,
    };
    expect(Object.keys(faultsOf({ ...line, ...near }))).toEqual(['matures']);
  });
});

import '@angular/compiler';
import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  businessCalendars,
  businessDayRules,
  compoundings,
  dayCountNames,
  formatAmount,
  formatDay,
  parseDay,
} from '@coffer/core';
import { readInstrument, type InstrumentDocument } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { fillForm } from './form-of-document';
import { stretchForm } from './stretch-form';
import { termsForm } from './terms-form';
import { typedDocument } from './typed-document';

/** What the form makes of a document once it is filled in from it. */
function throughTheForm(document: InstrumentDocument): object {
  const form = termsForm();
  const kept = fillForm(form, document);
  const typed = typedDocument(form.getRawValue(), document.currency, kept);
  expect([typed.faults, typed.missing]).toEqual([[], []]);
  return typed.document;
}

const readDocument = (value: unknown): InstrumentDocument => {
  const reading = readInstrument(value);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument.document;
};

const termsOf = (value: unknown): unknown => {
  const reading = readInstrument(value);
  return reading.ok ? reading.instrument.terms : reading.faults;
};

const amount = fc.integer({ min: 1, max: 10 ** 11 }).map((minor) => formatAmount(minor, 2));
const day = fc.integer({ min: 19_000, max: 21_000 });
const count = fc.integer({ min: 1, max: 300 });

/** One event of each other type, on days of their own. */
function otherEvents(start: number): object[] {
  const on = (after: number): string => formatDay(start + after);
  return [
    { type: 'draw', on: on(10), amount: '5.00', then: 're-level' },
    { type: 'payment-change', on: on(50), payment: '900000.00' },
    { type: 'interest-added', on: on(20) },
    { type: 'fee', on: on(25), amount: '1.00', treatment: 'defer' },
    { type: 'renewal', on: on(950), annual: '5%', count: 12, amortizeOver: 24, every: 'quarter' },
    { type: 'presentation', on: on(30), to: on(60), as: 'non-current', reason: 'Refinanced' },
    { type: 'settled', on: on(1000), amount: '3.00' },
  ];
}

/** Loan documents over everything that the form can hold. */
const anyLoan = fc
  .record({
    amount,
    start: day,
    wait: fc.integer({ min: 1, max: 60 }),
    rate: fc.integer({ min: 0, max: 20_000 }),
    dayCount: fc.constantFrom(...dayCountNames),
    compounding: fc.constantFrom(...compoundings),
    moving: fc.option(
      fc.record({
        rule: fc.constantFrom(...businessDayRules),
        calendar: fc.constantFrom(...businessCalendars),
        accrual: fc.constantFrom('moved', 'unmoved'),
        // A few, far apart: each payment keeps a day of its own.
        closed: fc
          .uniqueArray(fc.nat(40), { minLength: 1, maxLength: 3 })
          .map((after) => after.sort((a, b) => a - b).map((each) => formatDay(22_000 + 29 * each))),
      }),
      { nil: undefined },
    ),
    atEnd: fc.constantFrom('pay', 'leave'),
    steps: fc.uniqueArray(fc.integer({ min: 1, max: 900 }), { maxLength: 2 }),
    floats: fc.boolean(),
    every: fc.constantFrom('week', 'half-month', 'month', 'two-months', 'quarter', 'half-year', 'year'),
    monthEnd: fc.boolean(),
    stretches: fc.array(
      fc.oneof(
        fc.record({ type: fc.constant('interest-only'), count }),
        fc.record({ type: fc.constant('equal-principal'), count, principal: amount }),
        fc.record({ type: fc.constant('equal-principal'), count }),
        fc.record({
          type: fc.constant('no-payment'),
          count,
          interest: fc.constantFrom('added-each-period', 'kept-apart'),
        }),
        fc.record({
          type: fc.constant('no-payment'),
          count,
          interest: fc.constant('kept-apart'),
          then: fc.constant('pay'),
        }),
        fc.record({ type: fc.constant('fixed'), count, payment: amount }),
        fc.record({ type: fc.constant('level'), count, amortizeOver: fc.integer({ min: 300, max: 600 }) }),
        fc.record({ type: fc.constant('level'), count, balloon: amount }),
      ),
      { minLength: 1, maxLength: 3 },
    ),
    rounding: fc.record({
      interest: fc.constantFrom('cent', 'unit', 'none'),
      payment: fc.constantFrom('cent', 'cent-up', 'unit', 'none'),
      ties: fc.constantFrom('away-from-zero', 'even'),
    }),
    extras: fc.array(fc.record({ after: fc.integer({ min: 1, max: 900 }), amount, each: fc.boolean() }), {
      maxLength: 3,
    }),
    paid: fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { maxLength: 3 }),
  })
  .map((drawn) => ({
    document: 'coffer.instrument/1',
    kind: 'loan',
    name: 'Any loan',
    currency: 'EUR',
    amount: drawn.amount,
    start: formatDay(drawn.start),
    rate: {
      annual: `${drawn.rate / 1000}%`,
      compounding: drawn.compounding,
      dayCount: drawn.dayCount,
      steps: drawn.steps.map((after) => ({
        from: formatDay(drawn.start + after),
        annual: '4.5%',
        payment: 'keep',
      })),
      ...(drawn.floats && {
        index: {
          name: 'Any index',
          margin: '-0.25%',
          floor: '0%',
          cap: '9%',
          resetEvery: 'quarter',
          payment: 'keep',
          fixings: [{ on: formatDay(drawn.start + 30), rate: '-0.5%' }],
        },
      }),
    },
    payments: {
      every: drawn.every,
      first: formatDay(drawn.start + drawn.wait),
      monthEnd: drawn.monthEnd,
      phases: drawn.stretches,
      ...(drawn.moving && { businessDays: drawn.moving }),
      atEnd: drawn.atEnd,
    },
    rounding: drawn.rounding,
    events: [
      ...drawn.extras.map((extra) =>
        extra.each
          ? {
              type: 'extra-principal',
              every: 'payment',
              from: formatDay(drawn.start + extra.after),
              amount: extra.amount,
            }
          : { type: 'extra-principal', on: formatDay(drawn.start + extra.after), amount: extra.amount },
      ),
      ...otherEvents(drawn.start),
      ...drawn.paid.map((after) => ({
        type: 'paid',
        due: formatDay(drawn.start + drawn.wait + after),
        on: formatDay(drawn.start + drawn.wait + after),
        amount: '10.00',
      })),
    ],
  }));

const anyDay = (from: string, days: number): fc.Arbitrary<string> =>
  fc.integer({ min: 0, max: days }).map((after) => formatDay((parseDay(from) as number) + after));
const anyPrice = fc.integer({ min: 8000, max: 12000 }).map((hundredths) => (hundredths / 100).toFixed(2));

/** Bond documents with everything that the form asks, sold on a coupon date or later. */
const anyBond = fc
  .record({
    coupon: fc.constantFrom('5.25%', '0%', null),
    every: fc.constantFrom('month', 'quarter', 'half-year', 'year'),
    issued: anyDay('2024-03-01', 500),
    by: fc.constantFrom('price', 'yield', 'both'),
    price: anyPrice,
    method: fc.constantFrom('effective', 'straight-line'),
    costs: fc.option(fc.constantFrom('1500.00', '20000.00')),
    instalment: fc.boolean(),
    redeemed: fc.option(fc.record({ on: anyDay('2026-01-01', 900), price: anyPrice })),
    called: fc.option(anyPrice),
    presented: fc.boolean(),
    goods: fc.boolean(),
    interest: fc.constantFrom('cent', 'unit', 'none'),
  })
  .map((drawn) => ({
    document: 'coffer.instrument/1',
    kind: 'bond',
    name: 'Any bonds',
    currency: 'EUR',
    face: '1000000.00',
    issued: drawn.issued,
    ...(drawn.coupon && { dated: '2024-03-01' }),
    matures: '2031-03-01',
    coupon: drawn.coupon && { annual: drawn.coupon, every: drawn.every, dayCount: 'ACT/365F' },
    ...(drawn.by !== 'yield' && { price: drawn.price }),
    ...(drawn.by !== 'price' && {
      yield: drawn.coupon ? '4.8%' : { annual: '4.8%', compounding: 'quarterly', dayCount: '30/360' },
    }),
    ...(drawn.by === 'both' && { amortization: { method: drawn.method, rate: 'from-price' } }),
    ...(drawn.costs && { issueCosts: { amount: drawn.costs } }),
    ...(drawn.goods && { issuedFor: 'goods' }),
    redemptions: [
      ...(drawn.instalment ? [{ on: '2029-03-01', face: '200000.00' }] : []),
      ...(drawn.redeemed ? [{ ...drawn.redeemed, face: '100000.00', refundedBy: 'New bonds' }] : []),
    ],
    ...(drawn.called && { calls: [{ from: '2028-03-01', price: drawn.called }] }),
    ...(drawn.presented && {
      events: [{ type: 'presentation', on: '2026-06-30', as: 'current', reason: 'A covenant is breached' }],
    }),
    rounding: { interest: drawn.interest, ties: 'even' },
  }));

// A term says how long; the document says how often.
describe('terms of stretches', () => {
  it('are numbers of payments, a day counted from where its own stretch begins', () => {
    const form = termsForm();
    form.patchValue({
      kind: 'loan',
      name: 'A',
      loan: { amount: '100k', start: '15 jan 26', first: '15 feb 26', rate: '5' },
    });
    form.controls.loan.controls.stretches.clear();
    for (const value of [
      { type: 'interest-only' as const, count: '1 year' },
      { type: 'level' as const, count: 'to 15 jan 30', amortizeOver: '20 years' },
    ])
      form.controls.loan.controls.stretches.push(stretchForm(value));
    const { document, faults, missing } = typedDocument(form.getRawValue(), 'EUR', []);
    expect([faults, missing]).toEqual([[], []]);
    expect(document).toMatchObject({
      payments: {
        phases: [
          { type: 'interest-only', count: 12 },
          { type: 'level', count: 36, amortizeOver: 240 },
        ],
      },
    });
  });
});

describe('a document filled into the form', () => {
  it('comes out with the same terms, for any bond', () => {
    fc.assert(
      fc.property(anyBond, (value) => {
        const terms = termsOf(value);
        expect(Array.isArray(terms)).toBe(false);
        expect(termsOf(throughTheForm(readDocument(value)))).toEqual(terms);
      }),
      { numRuns: 150 },
    );
  });

  it('comes out with the same terms and events, for every demo instrument', () => {
    const folder = new URL('../../../../../demo/instruments/', import.meta.url);
    const files = readdirSync(folder);
    expect(files.length).toBeGreaterThanOrEqual(6);
    for (const file of files) {
      const document = readDocument(JSON.parse(readFileSync(new URL(file, folder), 'utf8')));
      expect(termsOf(throughTheForm(document)), file).toEqual(termsOf(document));
    }
  });

  it('comes out with the same terms and events, for any loan', () => {
    fc.assert(
      fc.property(anyLoan, (value) => {
        const terms = termsOf(value);
        fc.pre(!Array.isArray(terms));
        expect(termsOf(throughTheForm(readDocument(value)))).toEqual(terms);
      }),
      { numRuns: 150 },
    );
  });
});

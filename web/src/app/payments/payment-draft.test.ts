import fc from 'fast-check';
import { formatDay, parseDay } from '@coffer/core';
import type { DuePayment } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { paymentColumns, paymentRows } from './payment-columns';
import {
  draftOf,
  paymentId,
  paymentMade,
  readDraft,
  restOf,
  type DraftedPayment,
  type PaymentDraft,
} from './payment-draft';

const due: DuePayment = {
  instrumentId: '4f1fd4e2-57e3-4d3f-8a34-2f3c7a1c5d10',
  version: 3,
  name: 'Any loan',
  lender: null,
  n: 7,
  due: '2026-10-15',
  interest: 50_000,
  fee: 0,
  principal: 9955,
  amount: 59_955,
  recorded: [],
  left: 0,
};
const drafted = (payment: DuePayment, more: Partial<PaymentDraft> = {}): DraftedPayment => {
  const draft = { ...draftOf(payment, '2026-10-31', 2), ...more };
  return { id: paymentId(payment), payment, rest: false, draft, reading: readDraft(payment, draft, 2) };
};

describe('a payment that falls due', () => {
  it('begins as scheduled, ticked once it is due by the day looked at', () => {
    expect(draftOf(due, '2026-10-31', 2)).toEqual({ on: '15 Oct 2026', amount: '599.55', ticked: true });
    expect(draftOf(due, '2026-10-14', 2).ticked).toBe(false);
    expect(paymentMade(drafted(due), 2)).toEqual({
      instrumentId: due.instrumentId,
      version: 3,
      due: '2026-10-15',
      on: '2026-10-15',
      amount: '599.55',
    });
  });

  // Common practice: what left the bank is told from what was agreed by day and by amount.
  it.each([
    [{}, 'as scheduled', false],
    [{ on: '16 oct 26' }, '1 day late', true],
    [{ on: '2026-10-12' }, '3 days early', true],
    [{ amount: '500' }, '99.55 short', true],
    [{ amount: '1.2k' }, '600.45 over', true],
    [{ on: '20.10.26', amount: '599.00' }, '5 days late, 0.55 short', true],
    [{ on: '20.10.26', amount: '0' }, 'missed', true],
  ] as const)('typed as %j is %s', (more, words, differs) => {
    expect(drafted(due, more).reading).toMatchObject({ words, differs });
    expect(drafted(due, more).reading.fault).toBeUndefined();
  });

  it.each([
    [{ on: 'soon' }, 'on'],
    [{ on: '31 feb 26' }, 'on'],
    [{ amount: 'all' }, 'amount'],
    [{ amount: '-5' }, 'amount'],
    [{ amount: '599.555' }, 'amount'],
  ] as const)('typed as %j cannot be read, and says which field', (more, field) => {
    expect(drafted(due, more).reading.fault?.field).toBe(field);
  });

  it('recorded before stands back until it is typed over, and is then sent as a correction', () => {
    const recorded = { ...due, recorded: [{ on: '2026-10-19', amount: 50_000 }] };
    const known = drafted(recorded);
    expect(known.draft).toEqual({ on: '19 Oct 2026', amount: '500.00', ticked: false });
    expect(known.reading.words).toBe('4 days late, 99.55 short');
    expect(paymentRows([known, drafted(due)]).map((row) => row.type === 'item' && row.quiet)).toEqual([
      true,
      false,
    ]);
    expect(paymentMade(drafted(recorded, { amount: '599.55' }), 2)).toMatchObject({
      on: '2026-10-19',
      amount: '599.55',
      corrects: true,
    });
  });

  it('recorded short has a rest, which is sent as another part of it', () => {
    // Of what lacks 20.00 came with a later payment.
    const short = { ...due, recorded: [{ on: '2026-10-15', amount: 48_000 }], left: 9_955 };
    const rest = restOf(short, '2026-10-31', 2);
    expect(rest).toEqual({ on: '31 Oct 2026', amount: '99.55', ticked: false });
    const reading = readDraft(short, rest ?? draftOf(short, '', 2), 2, 9_955);
    const part = { id: 'rest', payment: short, rest: true, draft: rest ?? draftOf(short, '', 2), reading };
    expect(paymentMade(part, 2)).toMatchObject({ amount: '99.55', adds: true });
    expect(restOf({ ...due, recorded: [{ on: '2026-10-15', amount: due.amount }] }, '', 2)).toBeUndefined();
    expect(restOf(due, '2026-10-31', 2)).toBeUndefined();
  });

  it('is sent as it was shown, whatever day and amount, in any currency', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: parseDay('2000-01-01') ?? 0, max: parseDay('2199-12-31') ?? 0 }),
        fc.integer({ min: 0, max: 1e12 }),
        fc.constantFrom(0, 2, 3),
        (on, amount, digits) => {
          const payment = { ...due, recorded: [{ on: formatDay(on), amount }] };
          const draft = draftOf(payment, '2026-10-31', digits);
          const reading = readDraft(payment, draft, digits);
          expect([reading.on, reading.amount]).toEqual([on, amount]);
        },
      ),
    );
  });
});

const keysOf = (mayRecord: boolean, fees = false): string[] =>
  paymentColumns(2, { mayRecord, fees, by: '2026-10-31' }).map(({ key }) => key);

it('can be ticked and typed into only by who may record', () => {
  expect(keysOf(true)).toEqual(['ticked', ...keysOf(false)]);
  const read = paymentColumns(2, { mayRecord: false, fees: false, by: '2026-10-31' });
  expect(read.some(({ typed, ticks }) => typed ?? ticks)).toBe(false);
});

it('has its fee apart from its interest', () => {
  expect(keysOf(false)).not.toContain('agreed-fee');
  const columns = paymentColumns(2, { mayRecord: false, fees: true, by: '2026-10-31' });
  const cells = ['agreed-interest', 'agreed-fee', 'agreed-principal', 'agreed-amount'].map((of) =>
    columns.find(({ key }) => key === of)?.cell(drafted({ ...due, interest: 40_000, fee: 10_000 })),
  );
  expect(cells).toEqual(['400.00', '100.00', '99.55', '599.55']);
});

it('is told as assumed paid while it is due and neither recorded nor ticked', () => {
  const told = (by: string): unknown =>
    paymentColumns(2, { mayRecord: true, fees: false, by })
      .find(({ key }) => key === 'words')
      ?.cell(drafted(due, { ticked: false }));
  expect(told('2026-10-31')).toMatchObject({ chip: { text: 'assumed paid' } });
  expect(told('2026-10-14')).toBe('as scheduled');
});

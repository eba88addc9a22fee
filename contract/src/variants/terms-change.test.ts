import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { loanOutcome, monthsBetween, parseDay, type LoanOutcome, type LoanSchedule } from '@coffer/core';
import type { LoanDocument } from '../kinds/loan/loan-document.ts';
import { readInstrument } from '../document/read-instrument.ts';
import { changedDocument, type TermsChange } from './terms-change.ts';

const loan: LoanDocument = {
  document: 'coffer.instrument/1',
  kind: 'loan',
  name: 'House loan',
  currency: 'USD',
  amount: '100000.00',
  start: '2020-01-01',
  rate: { annual: '6%' },
  payments: { every: 'month', first: '2020-02-01', phases: [{ type: 'level', count: 360 }] },
};

const scheduleOf = (document: object): LoanSchedule => {
  const reading = readInstrument(document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument.schedule as LoanSchedule;
};
const tried = (change: TermsChange, of = loan): LoanOutcome => {
  const changed = changedDocument(of, change);
  if (!changed.ok) throw new Error(JSON.stringify(changed.faults));
  return loanOutcome(scheduleOf(changed.document));
};
const refused = (change: TermsChange, of = loan): string[] => {
  const changed = changedDocument(of, change);
  return changed.ok ? [] : changed.faults.map(({ key }) => key);
};

describe('a change that is tried', () => {
  // Monthly mortgage payment tables, widely printed, per 100,000: 6 % over 360 pays 599.55, over 180 pays 843.86;
  // 5 % over 360 pays 536.82; 200,000 pays twice 599.55. From memory.
  it.each([
    [{}, 59_955, 360],
    [{ annual: '5%' }, 53_682, 360],
    [{ payments: 180 }, 84_386, 180],
    [{ amount: '200000.00' }, 119_910, 360],
    [{ payment: '843.86' }, 84_386, 180],
  ] as [TermsChange, number, number][])(
    '%j makes the payment and count that tables print',
    (change, payment, payments) => {
      expect(tried(change)).toMatchObject({ payment, payments, left: 0 });
    },
  );

  // Common practice, from memory: 100 extra a month on 100,000 at 6 % over 30 years clears it in 252 payments.
  it('pays extra with each payment and ends sooner', () => {
    const [before, after] = [tried({}), tried({ extraEach: '100.00' })];
    expect(after.payments).toBe(252);
    expect(monthsBetween(after.last, before.last)).toBe(108);
    expect(before.interest - after.interest).toBe(before.paid - after.paid);
  });

  it('re-levels from a day on as a schedule of the balance then over what is left would', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 358 }),
        fc.integer({ min: 0, max: 1500 }),
        (after, basisPoints) => {
          const before = scheduleOf(loan);
          const from = before.due[after - 1] as number;
          const day = new Date(from * 86_400_000).toISOString().slice(0, 10);
          expect(parseDay(day)).toBe(from);
          const annual = `${basisPoints / 100}%`;
          const changed = changedDocument(loan, { from: day, annual });
          const schedule = scheduleOf(changed.ok ? changed.document : {});
          expect([...schedule.closing.slice(0, after)]).toEqual([...before.closing.slice(0, after)]);
          const rest = scheduleOf({
            ...loan,
            amount: ((before.closing[after - 1] as number) / 100).toFixed(2),
            start: day,
            rate: { annual },
            payments: {
              every: 'month',
              first: new Date((before.due[after] as number) * 86_400_000).toISOString().slice(0, 10),
              phases: [{ type: 'level', count: 360 - after }],
            },
          });
          expect([...schedule.closing.slice(after, schedule.length)]).toEqual([
            ...rest.closing.slice(0, rest.length),
          ]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('turns interest paid in a deferral into interest added, which costs more, or kept apart', () => {
    const deferred: LoanDocument = {
      ...loan,
      payments: {
        ...loan.payments,
        phases: [
          { type: 'interest-only', count: 12 },
          { type: 'level', count: 348 },
        ],
      },
    };
    const interest = (change: TermsChange): number => tried(change, deferred).interest;
    // Interest on interest: added each month costs more than kept apart and then added, which costs more than paid.
    expect(interest({ meanwhile: 'added' })).toBeGreaterThan(interest({ meanwhile: 'apart-then-added' }));
    expect(interest({ meanwhile: 'apart-then-added' })).toBeGreaterThan(interest({ meanwhile: 'paid' }));
    expect(tried({ meanwhile: 'paid' }, deferred)).toEqual(tried({}, deferred));
  });

  it('is refused at the field where it cannot be', () => {
    expect(refused({ from: '2021-01-01', amount: '5.00' })).toEqual(['amount']);
    expect(refused({ payment: '600.00', payments: 200 })).toEqual(['payments']);
    expect(refused({ extraOnce: '600.00' })).toEqual(['extraOn']);
    expect(refused({ extraOn: '2021-01-01' })).toEqual(['extraOnce']);
    expect(refused({ meanwhile: 'added' })).toEqual(['meanwhile']);
    const fixed = {
      ...loan,
      payments: { ...loan.payments, phases: [{ type: 'fixed' as const, payment: '700.00' }] },
    };
    expect(refused({ payments: 100 }, fixed)).toEqual(['payments']);
  });

  it('keeps what happened: events and recorded payments stay', () => {
    const events: LoanDocument['events'] = [
      { type: 'paid', due: '2020-02-01', on: '2020-02-03', amount: '599.55' },
      { type: 'fee', on: '2020-03-01', amount: '10.00' },
    ];
    const changed = changedDocument({ ...loan, events }, { from: '2021-01-01', payments: 100 });
    expect(changed.ok && changed.document.events).toEqual([
      ...events,
      { type: 'renewal', on: '2021-01-01', annual: '6%', count: 100 },
    ]);
  });
});

// Common practice: whole calendar months, month end counting as month end.
it.each([
  ['2026-06-15', '2026-09-15', 3],
  ['2026-06-15', '2026-09-14', 2],
  ['2026-01-31', '2026-02-28', 1],
  ['2027-02-28', '2026-02-28', -12],
])('from %s to %s are %i months', (from, to, months) => {
  expect(monthsBetween(parseDay(from) ?? 0, parseDay(to) ?? 0)).toBe(months);
});

import '@angular/compiler';
import { frequencies, type Frequency } from '@coffer/core';
import { readInstrument, type LoanDocument } from '@coffer/contract';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { typedMonths } from '../../typed/typed-months';
import { fillLoan } from './loan-of-document';
import { stretchForm, type TypedStretch } from './stretch-form';
import { termsForm, type TermsForm } from './terms-form';
import { typedDocument, type TypedDocument } from './typed-document';

function form(stretches: Partial<TypedStretch>[], loan: object = {}): TermsForm {
  const typed = termsForm();
  typed.patchValue({
    name: 'Orchard loan',
    loan: { amount: '90k', start: '15 jan 26', rate: '0', ...loan },
  });
  typed.controls.loan.controls.stretches.clear();
  for (const stretch of stretches) typed.controls.loan.controls.stretches.push(stretchForm(stretch));
  return typed;
}
const made = (of: TermsForm): TypedDocument => typedDocument(of.getRawValue(), 'EUR', []);
const phases = (of: TermsForm): unknown[] => (made(of).document as LoanDocument).payments.phases;
const seasonal = (more: Partial<TypedStretch> = {}): Partial<TypedStretch> => ({
  type: 'seasonal',
  months: 'may to sep',
  count: '3 years',
  ...more,
});

describe('a stretch that is paid in some months', () => {
  it('is seasons of one payment, with interest added between them, and ends with a payment', () => {
    // From 15 February 2026: three months outside, five inside, seven outside; the last months outside pay nothing.
    const level = { type: 'level', payment: '?', count: 5 };
    const outside = (count: number): object => ({
      type: 'no-payment',
      count,
      interest: 'added-each-period',
      then: 'add-to-balance',
    });
    expect(phases(form([seasonal()]))).toEqual([outside(3), level, outside(7), level, outside(7), level]);
    const paid = phases(form([seasonal({ outside: 'interest-paid', payment: '500', count: '9' })]));
    expect(paid).toEqual([
      { type: 'interest-only', count: 3 },
      { type: 'level', payment: '500', count: 5 },
    ]);
  });

  it('counts on from the stretches before it, and what is wrong in a phase is said at its stretch', () => {
    const two = form([{ type: 'interest-only', count: '3' }, seasonal({ count: '12' })]);
    expect(phases(two).map((phase) => (phase as { count: number }).count)).toEqual([3, 5]);
    expect(made(form([seasonal(), { type: 'interest-only', count: '3' }])).stretchOf).toEqual([
      0, 0, 0, 0, 0, 0, 0, 1,
    ]);
    const keys = (stretch: Partial<TypedStretch>, before: Partial<TypedStretch>[] = []): string[] =>
      made(form([...before, stretch])).faults.map(({ key }) => key);
    expect(keys(seasonal({ months: 'summer' }))).toEqual(['payments.phases.0.months']);
    expect(keys(seasonal({ count: '2', months: 'jun' }))).toEqual(['payments.phases.0.months']);
    expect(keys(seasonal({ count: '?' }))).toEqual(['payments.phases.0.count']);
    expect(keys(seasonal(), [{ type: 'fixed', payment: '5' }])).toEqual(['payments.phases.1.months']);
    expect(made(form([seasonal({ months: '', count: '' })])).missing).toEqual([
      'payments.phases.0.count',
      'payments.phases.0.months',
    ]);
  });

  it('is one stretch again when its document is opened, whatever its dates and months', () => {
    const drawn = fc.record({
      every: fc.constantFrom<Frequency>(...frequencies),
      start: fc.constantFrom('15 jan 26', '31 aug 26', '29 feb 28'),
      months: fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { minLength: 1, maxLength: 11 }),
      count: fc.integer({ min: 3, max: 80 }),
      payment: fc.constantFrom('', '500'),
      outside: fc.constantFrom<TypedStretch['outside']>('interest-added', 'interest-paid'),
      before: fc.constantFrom<Partial<TypedStretch>[]>(
        [],
        [{ type: 'equal-principal', count: '4', payment: '100' }],
      ),
    });
    fc.assert(
      fc.property(drawn, ({ every, start, months, count, before, ...more }) => {
        const stretch = seasonal({ ...more, months: typedMonths(new Set(months)), count: String(count) });
        const typed = form([...before, stretch], { every, start });
        const { document, faults } = made(typed);
        fc.pre(faults.length === 0 && phases(typed).length - before.length >= 3);
        const reading = readInstrument(document);
        if (!reading.ok) throw new Error(reading.faults[0]?.message);
        const opened = termsForm();
        fillLoan(opened, reading.instrument.document as LoanDocument);
        opened.patchValue({ name: 'Orchard loan' });
        const { stretches } = opened.controls.loan.controls;
        expect(stretches.length).toBe(before.length + 1);
        expect(stretches.at(-1).controls.type.value).toBe('seasonal');
        expect(phases(opened)).toEqual(phases(typed));
      }),
      { numRuns: 300 },
    );
  });

  it('is not made of phases that differ in more than their months', () => {
    const level = (payment: string, more: object = {}): object => ({
      type: 'level',
      payment,
      count: 5,
      ...more,
    });
    const outside = { type: 'no-payment', count: 7 };
    const opened = (...of: object[]): number => {
      const { document } = made(form([{ type: 'level', count: '3' }], { first: '15 may 26' }));
      const loan = document as LoanDocument;
      const filled = termsForm();
      fillLoan(filled, {
        ...loan,
        payments: { ...loan.payments, phases: of as LoanDocument['payments']['phases'] },
      });
      return filled.controls.loan.controls.stretches.length;
    };
    expect(opened(level('500.00'), outside, level('500.00'))).toBe(1);
    expect(opened(level('500.00'), outside, level('600.00'))).toBe(3);
    expect(opened(level('500.00'), { ...outside, count: 8 }, level('500.00'))).toBe(3);
    expect(opened(level('500.00'), outside, level('500.00', { amortizeOver: 40 }))).toBe(3);
    expect(opened(level('500.00'), { ...outside, interest: 'kept-apart' }, level('500.00'))).toBe(3);
  });
});

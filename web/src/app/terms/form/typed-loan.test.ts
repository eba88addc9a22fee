import '@angular/compiler';
import { readInstrument } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { eventForm } from './event-form';
import { stretchForm } from './stretch-form';
import { termsForm, type TermsForm } from './terms-form';
import { typedDocument } from './typed-document';

const termsOf = (value: unknown): unknown => {
  const reading = readInstrument(value);
  return reading.ok ? reading.instrument.terms : reading.faults;
};

describe('what is typed', () => {
  const filled = (): TermsForm => {
    const form = termsForm();
    form.patchValue({
      name: 'Lehr loan',
      loan: { amount: '1.2m', start: '15 jun 26', first: '15 jul 26', rate: '6 1/8' },
    });
    form.controls.loan.controls.stretches.at(0).patchValue({ count: '60' });
    return form;
  };
  const made = (form: TermsForm) => typedDocument(form.getRawValue(), 'EUR', []);

  it('becomes the plain forms of the document', () => {
    expect(made(filled()).document).toMatchObject({
      amount: '1200000',
      start: '2026-06-15',
      rate: { annual: '6.125%' },
      payments: { first: '2026-07-15', phases: [{ type: 'level', count: 60 }] },
    });
  });

  it('is missed where it is empty, by the key of the document', () => {
    expect(made(termsForm()).missing).toEqual([
      'name',
      'amount',
      'start',
      'rate.annual',
      'payments.phases.0.count',
    ]);
    const bond = termsForm();
    bond.patchValue({ kind: 'bond' });
    expect(made(bond).missing).toEqual(['name', 'face', 'issued', 'matures', 'coupon.annual', 'price']);
  });

  it('is a fault where it cannot be read, every field at once, each saying what would do', () => {
    const form = filled();
    form.patchValue({ loan: { amount: 'much', start: '30 feb 2026', rate: '6 1/3' } });
    form.controls.loan.controls.stretches.push(stretchForm({ type: 'fixed', payment: 'some', count: 'x' }));
    form.controls.loan.controls.events.push(eventForm({ amount: '-5', on: 'never' }));
    const { faults } = made(form);
    expect(faults.map(({ key }) => key).sort()).toEqual([
      'amount',
      'events.0.amount',
      'events.0.on',
      'payments.phases.1.count',
      'payments.phases.1.payment',
      'rate.annual',
      'start',
    ]);
    for (const { message } of faults)
      expect(message).toMatch(/(is not understood|may not be negative); type /);
  });

  it('finances a purchase by price less down payment', () => {
    const form = filled();
    form.patchValue({ loan: { financed: 'purchase', price: '186,000', downPayment: '37,200' } });
    const { document } = made(form);
    expect(document).toMatchObject({ purchase: { price: '186000', downPayment: '37200' } });
    expect(document).not.toHaveProperty('amount');
    expect(termsOf(document)).toMatchObject({ amount: 14_880_000 });
  });

  it('offers the first payment a period after the start, but of a loan that is taken on in its life', () => {
    const first = (loan: object): unknown => {
      const form = filled();
      form.patchValue({ loan: { first: '', ...loan } });
      const { document, missing } = made(form);
      const { payments } = document as { payments?: { first?: string } };
      return payments?.first ?? missing;
    };
    expect(first({ start: '15 jun 26' })).toBe('2026-07-15');
    expect(first({ start: '15 jun 26', every: 'quarter' })).toBe('2026-09-15');
    expect(first({ start: '30 jun 26', monthEnd: true })).toBe('2026-07-31');
    expect(first({ start: '15 jun 26', due: 'start' })).toBe('2026-06-15');
    expect(first({ start: '15 jun 26', first: '1 sep 26' })).toBe('2026-09-01');
    expect(first({ financed: 'taken-on', accrued: '0' })).toEqual(['payments.first']);
  });

  it('asks what happens to the payment only where there is one', () => {
    const form = filled();
    form.controls.loan.controls.events.push(eventForm({ type: 'rate-step', on: '1 mar 28', rate: '5' }));
    expect(made(form).document).toMatchObject({ rate: { steps: [{ payment: 're-level' }] } });
    form.controls.loan.controls.stretches.at(0).patchValue({ type: 'interest-only' });
    expect(made(form).document).toMatchObject({ rate: { steps: [{ from: '2028-03-01', annual: '5%' }] } });
    expect(JSON.stringify(made(form).document)).not.toContain('re-level');
  });

  it('moves off days that are closed besides those of the calendar, and shows them as they were typed', () => {
    const form = filled();
    form.patchValue({
      loan: { moving: 'following', calendar: 'TARGET', closed: '31.12.26, 24 dec 26; 31 dec 26' },
    });
    const { document } = made(form);
    const closed = ['2026-12-24', '2026-12-31'];
    expect(document).toMatchObject({ payments: { businessDays: { rule: 'following', closed } } });
    expect(termsOf(document)).toMatchObject({ businessDays: { calendar: 'TARGET' } });
    form.patchValue({ loan: { closed: '24 dec 26, soon' } });
    expect(made(form).faults.map(({ key }) => key)).toEqual(['payments.businessDays.closed']);
  });
});

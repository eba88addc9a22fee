import '@angular/compiler';
import { describe, expect, it } from 'vitest';
import { eventForm } from './event-form';
import { faultsInWords, missingFields } from './missing-fields';
import { stretchForm } from './stretch-form';
import { termsForm } from './terms-form';
import { typedDocument } from './typed-document';

describe('what is still needed', () => {
  it('is named as people would, each field in its stretch or event', () => {
    const form = termsForm();
    const { stretches, events } = form.controls.loan.controls;
    stretches.push(stretchForm({ type: 'fixed', count: '3' }));
    for (const type of ['draw', 'fixing', 'draw'] as const) events.push(eventForm({ type }));
    const typed = form.getRawValue();
    expect(missingFields(typedDocument(typed, 'EUR', []), typed.loan)).toEqual([
      'name',
      'amount',
      'start',
      'annual rate',
      'term of stretch 1',
      'payment of stretch 2',
      'day of the draw (event 1)',
      'amount of the draw (event 1)',
      'day of the index fixing',
      'rate of the index fixing',
      'day of the draw (event 3)',
      'amount of the draw (event 3)',
    ]);
  });

  it('has no name of the program’s own in it, whatever was found wrong', () => {
    const typed = termsForm().getRawValue();
    const unknown =
      'Only one may be unknown, and here rate.annual and payments.phases.0.payment are; give all but one.';
    expect(faultsInWords([{ key: 'rate.annual', message: unknown }], { eventKeys: [] }, typed.loan)).toEqual([
      'Annual rate: Only one may be unknown, and here annual rate and payment are; give all but one.',
    ]);
  });
});

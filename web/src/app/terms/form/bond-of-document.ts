import type { BondDocument } from '@coffer/contract';
import type { CouponFrequency } from '@coffer/core';
import { fieldsOf } from '../../fields/field';
import { typedOf } from '../../fields/described-part';
import { bondEventFields } from '../described/bond-event-fields';
import { bondRounding, bondSections } from '../described/bond-sections';
import { typedEvents } from '../described/described-event';
import { bondEventForm, type BondForm } from './bond-form';

const everyOf: Readonly<Record<string, CouponFrequency>> = {
  monthly: 'month',
  quarterly: 'quarter',
  'half-yearly': 'half-year',
  annual: 'year',
};

/** Fills a bond's form from its document. */
export function fillBond(form: BondForm, document: BondDocument): void {
  const { coupon, redemptions = [], calls = [], events = [] } = document;
  const compounding = typeof document.yield === 'object' ? document.yield.compounding : undefined;
  form.reset();
  form.controls.events.clear({ emitEvent: false });
  for (const event of [
    ...typedEvents(bondEventFields, 'redemptions', redemptions),
    ...typedEvents(bondEventFields, 'calls', calls),
    ...typedEvents(bondEventFields, 'events', events),
  ]) {
    form.controls.events.push(bondEventForm(event), { emitEvent: false });
  }
  form.patchValue({
    ...typedOf(fieldsOf([...bondSections, ...bondRounding]), document),
    soldBetween: document.dated !== undefined,
    pays: coupon ? 'coupons' : 'nothing',
    every: coupon?.every ?? everyOf[compounding ?? 'annual'] ?? 'year',
  });
}

import type { BondDocument } from '@coffer/contract';
import { bondEventForm } from './bond-form';
import { fillBond } from './bond-of-document';
import { bondPart } from './bond-part';
import type { FormKind } from './form-kind';
import { termsForm } from './terms-form';

/** Bonds as they are typed. */
export const bondFormKind: FormKind<BondDocument> = {
  fields: 'issue',
  stretches: false,
  billed: false,
  offers: ['bond'],
  part: (typed, _currency, read) => bondPart(typed.bond, read),
  fill(form, document) {
    fillBond(form.controls.bond, document);
    return [];
  },
  begun(point, typed) {
    const { face, issued, matures, coupon, price, yield: marketYield } = typed.bond;
    const kept = { face, issued, matures, coupon, price, yield: marketYield };
    const events = (point.bondEvents ?? []).map((event) => bondEventForm(event).getRawValue());
    const { bond } = termsForm().getRawValue();
    return { ...typed, kind: point.kind, bond: { ...bond, ...kept, ...point.bond, events } };
  },
  timeline: () => undefined,
};

import { present, type FieldReader } from '../../typed/field-reader';
import type { TypedTerms } from './terms-form';

/** The part of a document that a bond's fields make. */
export function bondPart(bond: TypedTerms['bond'], read: FieldReader): Record<string, unknown> {
  const price = read.optional(bond.price, () => read.percent('price', bond.price));
  const marketYield = read.optional(bond.yield, () => read.rate('yield', bond.yield));
  if (bond.price.trim() === '' && bond.yield.trim() === '') read.missing.push('price');
  return {
    class: bond.class,
    face: read.amount('face', bond.face),
    issued: read.day('issued', bond.issued),
    matures: read.day('matures', bond.matures),
    coupon: present({
      annual: read.rate('coupon.annual', bond.coupon),
      every: bond.every,
      dayCount: bond.dayCount,
      monthEnd: bond.monthEnd || undefined,
    }),
    price,
    yield: marketYield,
    amortization:
      bond.effectiveRate === 'default' ? undefined : { method: 'effective', rate: bond.effectiveRate },
    rounding: bond.interestRounding === 'cent' ? undefined : { interest: bond.interestRounding },
  };
}

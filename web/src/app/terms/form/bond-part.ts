import type { CouponFrequency } from '@coffer/core';
import { fieldsOf } from '../../fields/field';
import { present, type FieldReader } from '../../fields/field-reader';
import { partOf, type Part } from '../../fields/described-part';
import { bondEventFields } from '../described/bond-event-fields';
import { bondRounding, bondSections } from '../described/bond-sections';
import { readEvents } from '../described/described-event';
import type { TypedBond, TypedBondEvent } from './bond-form';
import type { PartOfForm } from './part-of-form';

const compounding: Readonly<Record<CouponFrequency, string>> = {
  month: 'monthly',
  quarter: 'quarterly',
  'half-year': 'half-yearly',
  year: 'annual',
};

/** The part of a document that a bond's fields make. */
export function bondPart(bond: TypedBond, reader: FieldReader): PartOfForm {
  const part = partOf(fieldsOf([...bondSections, ...bondRounding]), bond, reader);
  if (bond.price.trim() === '' && bond.yield.trim() === '') reader.missing.push('price');
  const pays = bond.pays === 'coupons';
  const straight = bond.method === 'straight-line';
  if (part['issueCosts'] && straight) Object.assign(part['issueCosts'], { method: 'straight-line' });
  // One that was added and not yet typed into says nothing, and stops nothing.
  const { lists, keys } = readEvents(bondEventFields, bond.events, reader, saysSomething);
  const plain = bond.interestRounding === 'cent' && bond.ties === 'away-from-zero';
  return {
    part: present({
      ...part,
      coupon: pays ? part['coupon'] : null,
      yield: pays ? part['yield'] : { ...(part['yield'] as Part), compounding: compounding[bond.every] },
      rounding: plain ? undefined : part['rounding'],
      redemptions: lists.get('redemptions'),
      calls: lists.get('calls'),
      events: lists.get('events'),
    }),
    eventKeys: keys,
  };
}

function saysSomething({ on, to, face, price, refundedBy, reason }: TypedBondEvent): boolean {
  return [on, to, face, price, refundedBy, reason].some((text) => text.trim() !== '');
}

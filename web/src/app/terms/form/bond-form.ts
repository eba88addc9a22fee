import { FormArray, FormControl, FormGroup } from '@angular/forms';
import type { AmortizationMethod, BondTerms, CouponFrequency, DayCountName } from '@coffer/core';
import { choice, flag, text, type Text } from '../../fields/controls';

/** What is agreed for a bond besides its coupons, or happens to it, as the page offers it. */
export const bondEventTypes = ['instalment', 'call', 'redemption', 'presentation'] as const;
export type BondEventType = (typeof bondEventTypes)[number];

/** One of them as typed; each type uses its part of the fields. */
export type BondEventForm = FormGroup<{
  type: FormControl<BondEventType>;
  on: Text;
  to: Text;
  face: Text;
  price: Text;
  refundedBy: Text;
  as: FormControl<'current' | 'non-current'>;
  reason: Text;
}>;
export type TypedBondEvent = ReturnType<BondEventForm['getRawValue']>;

export function bondEventForm(value: Partial<TypedBondEvent> = {}): BondEventForm {
  return new FormGroup({
    type: choice<BondEventType>(value.type ?? 'instalment'),
    on: text(value.on),
    to: text(value.to),
    face: text(value.face),
    price: text(value.price),
    refundedBy: text(value.refundedBy),
    as: choice<'current' | 'non-current'>(value.as ?? 'current'),
    reason: text(value.reason),
  });
}

/** Everything that is asked for a bond. */
export type BondForm = FormGroup<{
  class: FormControl<'bond' | 'note'>;
  issuedFor: FormControl<BondTerms['issuedFor']>;
  face: Text;
  issued: Text;
  /** Coupons began to run before the issue. */
  soldBetween: FormControl<boolean>;
  dated: Text;
  matures: Text;
  pays: FormControl<'coupons' | 'nothing'>;
  coupon: Text;
  every: FormControl<CouponFrequency>;
  dayCount: FormControl<DayCountName>;
  monthEnd: FormControl<boolean>;
  firstCoupon: Text;
  lastCoupon: Text;
  price: Text;
  yield: Text;
  effectiveRate: FormControl<'default' | 'yield' | 'from-price'>;
  method: FormControl<AmortizationMethod>;
  costs: Text;
  costsMethod: FormControl<AmortizationMethod>;
  interestRounding: FormControl<BondTerms['rounding']['interest']>;
  ties: FormControl<BondTerms['rounding']['ties']>;
  events: FormArray<BondEventForm>;
}>;
export type TypedBond = ReturnType<BondForm['getRawValue']>;

/** An empty form. */
export function bondForm(): BondForm {
  return new FormGroup({
    class: choice<'bond' | 'note'>('bond'),
    issuedFor: choice<BondTerms['issuedFor']>('cash'),
    face: text(),
    issued: text(),
    soldBetween: flag(),
    dated: text(),
    matures: text(),
    pays: choice<'coupons' | 'nothing'>('coupons'),
    coupon: text(),
    every: choice<CouponFrequency>('half-year'),
    dayCount: choice<DayCountName>('30/360'),
    monthEnd: flag(),
    firstCoupon: text(),
    lastCoupon: text(),
    price: text(),
    yield: text(),
    effectiveRate: choice<'default' | 'yield' | 'from-price'>('default'),
    method: choice<AmortizationMethod>('effective'),
    costs: text(),
    costsMethod: choice<AmortizationMethod>('effective'),
    interestRounding: choice<BondTerms['rounding']['interest']>('cent'),
    ties: choice<BondTerms['rounding']['ties']>('away-from-zero'),
    events: new FormArray<BondEventForm>([]),
  });
}

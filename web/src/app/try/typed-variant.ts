import type { Compounding } from '@coffer/core';
import type { Fault, Meanwhile, TermsChange } from '@coffer/contract';
import { FieldReader, present } from '../fields/field-reader';
import { amountOf, percentOf, risesOf } from '../fields/typed-text';

/** A change as it is typed; an empty field leaves what it is about as it is. */
export interface TypedChange {
  readonly from: string;
  readonly annual: string;
  readonly payments: string;
  readonly payment: string;
  readonly paymentRises: string;
  readonly amount: string;
  readonly compounding: Compounding | '';
  readonly meanwhile: Meanwhile | '';
  readonly extraEach: string;
  readonly extraRises: string;
  readonly extraFrom: string;
  readonly extraOnce: string;
  readonly extraOn: string;
}

/** A change that changes nothing yet. */
export const noChange: TypedChange = {
  from: '',
  annual: '',
  payments: '',
  payment: '',
  paymentRises: '',
  amount: '',
  compounding: '',
  meanwhile: '',
  extraEach: '',
  extraRises: '',
  extraFrom: '',
  extraOnce: '',
  extraOn: '',
};

/** Reads a typed change; faults name its fields. */
export function readChange(typed: TypedChange): { change: TermsChange; faults: readonly Fault[] } {
  const read = new FieldReader();
  const day = (key: 'from' | 'extraFrom' | 'extraOn'): string | undefined =>
    read.optional(typed[key], () => read.day(key, typed[key]));
  const amount = (key: 'amount' | 'payment' | 'extraEach' | 'extraOnce'): string | undefined =>
    read.optional(typed[key], () => read.amount(key, typed[key]));
  const change = present({
    from: day('from'),
    annual: read.optional(typed.annual, () => read.rate('annual', typed.annual)),
    payments: read.optional(typed.payments, () => read.count('payments', typed.payments)),
    payment: amount('payment'),
    paymentRises: read.optional(typed.paymentRises, () => read.rise('paymentRises', typed.paymentRises)),
    amount: amount('amount'),
    compounding: typed.compounding || undefined,
    meanwhile: typed.meanwhile || undefined,
    extraEach: amount('extraEach'),
    extraRises: read.optional(typed.extraRises, () => read.rise('extraRises', typed.extraRises)),
    extraFrom: day('extraFrom'),
    extraOnce: amount('extraOnce'),
    extraOn: day('extraOn'),
  });
  return { change, faults: read.faults };
}

/** A change as it would be typed. */
export function typedOf(change: TermsChange): TypedChange {
  const text = (value: string | undefined): string => value ?? '';
  return {
    from: text(change.from),
    annual: percentOf(change.annual),
    payments: change.payments === undefined ? '' : String(change.payments),
    payment: amountOf(change.payment),
    paymentRises: risesOf(change.paymentRises),
    amount: amountOf(change.amount),
    compounding: change.compounding ?? '',
    meanwhile: change.meanwhile ?? '',
    extraEach: amountOf(change.extraEach),
    extraRises: risesOf(change.extraRises),
    extraFrom: text(change.extraFrom),
    extraOnce: amountOf(change.extraOnce),
    extraOn: text(change.extraOn),
  };
}

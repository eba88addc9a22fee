import type { Compounding } from '@coffer/core';
import type { Fault, Meanwhile, TermsChange } from '@coffer/contract';
import { FieldReader, present } from '../fields/field-reader';

/** A change as it is typed; an empty field leaves what it is about as it is. */
export interface TypedChange {
  readonly from: string;
  readonly annual: string;
  readonly payments: string;
  readonly payment: string;
  readonly amount: string;
  readonly compounding: Compounding | '';
  readonly meanwhile: Meanwhile | '';
  readonly extraEach: string;
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
  amount: '',
  compounding: '',
  meanwhile: '',
  extraEach: '',
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
    amount: amount('amount'),
    compounding: typed.compounding || undefined,
    meanwhile: typed.meanwhile || undefined,
    extraEach: amount('extraEach'),
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
    annual: text(change.annual?.replace('%', '')),
    payments: change.payments === undefined ? '' : String(change.payments),
    payment: text(change.payment),
    amount: text(change.amount),
    compounding: change.compounding ?? '',
    meanwhile: change.meanwhile ?? '',
    extraEach: text(change.extraEach),
    extraFrom: text(change.extraFrom),
    extraOnce: text(change.extraOnce),
    extraOn: text(change.extraOn),
  };
}

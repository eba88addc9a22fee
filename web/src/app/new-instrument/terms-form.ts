import { FormArray, FormControl, FormGroup } from '@angular/forms';
import type { Frequency, DayCountName } from '@coffer/core';

type Text = FormControl<string>;

const text = (value = ''): Text => new FormControl(value, { nonNullable: true });
const choice = <T extends string>(value: T): FormControl<T> =>
  new FormControl<T>(value, { nonNullable: true });
const flag = (value = false): FormControl<boolean> => new FormControl(value, { nonNullable: true });

/** The kinds of a stretch of payments. */
export type StretchType = 'level' | 'fixed' | 'interest-only';

/** A stretch of payments as typed. */
export type StretchForm = FormGroup<{
  type: FormControl<StretchType>;
  count: Text;
  amortizeOver: Text;
  payment: Text;
}>;

/** Extra principal as typed: on one day, or with each payment of a span. */
export type ExtraForm = FormGroup<{
  when: FormControl<'once' | 'each'>;
  on: Text;
  from: Text;
  to: Text;
  amount: Text;
}>;

/** A stretch, level unless another is asked for. */
export function stretchForm(value: Partial<StretchForm['value']> = {}): StretchForm {
  return new FormGroup({
    type: choice<StretchType>(value.type ?? 'level'),
    count: text(value.count),
    amortizeOver: text(value.amortizeOver),
    payment: text(value.payment),
  });
}

/** Extra principal, once unless otherwise asked for. */
export function extraForm(value: Partial<ExtraForm['value']> = {}): ExtraForm {
  return new FormGroup({
    when: choice<'once' | 'each'>(value.when ?? 'once'),
    on: text(value.on),
    from: text(value.from),
    to: text(value.to),
    amount: text(value.amount),
  });
}

/** Everything that the page asks for; a loan and a bond each use their part of it. */
export type TermsForm = FormGroup<{
  kind: FormControl<'loan' | 'bond'>;
  name: Text;
  lender: Text;
  agreement: Text;
  loan: FormGroup<{
    class: FormControl<'term-loan' | 'note'>;
    financed: FormControl<'amount' | 'purchase'>;
    amount: Text;
    price: Text;
    downPayment: Text;
    start: Text;
    rate: Text;
    dayCount: FormControl<DayCountName>;
    every: FormControl<Frequency>;
    first: Text;
    monthEnd: FormControl<boolean>;
    stretches: FormArray<StretchForm>;
    extras: FormArray<ExtraForm>;
    interestRounding: FormControl<'cent' | 'unit'>;
    paymentRounding: FormControl<'cent' | 'cent-up' | 'unit'>;
    ties: FormControl<'away-from-zero' | 'even'>;
  }>;
  bond: FormGroup<{
    class: FormControl<'bond' | 'note'>;
    face: Text;
    issued: Text;
    matures: Text;
    coupon: Text;
    every: FormControl<'half-year' | 'year'>;
    dayCount: FormControl<DayCountName>;
    monthEnd: FormControl<boolean>;
    price: Text;
    yield: Text;
    effectiveRate: FormControl<'default' | 'yield' | 'from-price'>;
    interestRounding: FormControl<'cent' | 'unit'>;
  }>;
}>;
export type TypedTerms = ReturnType<TermsForm['getRawValue']>;

/** An empty form, as an agreement is most often: a level monthly loan. */
export function termsForm(): TermsForm {
  return new FormGroup({
    kind: choice<'loan' | 'bond'>('loan'),
    name: text(),
    lender: text(),
    agreement: text(),
    loan: new FormGroup({
      class: choice<'term-loan' | 'note'>('term-loan'),
      financed: choice<'amount' | 'purchase'>('amount'),
      amount: text(),
      price: text(),
      downPayment: text(),
      start: text(),
      rate: text(),
      dayCount: choice<DayCountName>('even-periods'),
      every: choice<Frequency>('month'),
      first: text(),
      monthEnd: flag(),
      stretches: new FormArray<StretchForm>([stretchForm()]),
      extras: new FormArray<ExtraForm>([]),
      interestRounding: choice<'cent' | 'unit'>('cent'),
      paymentRounding: choice<'cent' | 'cent-up' | 'unit'>('cent'),
      ties: choice<'away-from-zero' | 'even'>('away-from-zero'),
    }),
    bond: new FormGroup({
      class: choice<'bond' | 'note'>('bond'),
      face: text(),
      issued: text(),
      matures: text(),
      coupon: text(),
      every: choice<'half-year' | 'year'>('half-year'),
      dayCount: choice<DayCountName>('30/360'),
      monthEnd: flag(),
      price: text(),
      yield: text(),
      effectiveRate: choice<'default' | 'yield' | 'from-price'>('default'),
      interestRounding: choice<'cent' | 'unit'>('cent'),
    }),
  });
}

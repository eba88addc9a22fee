import { FormControl, FormGroup } from '@angular/forms';
import type { DayCountName } from '@coffer/core';
import { choice, flag, text, type Text } from './controls';
import { eventForm } from './event-form';
import { loanForm, type LoanForm } from './loan-form';
import { stretchForm } from './stretch-form';

/** Everything that is asked for a bond. */
export type BondForm = FormGroup<{
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

/** The kinds of instrument that can be entered. */
export type EnteredKind = 'loan' | 'credit-line' | 'bond';

/** Everything that the page asks for; each kind uses its part of it. */
export type TermsForm = FormGroup<{
  kind: FormControl<EnteredKind>;
  name: Text;
  lender: Text;
  agreement: Text;
  loan: LoanForm;
  bond: BondForm;
}>;

export type TypedTerms = ReturnType<TermsForm['getRawValue']>;

/** An empty form. */
export function termsForm(): TermsForm {
  return new FormGroup({
    kind: choice<EnteredKind>('loan'),
    name: text(),
    lender: text(),
    agreement: text(),
    loan: loanForm(),
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

/** Puts what was typed before back into the form, with as many stretches and events as it had. */
export function putBack(form: TermsForm, typed: TypedTerms): void {
  const { stretches, events } = form.controls.loan.controls;
  const quiet = { emitEvent: false };
  while (stretches.length > typed.loan.stretches.length) stretches.removeAt(-1, quiet);
  while (stretches.length < typed.loan.stretches.length) stretches.push(stretchForm(), quiet);
  while (events.length > typed.loan.events.length) events.removeAt(-1, quiet);
  while (events.length < typed.loan.events.length) events.push(eventForm(), quiet);
  form.patchValue(typed);
}

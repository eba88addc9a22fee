import { FormControl, FormGroup } from '@angular/forms';
import { bondEventForm, bondForm, type BondForm } from './bond-form';
import { choice, text, type Text } from '../../fields/controls';
import { eventForm } from './event-form';
import { loanForm, type LoanForm } from './loan-form';
import { stretchForm } from './stretch-form';

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
    bond: bondForm(),
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
  const bondEvents = form.controls.bond.controls.events;
  while (bondEvents.length > typed.bond.events.length) bondEvents.removeAt(-1, quiet);
  while (bondEvents.length < typed.bond.events.length) bondEvents.push(bondEventForm(), quiet);
  form.patchValue(typed);
}

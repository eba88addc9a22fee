import type { InstrumentDocument } from '@coffer/contract';
import { viewKindOf } from '../../kinds/view-kinds';
import type { KeptEvent } from './part-of-form';
import type { TermsForm } from './terms-form';

/** Fills the form from a document; gives back the events that the form does not show. */
export function fillForm(form: TermsForm, document: InstrumentDocument): KeptEvent[] {
  const { kind, name, lender, agreement } = document;
  form.patchValue({ kind, name, lender: lender ?? '', agreement: agreement ?? '' });
  return viewKindOf(document).form.fill(form, document);
}

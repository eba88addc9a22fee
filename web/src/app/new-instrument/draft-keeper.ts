import { Injectable } from '@angular/core';
import { extraForm, stretchForm, type TermsForm, type TypedTerms } from './terms-form';

const keptAs = 'coffer.new-instrument';

/** Keeps what is typed for a new instrument until it is saved, so that leaving the page loses nothing. */
@Injectable({ providedIn: 'root' })
export class DraftKeeper {
  keep(form: TermsForm): void {
    sessionStorage.setItem(keptAs, JSON.stringify(form.getRawValue()));
  }

  forget(): void {
    sessionStorage.removeItem(keptAs);
  }

  /** Fills a form with the draft, if there is one that fits it. */
  restore(form: TermsForm): void {
    const kept = sessionStorage.getItem(keptAs);
    if (kept === null) return;
    try {
      const typed = JSON.parse(kept) as TypedTerms;
      const { stretches, extras } = form.controls.loan.controls;
      stretches.clear({ emitEvent: false });
      extras.clear({ emitEvent: false });
      for (const stretch of typed.loan.stretches) stretches.push(stretchForm(stretch), { emitEvent: false });
      for (const extra of typed.loan.extras) extras.push(extraForm(extra), { emitEvent: false });
      form.patchValue(typed);
    } catch {
      this.forget();
    }
  }
}

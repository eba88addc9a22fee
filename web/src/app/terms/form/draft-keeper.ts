import { Injectable } from '@angular/core';
import { putBack, type TermsForm, type TypedTerms } from './terms-form';

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
      putBack(form, JSON.parse(kept) as TypedTerms);
    } catch {
      this.forget();
    }
  }
}

import { Injectable } from '@angular/core';
import { putBack, type TermsForm, type TypedTerms } from './terms-form';

const keptAs = 'coffer.new-instrument';

/** Keeps what is typed for a new instrument until it is saved, so that leaving the page loses nothing. */
@Injectable({ providedIn: 'root' })
export class DraftKeeper {
  keep(form: TermsForm): void {
    sessionStorage.setItem(keptAs, JSON.stringify(form.getRawValue()));
  }

  /** Begins a draft for somebody to finish; leaves one that is there already. Says whether it did. */
  begin(form: TermsForm): boolean {
    if (sessionStorage.getItem(keptAs) !== null) return false;
    this.keep(form);
    return true;
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

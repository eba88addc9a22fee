import { inject, Injectable } from '@angular/core';
import { SessionService } from '../session/session.service';
import { noChange, type TypedVariant } from './typed-variant';

/** Keeps the variants that a person tries for an instrument in this browser, so that leaving the page loses none. */
@Injectable({ providedIn: 'root' })
export class VariantsKeeper {
  private readonly session = inject(SessionService);

  private keyOf(id: string): string {
    return `coffer.tried.${this.session.person()?.logIn ?? ''}.${id}`;
  }

  keep(id: string, variants: readonly TypedVariant[]): void {
    localStorage.setItem(this.keyOf(id), JSON.stringify(variants));
  }

  /** The kept variants; the first one, changing nothing yet, where none are kept or they cannot be read. */
  restore(id: string): TypedVariant[] {
    try {
      const kept = JSON.parse(localStorage.getItem(this.keyOf(id)) ?? '[]') as TypedVariant[];
      const read = kept.map(({ letter, typed }) => ({ letter, typed: { ...noChange, ...typed } }));
      if (read.length > 0) return read;
    } catch {
      localStorage.removeItem(this.keyOf(id));
    }
    return [{ letter: 'A', typed: noChange }];
  }
}

import { inject, Injectable } from '@angular/core';
import { KeptInBrowser } from '../session/kept-in-browser';
import { noChange, type TypedVariant } from './typed-variant';

/** Keeps the variants that a person tries for an instrument. */
@Injectable({ providedIn: 'root' })
export class VariantsKeeper {
  private readonly browser = inject(KeptInBrowser);

  keep(id: string, variants: readonly TypedVariant[]): void {
    this.browser.keep('tried', id, variants);
  }

  /** The kept variants; the first one, changing nothing yet, where none are kept or they cannot be read. */
  restore(id: string): TypedVariant[] {
    const read = (kept: unknown): TypedVariant[] =>
      (kept as TypedVariant[]).map(({ letter, typed }) => ({ letter, typed: { ...noChange, ...typed } }));
    const variants = this.browser.restore('tried', id, read);
    return variants && variants.length > 0 ? variants : [{ letter: 'A', typed: noChange }];
  }
}

import { Injectable, signal } from '@angular/core';

/** Light or dark, or as the system has it. */
export type Appearance = 'system' | 'light' | 'dark';

const keptAs = 'coffer.appearance';

/** Keeps the chosen appearance in this browser. */
@Injectable({ providedIn: 'root' })
export class AppearanceService {
  readonly chosen = signal<Appearance>(this.kept());

  constructor() {
    this.apply(this.chosen());
  }

  choose(appearance: Appearance): void {
    localStorage.setItem(keptAs, appearance);
    this.chosen.set(appearance);
    this.apply(appearance);
  }

  private kept(): Appearance {
    const kept = localStorage.getItem(keptAs);
    return kept === 'light' || kept === 'dark' ? kept : 'system';
  }

  private apply(appearance: Appearance): void {
    const root = document.documentElement;
    if (appearance === 'system') delete root.dataset['theme'];
    else root.dataset['theme'] = appearance;
  }
}

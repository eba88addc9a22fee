import { inject, Injectable } from '@angular/core';
import { habitsNow, numberHabits } from '@coffer/contract';
import { SessionService } from './session.service';

/** Numbers and days that were typed are read as they were typed: what another habit left is not taken for its own. */
function readSo(): string {
  const { numbers, dates } = habitsNow();
  return [
    numberHabits[numbers].mark === ',' ? '.comma' : '',
    dates === 'month-first' ? '.month-first' : '',
  ].join('');
}

/** Keeps what a person tries for an instrument in this browser, so that leaving the page loses nothing. */
@Injectable({ providedIn: 'root' })
export class KeptInBrowser {
  private readonly session = inject(SessionService);

  private keyOf(what: string, id: string): string {
    return `coffer.${what}.${this.session.person()?.logIn ?? ''}.${id}${readSo()}`;
  }

  keep(what: string, id: string, value: unknown): void {
    try {
      localStorage.setItem(this.keyOf(what, id), JSON.stringify(value));
    } catch {
      // Where the browser has no more room it is there until the page is left.
      localStorage.removeItem(this.keyOf(what, id));
    }
  }

  /** What was kept, read as asked; `undefined` where nothing was, or it cannot be read. */
  restore<Kept>(what: string, id: string, read: (kept: unknown) => Kept): Kept | undefined {
    const key = this.keyOf(what, id);
    try {
      const text = localStorage.getItem(key);
      return text === null ? undefined : read(JSON.parse(text));
    } catch {
      localStorage.removeItem(key);
      return undefined;
    }
  }

  forget(what: string, id: string): void {
    localStorage.removeItem(this.keyOf(what, id));
  }
}

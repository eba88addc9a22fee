import { DestroyRef, computed, inject, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, map, of, switchMap, tap, type Observable } from 'rxjs';
import { messageOf } from './message-of';

/** What a page asks for by a key (a date, an instrument), and how far that has come. */
export interface Loaded<Value> {
  /** What came last; nothing before anything came, and nothing once it failed for the key asked for now. */
  readonly value: Signal<Value | undefined>;
  /** The key that is asked for is not the one that the value came for: the page holds it back. */
  readonly behind: Signal<boolean>;
  /** Why it could not be had; empty where it could. */
  readonly failed: Signal<string>;
  /** Asks again for the same key; what is there stays until the answer. */
  again(): void;
  /** Changes what is there, as what a call gave back tells. */
  change(to: (value: Value) => Value): void;
}

interface State<Value> {
  readonly key: string;
  readonly value?: Value;
  readonly failed: string;
}

/**
 * Loads what belongs to a key each time that the key changes. A late answer to an earlier key is dropped; a failure
 * takes away what came for another, and leaves what came for its own. Called while a component is made.
 *
 * @param key what is asked for, of plain values; `undefined` while that is not known
 */
export function loaded<Key, Value>(
  key: Signal<Key | undefined>,
  fetch: (key: Key) => Observable<Value>,
): Loaded<Value> {
  const state = signal<State<Value>>({ key: '', failed: '' });
  const turn = signal(0);
  const asked = computed(() => ({ key: key(), turn: turn() }));
  toObservable(asked)
    .pipe(
      switchMap(({ key: wanted }) => {
        if (wanted === undefined) return of(undefined);
        const name = JSON.stringify(wanted);
        return fetch(wanted).pipe(
          map((value): State<Value> => ({ key: name, value, failed: '' })),
          catchError((error: unknown) => {
            const failed = messageOf(error);
            const was = state();
            return of<State<Value>>(was.key === name ? { ...was, failed } : { key: name, failed });
          }),
        );
      }),
      tap((next) => {
        if (next) state.set(next);
      }),
      takeUntilDestroyed(inject(DestroyRef)),
    )
    .subscribe();
  return {
    value: computed(() => state().value),
    behind: computed(() => JSON.stringify(key()) !== state().key),
    failed: computed(() => state().failed),
    again: () => turn.update((count) => count + 1),
    change: (to) => state.update((was) => (was.value === undefined ? was : { ...was, value: to(was.value) })),
  };
}

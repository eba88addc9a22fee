import { DestroyRef, inject, Injectable } from '@angular/core';
import { filter, fromEvent, map, Observable, takeWhile } from 'rxjs';
import type { InstrumentChange, LoanDocument } from '@coffer/contract';
import type { GridQuestion, Tried, TriedCell, TryAnswer, TryQuestion } from './tried';

type Asked = TryQuestion extends infer Question
  ? Question extends TryQuestion
    ? Omit<Question, 'number'>
    : never
  : never;

/** Tries changes of a loan in a worker. A new question ends the one before it. */
@Injectable()
export class TryOutService {
  private readonly worker = new Worker(new URL('./try-out.worker', import.meta.url), { type: 'module' });
  private asked = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  /** What each change comes to. */
  changes(document: LoanDocument, changes: readonly InstrumentChange[]): Observable<readonly Tried[]> {
    return this.ask({ kind: 'changes', document, changes }).pipe(
      map((answer) => (answer.kind === 'changes' ? answer.tried : [])),
    );
  }

  /** A grid of changes on top of one, its rows as they are worked out. */
  grid(document: LoanDocument, grid: GridQuestion): Observable<{ at: number; cells: readonly TriedCell[] }> {
    return this.ask({ kind: 'grid', document, ...grid }).pipe(filter((answer) => answer.kind === 'row'));
  }

  private ask(question: Asked): Observable<TryAnswer> {
    return new Observable((subscriber) => {
      const number = (this.asked += 1);
      const subscription = fromEvent<MessageEvent<TryAnswer>>(this.worker, 'message')
        .pipe(
          map(({ data }) => data),
          filter((answer) => answer.number === number),
          takeWhile((answer) => answer.kind === 'row' && !answer.last, true),
        )
        .subscribe(subscriber);
      this.worker.postMessage({ ...question, number } as TryQuestion);
      return () => subscription.unsubscribe();
    });
  }
}

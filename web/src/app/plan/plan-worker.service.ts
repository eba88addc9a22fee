import { DestroyRef, inject, Injectable } from '@angular/core';
import { filter, fromEvent, map, Observable, takeWhile } from 'rxjs';
import type { PlanAnswer, PlanQuestion } from './plan-work';

/** Works plans out in a worker. A new question, or nobody listening any more, ends the one before it. */
@Injectable()
export class PlanWorker {
  private readonly worker = new Worker(new URL('./plan.worker', import.meta.url), { type: 'module' });
  private asked = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  /** The answers to a question, as they come. */
  ask(question: Omit<PlanQuestion, 'number'>): Observable<PlanAnswer> {
    return new Observable((subscriber) => {
      const number = (this.asked += 1);
      const answers = fromEvent<MessageEvent<PlanAnswer>>(this.worker, 'message').pipe(
        map(({ data }) => data),
        filter((answer) => answer.number === number),
        takeWhile((answer) => answer.kind !== 'faults' && !('last' in answer), true),
      );
      const subscription = answers.subscribe(subscriber);
      this.worker.postMessage({ ...question, number } satisfies PlanQuestion);
      return () => subscription.unsubscribe();
    });
  }
}

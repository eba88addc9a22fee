import { habitsNow } from '@coffer/contract';
import { DestroyRef, inject, Injectable } from '@angular/core';
import { filter, fromEvent, map, merge, Observable, take } from 'rxjs';
import type { PreviewAnswer, PreviewQuestion } from './schedule-preview';

/** Works out schedules of typed terms in a worker, so that typing never waits. */
@Injectable()
export class SchedulePreviewService {
  private readonly worker = new Worker(new URL('./schedule-preview.worker', import.meta.url), {
    type: 'module',
  });
  private asked = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  /** Asks for the schedule of a document; answers once, with nothing where the worker itself failed. */
  read(document: object): Observable<PreviewAnswer | undefined> {
    return new Observable((subscriber) => {
      const number = (this.asked += 1);
      const answers = fromEvent<MessageEvent<PreviewAnswer>>(this.worker, 'message').pipe(
        map(({ data }) => data),
        filter((answer) => answer.number === number),
      );
      const failures = fromEvent(this.worker, 'error').pipe(map(() => undefined));
      const subscription = merge(answers, failures).pipe(take(1)).subscribe(subscriber);
      this.worker.postMessage({ number, document, habits: habitsNow() } satisfies PreviewQuestion);
      return () => subscription.unsubscribe();
    });
  }
}

import { DestroyRef, inject, Injectable } from '@angular/core';
import { filter, fromEvent, map, Observable, take } from 'rxjs';
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

  /** Asks for the schedule of a document; answers once. */
  read(document: object): Observable<PreviewAnswer> {
    return new Observable((subscriber) => {
      const number = (this.asked += 1);
      const answers = fromEvent<MessageEvent<PreviewAnswer>>(this.worker, 'message').pipe(
        map(({ data }) => data),
        filter((answer) => answer.number === number),
        take(1),
      );
      const subscription = answers.subscribe(subscriber);
      this.worker.postMessage({ number, document } satisfies PreviewQuestion);
      return () => subscription.unsubscribe();
    });
  }
}

import { inject, Injectable, signal } from '@angular/core';
import { endpoints } from '@coffer/contract';
import { catchError, exhaustMap, Observable, of, Subscription, timer } from 'rxjs';
import { ApiClient, newKey } from '../api/api-client';

/** Takes documents on, all or none, and tells how far it has come. Ending it early takes on none. */
@Injectable()
export class TakingOn {
  private readonly api = inject(ApiClient);
  private running = new Subscription();
  /** How many of how many are done; nothing while none are taken on. */
  readonly soFar = signal<{ readonly done: number; readonly of: number } | undefined>(undefined);

  /** Answers once all are taken on; fails where one is refused. */
  run(documents: readonly unknown[]): Observable<unknown> {
    return new Observable((out) => {
      const key = newKey();
      this.soFar.set({ done: 0, of: documents.length });
      this.running = new Subscription();
      const asked = timer(400, 700).pipe(
        exhaustMap(() =>
          this.api.call(endpoints.takenOnSoFar, { params: { key } }).pipe(catchError(() => of(undefined))),
        ),
      );
      this.running.add(
        asked.subscribe((soFar) => {
          if (soFar && soFar.of > 0) this.soFar.set(soFar);
        }),
      );
      this.running.add(
        this.api.call(endpoints.takeOnMany, { body: { documents: [...documents] }, key }).subscribe({
          next: (answer) => {
            this.end();
            out.next(answer);
            out.complete();
          },
          error: (error: unknown) => {
            this.end();
            out.error(error);
          },
        }),
      );
    });
  }

  /** Ends the call; the server takes on nothing then. */
  end(): void {
    this.running.unsubscribe();
    this.soFar.set(undefined);
  }
}

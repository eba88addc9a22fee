import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { AccrualChoice } from '@coffer/core';
import { endpoints, type CloseView, type EntryView } from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** What closing a month makes, and locking it. */
@Injectable({ providedIn: 'root' })
export class CloseService {
  private readonly api = inject(ApiClient);

  of(endsOn: string): Observable<CloseView> {
    return this.api.call(endpoints.close, { params: { endsOn } });
  }

  entriesOf(endsOn: string, id: string): Observable<{ entries: EntryView[] }> {
    return this.api.call(endpoints.instrumentEntries, { params: { endsOn, id } });
  }

  choose(endsOn: string, accruals: AccrualChoice): Observable<unknown> {
    return this.api.call(endpoints.chooseAccruals, { params: { endsOn }, body: { accruals } });
  }

  lock(endsOn: string, key: string): Observable<{ entries: number; reversals: number; opens: string }> {
    return this.api.call(endpoints.lock, { params: { endsOn }, key });
  }
}

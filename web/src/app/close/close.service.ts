import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { AccrualChoice } from '@coffer/core';
import {
  endpoints,
  type CloseView,
  type ConfirmCode,
  type DifferencesView,
  type EntryView,
  type MonthClosed,
  type MonthComment,
} from '@coffer/contract';
import { ApiClient, newKey } from '../api/api-client';
import type { Said } from './review/differences-list';
import type { Returned } from './review/return.dialog';

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

  differences(endsOn: string): Observable<DifferencesView> {
    return this.api.call(endpoints.differences, { params: { endsOn } });
  }

  /**
   * Closes a month as it was seen: by one person, or approving what another handed over.
   *
   * @param confirm what of it was told by name and is meant so
   */
  close(
    which: 'lock' | 'approve',
    { endsOn, digest }: CloseView,
    confirm: ConfirmCode[],
    key: string,
  ): Observable<MonthClosed> {
    const parts = { params: { endsOn }, body: { digest: digest ?? '', confirm }, key };
    return which === 'lock' ? this.api.call(endpoints.lock, parts) : this.api.call(endpoints.approve, parts);
  }

  handOver({ endsOn, digest }: CloseView, key: string): Observable<unknown> {
    return this.api.call(endpoints.handOver, { params: { endsOn }, body: { digest: digest ?? '' }, key });
  }

  giveBack(endsOn: string, { comment, instrumentId }: Returned): Observable<unknown> {
    const body = { comment, ...(instrumentId !== undefined && { instrumentId }) };
    return this.api.call(endpoints.returnMonth, { params: { endsOn }, body, key: newKey() });
  }

  say(endsOn: string, { text, instrumentId }: Said): Observable<{ comments: MonthComment[] }> {
    const body = { text, ...(instrumentId !== undefined && { instrumentId }) };
    return this.api.call(endpoints.commentMonth, { params: { endsOn }, body, key: newKey() });
  }
}

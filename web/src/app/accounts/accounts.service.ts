import { inject, Injectable } from '@angular/core';
import {
  endpoints,
  type BroughtBy,
  type ChartBody,
  type ChartView,
  type OwnAccounts,
} from '@coffer/contract';
import { map, type Observable } from 'rxjs';
import { ApiClient } from '../api/api-client';

/** Reads and keeps the chart of accounts. */
@Injectable({ providedIn: 'root' })
export class AccountsService {
  private readonly api = inject(ApiClient);

  chart(): Observable<ChartView> {
    return this.api.call(endpoints.accounts);
  }

  /** What each instrument brings into an account. */
  broughtInto(code: string): Observable<readonly BroughtBy[]> {
    return this.api
      .call(endpoints.broughtInto, { query: { code } })
      .pipe(map(({ instruments }) => instruments));
  }

  keep(body: Omit<ChartBody, 'confirm'>): Observable<unknown> {
    return this.api.call(endpoints.keepAccounts, { body });
  }

  keepLedger(balances: { code: string; balance: number | null }[]): Observable<unknown> {
    return this.api.call(endpoints.keepLedger, { body: { balances } });
  }

  keepOwn(id: string, body: OwnAccounts): Observable<unknown> {
    return this.api.call(endpoints.keepOwnAccounts, { params: { id }, body });
  }
}

import { inject, Injectable } from '@angular/core';
import { endpoints, type ChartBody, type ChartView, type OwnAccounts } from '@coffer/contract';
import type { Observable } from 'rxjs';
import { ApiClient } from '../api/api-client';

/** Reads and keeps the chart of accounts. */
@Injectable({ providedIn: 'root' })
export class AccountsService {
  private readonly api = inject(ApiClient);

  chart(): Observable<ChartView> {
    return this.api.call(endpoints.accounts);
  }

  keep(body: ChartBody): Observable<unknown> {
    return this.api.call(endpoints.keepAccounts, { body });
  }

  keepLedger(balances: { code: string; balance: number | null }[]): Observable<unknown> {
    return this.api.call(endpoints.keepLedger, { body: { balances } });
  }

  keepOwn(id: string, body: OwnAccounts): Observable<unknown> {
    return this.api.call(endpoints.keepOwnAccounts, { params: { id }, body });
  }
}

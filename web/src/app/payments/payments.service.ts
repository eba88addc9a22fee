import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { endpoints, type DuePaymentsView, type PaymentMade } from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** What falls due in the open month, and recording what was paid. */
@Injectable({ providedIn: 'root' })
export class PaymentsService {
  private readonly api = inject(ApiClient);

  ofMonth(): Observable<DuePaymentsView> {
    return this.api.call(endpoints.duePayments);
  }

  /** Takes back all that was recorded for a payment. */
  takeBack(
    { id, version }: { readonly id: string; readonly version: number },
    due: string,
    reason: string,
    key: string,
  ): Observable<{ payments: number; instruments: number }> {
    const payments = [{ instrumentId: id, version, due }];
    return this.api.call(endpoints.takeBackPayments, { body: { payments, reason }, key });
  }

  /** Records payments, all or none. */
  record(
    payments: readonly PaymentMade[],
    key: string,
  ): Observable<{ payments: number; instruments: number }> {
    return this.api.call(endpoints.recordPayments, { body: { payments: [...payments] }, key });
  }
}

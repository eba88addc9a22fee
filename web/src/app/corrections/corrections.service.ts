import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { endpoints, type CatchUpsView, type MonthCorrectedView } from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** What closed months should have held otherwise. */
@Injectable({ providedIn: 'root' })
export class CorrectionsService {
  private readonly api = inject(ApiClient);

  ofMonth(endsOn: string): Observable<MonthCorrectedView> {
    return this.api.call(endpoints.monthCorrected, { params: { endsOn } });
  }

  bookedBetween(from: string, to: string): Observable<CatchUpsView> {
    return this.api.call(endpoints.catchUps, { query: { from, to } });
  }
}

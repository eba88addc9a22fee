import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { endpoints, type RegisterView } from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** The register on a day. */
@Injectable({ providedIn: 'root' })
export class RegisterService {
  private readonly api = inject(ApiClient);

  on(day: string): Observable<RegisterView> {
    return this.api.call(endpoints.register, { query: { on: day } });
  }
}

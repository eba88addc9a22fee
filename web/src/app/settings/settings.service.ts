import { inject, Injectable } from '@angular/core';
import { endpoints, type SettingsChange, type SettingsView } from '@coffer/contract';
import type { Observable } from 'rxjs';
import { ApiClient } from '../api/api-client';

/** Reads and changes the settings of the company. */
@Injectable({ providedIn: 'root' })
export class SettingsService {
  private readonly api = inject(ApiClient);

  settings(): Observable<SettingsView> {
    return this.api.call(endpoints.settings);
  }

  change(body: SettingsChange): Observable<SettingsView> {
    return this.api.call(endpoints.changeSettings, { body });
  }
}

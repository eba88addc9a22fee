import { inject, Injectable } from '@angular/core';
import {
  endpoints,
  type ClosedDay,
  type HolidayCountries,
  type SettingsChange,
  type SettingsView,
} from '@coffer/contract';
import { map, type Observable } from 'rxjs';
import { ApiClient } from '../api/api-client';

/** Reads and changes the settings of the company. */
@Injectable({ providedIn: 'root' })
export class SettingsService {
  private readonly api = inject(ApiClient);

  settings(): Observable<SettingsView> {
    return this.api.call(endpoints.settings);
  }

  countries(): Observable<HolidayCountries> {
    return this.api.call(endpoints.holidayCountries).pipe(map(({ countries }) => countries));
  }

  /** The published holidays of a country, or a region of it, over some years. */
  holidays(query: { country: string; region?: string; from: string; to: string }): Observable<ClosedDay[]> {
    return this.api.call(endpoints.holidays, { query }).pipe(map(({ days }) => days));
  }

  change(body: SettingsChange): Observable<SettingsView> {
    return this.api.call(endpoints.changeSettings, { body });
  }
}

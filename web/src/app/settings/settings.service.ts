import { inject, Injectable } from '@angular/core';
import {
  endpoints,
  type ClosedDay,
  type ClosedDaysView,
  type HolidayCountries,
  type SettingsChange,
  type SettingsView,
} from '@coffer/contract';
import { map, type Observable } from 'rxjs';
import { ApiClient, newKey } from '../api/api-client';

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

  /** The instruments that lack closed days of the company, and what taking them does to each. */
  lackingClosedDays(): Observable<ClosedDaysView> {
    return this.api.call(endpoints.closedDays);
  }

  /** Gives instruments the closed days of the company as they were looked at; what is asked about is confirmed first. */
  takeClosedDays(body: {
    reason: string;
    instruments: { id: string; version: number }[];
  }): Observable<{ saved: { id: string; version: number }[] }> {
    return this.api.call(endpoints.takeClosedDays, { body, key: newKey() });
  }

  change(body: SettingsChange): Observable<SettingsView> {
    return this.api.call(endpoints.changeSettings, { body });
  }
}

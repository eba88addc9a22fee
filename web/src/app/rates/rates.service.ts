import { inject, Injectable } from '@angular/core';
import { endpoints, type FetchedView, type FollowView, type RatesView } from '@coffer/contract';
import { map, type Observable } from 'rxjs';
import { ApiClient, newKey } from '../api/api-client';
import type { Draft } from './drafts';

/** Reads and keeps the company's reference rates. */
@Injectable({ providedIn: 'root' })
export class RatesService {
  private readonly api = inject(ApiClient);

  rates(): Observable<RatesView> {
    return this.api.call(endpoints.rates);
  }

  /** What the rate service has published that is not kept so. */
  fetched(): Observable<FetchedView['indexes']> {
    return this.api.call(endpoints.fetchFixings).pipe(map(({ indexes }) => indexes));
  }

  /** What a draft does to each instrument; nothing is kept. */
  look({ index, fixings }: Pick<Draft, 'index' | 'fixings'>): Observable<FollowView> {
    return this.api.call(endpoints.lookAtFixings, { body: { index, fixings: [...fixings] } });
  }

  /** Keeps a draft as it was looked at, for the instruments named; how many have a new version. */
  keep(
    { index, fixings, source }: Draft,
    seen: FollowView,
    chosen: ReadonlySet<string>,
    reason: string,
  ): Observable<number> {
    const instruments = seen.instruments
      .filter(({ instrumentId }) => chosen.has(instrumentId))
      .map(({ instrumentId: id, version }) => ({ id, version }));
    const body = { index, fixings: [...fixings], source, reason, revision: seen.revision, instruments };
    return this.api
      .call(endpoints.keepFixings, { body, key: newKey() })
      .pipe(map(({ saved }) => saved.length));
  }
}

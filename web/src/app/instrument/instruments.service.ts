import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { filter, map, type Observable } from 'rxjs';
import {
  claimsToBeFund,
  endpoints,
  readInstrument,
  type InstrumentView,
  type ReadInstrument,
} from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** An instrument as the server keeps it, with its terms read and its schedule worked out. */
export interface OpenInstrument extends InstrumentView {
  readonly read: ReadInstrument;
}

/** Reads and changes instruments. */
@Injectable({ providedIn: 'root' })
export class InstrumentsService {
  private readonly api = inject(ApiClient);
  private readonly router = inject(Router);

  /** An instrument in its newest version, or another. */
  open(id: string, version?: number): Observable<OpenInstrument> {
    const query = version === undefined ? {} : { version: String(version) };
    return this.api.call(endpoints.instrument, { params: { id }, query }).pipe(
      // What the journal and the close lead to may be a fund, which has a page of its own.
      filter((view) => {
        const fund = claimsToBeFund(view.document);
        if (fund) void this.router.navigate(['/funds', id], { replaceUrl: true });
        return !fund;
      }),
      map((view) => {
        const reading = readInstrument(view.document);
        if (!reading.ok)
          throw new Error(`This instrument cannot be read: ${reading.faults[0]?.message ?? ''}`);
        return { ...view, read: reading.instrument };
      }),
    );
  }

  create(document: unknown, key: string): Observable<{ id: string; version: number }> {
    return this.api.call(endpoints.createInstrument, { body: { document }, key });
  }

  /** Withdraws an instrument taken on by mistake. */
  withdraw(id: string, version: number, reason: string): Observable<{ id: string }> {
    return this.api.call(endpoints.withdrawInstrument, { params: { id }, body: { version, reason } });
  }

  change(
    id: string,
    version: number,
    document: unknown,
    reason: string,
  ): Observable<{ id: string; version: number }> {
    return this.api.call(endpoints.changeInstrument, { params: { id }, body: { version, document, reason } });
  }
}

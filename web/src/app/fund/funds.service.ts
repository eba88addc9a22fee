import { inject, Injectable } from '@angular/core';
import { map, type Observable } from 'rxjs';
import { isDebt, type FundSchedule } from '@coffer/core';
import { endpoints, isOwed, readDocument, type FundDocument, type InstrumentView } from '@coffer/contract';
import { ApiClient, newKey } from '../api/api-client';
import { InstrumentsService } from '../instrument/instruments.service';

/** A fund as the server keeps it, with its schedule worked out. */
export interface OpenFund extends Omit<InstrumentView, 'document'> {
  readonly document: FundDocument;
  readonly schedule: FundSchedule;
}

/** Reads and changes funds in the books. */
@Injectable({ providedIn: 'root' })
export class FundsService {
  private readonly api = inject(ApiClient);
  private readonly instruments = inject(InstrumentsService);

  open(id: string): Observable<OpenFund> {
    return this.api.call(endpoints.instrument, { params: { id }, query: {} }).pipe(
      map((view) => {
        const reading = readDocument(view.document);
        if (!reading.ok) throw new Error(`This fund cannot be read: ${reading.faults[0]?.message ?? ''}`);
        const { document, schedule } = reading;
        if (isOwed(document) || isDebt(schedule)) throw new Error('This is no fund.');
        return { ...view, document, schedule };
      }),
    );
  }

  /** Takes a fund into the books; its id. */
  takeOn(document: object): Observable<string> {
    return this.instruments.create(document, newKey()).pipe(map(({ id }) => id));
  }

  change({ id, version }: OpenFund, document: FundDocument, reason: string): Observable<unknown> {
    return this.instruments.change(id, version, document, reason);
  }
}

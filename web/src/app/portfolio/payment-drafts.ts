import { inject, Injectable } from '@angular/core';
import { map, of, switchMap, type Observable } from 'rxjs';
import { endpoints, type PortfolioQuery } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { ScenarioDesk, type NamedChange } from '../scenarios/scenario-desk';
import { withPayment } from './payment-change';

/** A payment that is to be another one from a due date on. */
export interface TypedPayment {
  readonly instrumentId: string;
  readonly name: string;
  readonly due: string;
  /** Plain decimal. */
  readonly payment: string;
}

/** Makes drafts of typed payments: in the scenario that is looked at, or in one of their own. */
@Injectable({ providedIn: 'root' })
export class PaymentDrafts {
  private readonly api = inject(ApiClient);
  private readonly desk = inject(ScenarioDesk);

  /** Tries a payment by itself, and makes the draft where it can be; what is wrong with it, empty where nothing is. */
  make(typed: TypedPayment, asked: PortfolioQuery, on: string): Observable<string> {
    return this.changeOf(typed).pipe(
      map((change) => withPayment(change, typed.due, typed.payment)),
      switchMap((change) => {
        const { name: _, ...sent } = change;
        return this.api.call(endpoints.tryPortfolio, { body: { asked, on, changes: [sent] } }).pipe(
          map(({ faulty: [first] }) => {
            if (first) return first.faults.map(({ message }) => message).join(' ');
            const key = this.desk.chosen()?.key ?? this.desk.start([]);
            this.desk.chosenKey.set(key);
            this.desk.changeInstrument(key, change.instrumentId, change);
            return '';
          }),
        );
      }),
    );
  }

  /** What is changed of an instrument already, or a change that begins from its newest version. */
  private changeOf({ instrumentId, name }: TypedPayment): Observable<NamedChange> {
    const found = this.desk.chosen()?.changes.find((change) => change.instrumentId === instrumentId);
    if (found) return of(found);
    return this.api
      .call(endpoints.instrument, { params: { id: instrumentId } })
      .pipe(map(({ version }) => ({ instrumentId, version, name })));
  }
}

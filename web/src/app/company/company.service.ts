import { computed, inject, Injectable, signal } from '@angular/core';
import { tap, type Observable } from 'rxjs';
import { endpoints, type CompanyView, adoptHabits } from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** The company whose books are kept, and its fiscal periods. */
@Injectable({ providedIn: 'root' })
export class CompanyService {
  private readonly api = inject(ApiClient);
  private readonly current = signal<CompanyView | undefined>(undefined);
  readonly company = this.current.asReadonly();
  readonly digits = computed(() => this.current()?.digits ?? 2);
  /** What the company calls its accounts. */
  readonly accounts = computed(() => this.current()?.accounts ?? []);
  readonly openEnd = computed(
    () => this.current()?.periods.find((period) => period.state !== 'closed')?.endsOn,
  );

  load(): Observable<CompanyView> {
    return this.api.call(endpoints.company).pipe(
      tap((company) => {
        adoptHabits(company.habits);
        this.current.set(company);
      }),
    );
  }

  /** Whether a day ends a closed period. */
  isClosed(day: string): boolean {
    return (
      this.current()?.periods.some((period) => period.endsOn === day && period.state === 'closed') ?? false
    );
  }
}

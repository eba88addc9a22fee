import { computed, inject, Injectable, signal } from '@angular/core';
import { CompanyService } from './company.service';

const keptAs = 'coffer.as-of';

/** The one date that every figure on every page stands at: the end of a fiscal period. */
@Injectable({ providedIn: 'root' })
export class AsOfService {
  private readonly company = inject(CompanyService);
  private readonly chosen = signal<string | undefined>(sessionStorage.getItem(keptAs) ?? undefined);

  /** The date, `YYYY-MM-DD`; the open period's end until another is chosen. Empty before the company is known. */
  readonly date = computed(() => this.chosen() ?? this.company.openEnd() ?? '');
  readonly closed = computed(() => this.company.isClosed(this.date()));

  choose(date: string): void {
    sessionStorage.setItem(keptAs, date);
    this.chosen.set(date);
  }

  /** Back to the open period, as after a close. */
  followOpenPeriod(): void {
    sessionStorage.removeItem(keptAs);
    this.chosen.set(undefined);
  }
}

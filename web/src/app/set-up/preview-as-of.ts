import { computed, inject, Injectable, signal } from '@angular/core';
import { formatDay, monthEnd } from '@coffer/core';
import { AsOfService } from '../company/as-of.service';
import type { CompanyForm } from './company-form';

/** The date of the rail of months of a company that is not there yet: its first period end, unless one was pointed at. */
@Injectable()
export class PreviewAsOf implements Pick<AsOfService, 'date' | 'closed' | 'choose' | 'followOpenPeriod'> {
  private readonly form = signal<CompanyForm | undefined>(undefined);
  readonly date = computed(() => {
    const first = this.form()?.first();
    return first === undefined ? '' : formatDay(monthEnd(first));
  });
  readonly closed = signal(false);

  /** Follows a form. */
  follow(form: CompanyForm): void {
    this.form.set(form);
  }

  choose(): void {
    // There are no figures yet that another date would move.
  }

  followOpenPeriod(): void {
    // It follows it always.
  }
}

/** What a page provides that shows the rail of a company before it is made. */
export const previewed = [PreviewAsOf, { provide: AsOfService, useExisting: PreviewAsOf }];

/** The preview of a page, following its form. */
export function follow(form: CompanyForm): void {
  inject(PreviewAsOf).follow(form);
}

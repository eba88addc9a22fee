import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { catchError, combineLatest, of, switchMap } from 'rxjs';
import { endpoints, type EntryView, showMonth } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { EntryList } from '../journal/entry-list';
import type { OpenInstrument } from './instruments.service';
import { IssueEntry } from './issue-entry';

/** The entries of the instrument in the month that the as-of date ends, and the entry it was issued with. */
@Component({
  selector: 'coffer-entries-tab',
  imports: [EntryList, IssueEntry, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet">
      <h2>{{ month() }}</h2>
      @if (failed()) {
        <p class="notice">{{ failed() }}</p>
      } @else if (entries(); as known) {
        <coffer-entry-list [entries]="known" />
      } @else {
        <p class="dim" role="status">Drawing up the entries…</p>
      }
    </section>
    @if (!issuedInMonth()) {
      <section class="sheet">
        <h2>On issue</h2>
        <coffer-issue-entry [schedule]="instrument().read.schedule" />
      </section>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(420px, 100%), 1fr));
      gap: 14px;
      align-items: start;
      overflow: auto;
    }
    section {
      padding: 14px 18px 18px;
    }
    h2 {
      margin-bottom: 10px;
    }
  `,
})
export class EntriesTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly api = inject(ApiClient);
  private readonly asOf = inject(AsOfService);
  protected readonly month = computed(() => showMonth(this.asOf.date()));
  protected readonly entries = signal<readonly EntryView[] | undefined>(undefined);
  protected readonly failed = signal('');
  /** Whether the entries of the month hold the issue entry already. */
  protected readonly issuedInMonth = computed(
    () => this.entries()?.some(({ kind }) => kind === 'issue') ?? false,
  );

  constructor() {
    combineLatest([toObservable(this.instrument), this.asOf.date$])
      .pipe(
        switchMap(([{ id }, endsOn]) =>
          this.api.call(endpoints.instrumentEntries, { params: { endsOn, id } }).pipe(
            catchError((error: unknown) => {
              this.failed.set(messageOf(error));
              return of(undefined);
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        if (!answer) return;
        this.failed.set('');
        this.entries.set(answer.entries);
      });
  }
}

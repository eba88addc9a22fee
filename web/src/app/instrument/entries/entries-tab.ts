import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { endpoints, showMonth } from '@coffer/contract';
import { ApiClient } from '../../api/api-client';
import { loaded } from '../../api/loaded';
import { AsOfService } from '../../company/as-of.service';
import { EntryList } from '../../journal/entry-list';
import type { OpenInstrument } from '../instruments.service';
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
        <p class="notice">{{ failed() }} <button matButton (click)="loaded.again()">Try again</button></p>
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
      gap: var(--space-7);
      align-items: start;
      overflow: auto;
    }
    section {
      padding: var(--space-7) var(--space-9) var(--space-9);
    }
    h2 {
      margin-bottom: var(--space-5);
    }
  `,
})
export class EntriesTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly api = inject(ApiClient);
  private readonly asOf = inject(AsOfService);
  protected readonly month = computed(() => showMonth(this.asOf.date()));
  protected readonly loaded = loaded(
    computed(() => [this.instrument().id, this.instrument().version, this.asOf.date()] as const),
    ([id, , endsOn]) => this.api.call(endpoints.instrumentEntries, { params: { endsOn, id } }),
  );
  protected readonly entries = computed(() =>
    this.loaded.behind() ? undefined : this.loaded.value()?.entries,
  );
  protected readonly failed = this.loaded.failed;
  /** Whether the entries of the month hold the issue entry already. */
  protected readonly issuedInMonth = computed(
    () => this.entries()?.some(({ kind }) => kind === 'issue') ?? false,
  );
}

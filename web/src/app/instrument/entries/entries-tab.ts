import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { accountName, endpoints, showMonth } from '@coffer/contract';
import { ApiClient } from '../../api/api-client';
import { loaded } from '../../api/loaded';
import { AsOfService } from '../../company/as-of.service';
import { EntryList } from '../../journal/entry-list';
import { SessionService } from '../../session/session.service';
import { OwnAccountsDialog } from '../../accounts/own-accounts.dialog';
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
    <section class="sheet">
      <div class="page-head">
        <h2>Accounts of its own</h2>
        @if (session.mayPrepare() && instrument().withdrawn === null) {
          <button matButton class="change" (click)="changeAccounts()">Change</button>
        }
      </div>
      <dl class="list">
        @for (each of own(); track each.role) {
          <dt>{{ named(each.role) }}</dt>
          <dd>{{ each.code }} {{ each.name }}</dd>
        }
        @if (instrument().costCentre; as centre) {
          <dt>Cost centre</dt>
          <dd>{{ centre }}</dd>
        }
      </dl>
      @if (own().length === 0 && instrument().costCentre === null) {
        <p class="dim">None: its entries go to the accounts that the chart has for each role.</p>
      }
    </section>
    @if (!issuedInMonth()) {
      <section class="sheet">
        <h2>On issue</h2>
        <coffer-issue-entry [schedule]="instrument().read.schedule" [accounts]="instrument().accounts" />
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
    .change {
      margin-left: auto;
    }
  `,
})
export class EntriesTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly api = inject(ApiClient);
  private readonly asOf = inject(AsOfService);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly named = accountName;
  protected readonly own = computed(() => this.instrument().accounts.filter((each) => each.own));
  readonly changed = output<string>();
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

  protected changeAccounts(): void {
    const data = this.instrument();
    this.dialog
      .open<OwnAccountsDialog, OpenInstrument, true>(OwnAccountsDialog, { data, width: '560px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) this.changed.emit('Its accounts are changed; what is posted keeps its codes.');
      });
  }
}

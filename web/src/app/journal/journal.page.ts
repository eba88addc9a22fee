import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Router, RouterLink } from '@angular/router';
import { addMonths, calendarFields, formatDay, parseDay, type CalendarDay } from '@coffer/core';
import {
  endpoints,
  type EntryLineView,
  type EntryView,
  showAmount,
  showText,
  showDay,
  showMonth,
} from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { FigureGrid } from '../figures/figure-grid';
import type { GridChoice, GridColumn, GridRow } from '../figures/grid-model';
import { JournalFiles } from './journal-files';

type Span = 'month' | 'year';

interface JournalLine {
  readonly entry: EntryView;
  readonly line: EntryLineView;
}

/** The journal: posted entries by number, of the month or of the fiscal year to the as-of date. */
@Component({
  selector: 'coffer-journal',
  imports: [FigureGrid, JournalFiles, MatButtonModule, MatButtonToggleModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './journal.page.html',
  host: { '[class.behind]': 'loaded.behind()' },
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: var(--space-5);
      flex: 1;
      min-height: 0;
    }
  `,
})
export class JournalPage {
  private readonly api = inject(ApiClient);
  private readonly router = inject(Router);
  private readonly company = inject(CompanyService);
  protected readonly asOf = inject(AsOfService);
  protected readonly span = signal<Span>('month');
  protected readonly isOpen = computed(() => this.asOf.date() === this.company.openEnd());

  protected readonly from = computed(() => {
    const end = parseDay(this.asOf.date()) as CalendarDay;
    if (this.span() === 'month') return formatDay(addMonths(end, -1, true) + 1);
    const yearEnd = this.company.company()?.fiscalYearEndMonth ?? 12;
    const months = (calendarFields(end).month - yearEnd + 11) % 12;
    return formatDay(addMonths(end, -(months + 1), true) + 1);
  });

  protected readonly loaded = loaded(
    computed(() => (this.asOf.date() ? ([this.from(), this.asOf.date()] as const) : undefined)),
    ([from, to]) => this.api.call(endpoints.journal, { query: { from, to } }),
  );
  protected readonly entries = computed(() => this.loaded.value()?.entries);
  protected readonly totals = computed(() => this.loaded.value() ?? { count: 0, debits: 0, credits: 0 });
  protected readonly next = computed(() => this.loaded.value()?.next ?? null);
  private readonly refusal = signal('');
  protected readonly failed = computed(() => this.refusal() || this.loaded.failed());

  protected readonly spanText = computed(() =>
    this.span() === 'month'
      ? showMonth(this.asOf.date())
      : `${showDay(this.from())} to ${showDay(this.asOf.date())}`,
  );

  protected readonly rows = computed((): GridRow<JournalLine>[] =>
    (this.entries() ?? []).flatMap((entry): GridRow<JournalLine>[] => [
      {
        type: 'group',
        id: `e${entry.number}`,
        cells: {
          number: String(entry.number),
          date: showDay(entry.date),
          account: showText(entry.memo),
          instrument: entry.instrument,
        },
      },
      ...entry.lines.map((line, at) => ({
        type: 'item' as const,
        id: `e${entry.number}-${at}`,
        item: { entry, line },
      })),
    ]),
  );

  protected readonly columns = computed((): GridColumn<JournalLine>[] => {
    const digits = this.company.digits();
    const side = (key: 'debit' | 'credit', title: string): GridColumn<JournalLine> => ({
      key,
      title,
      align: 'right',
      track: 'minmax(120px, 0.8fr)',
      cell: ({ line }) => (line[key] > 0 ? showAmount(line[key], digits) : ''),
    });
    return [
      { key: 'number', title: 'No.', align: 'right', track: '56px', cell: () => '' },
      { key: 'date', title: 'Date', align: 'left', track: '106px', cell: () => '' },
      {
        key: 'account',
        title: 'Entry and accounts',
        align: 'left',
        track: 'minmax(280px, 2.6fr)',
        cell: ({ line }) => `${line.credit > 0 ? '\u2003\u2003' : ''}${line.code}\u2002${line.account}`,
      },
      {
        key: 'instrument',
        title: 'Instrument',
        align: 'left',
        track: 'minmax(150px, 1.2fr)',
        cell: () => '',
      },
      side('debit', 'Debit'),
      side('credit', 'Credit'),
    ];
  });

  protected readonly foot = computed(() => ({
    account: `${this.totals().count} entries`,
    debit: showAmount(this.totals().debits, this.company.digits()),
    credit: showAmount(this.totals().credits, this.company.digits()),
  }));

  protected more(after: number): void {
    const query = { from: this.from(), to: this.asOf.date(), after: String(after) };
    this.refusal.set('');
    this.api.call(endpoints.journal, { query }).subscribe({
      next: ({ entries, next }) => {
        // What belongs to dates that were left meanwhile is not put under the new ones.
        if (query.from !== this.from() || query.to !== this.asOf.date()) return;
        this.loaded.change((before) => ({ ...before, entries: [...before.entries, ...entries], next }));
      },
      error: (error: unknown) => this.refusal.set(messageOf(error)),
    });
  }

  protected onChoose({ row }: GridChoice<JournalLine>): void {
    const entry =
      row.type === 'item'
        ? row.item.entry
        : this.entries()?.find((candidate) => `e${candidate.number}` === row.id);
    if (entry) void this.router.navigate(['/instruments', entry.instrumentId, 'entries']);
  }
}

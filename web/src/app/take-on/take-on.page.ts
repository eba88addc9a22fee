import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  HostListener,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { dayCountNames, dayCounts, frequencies, type DayCountName, type Frequency } from '@coffer/core';
import { frequencyInWords, mostAtOnce, showNumber } from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { saveFile } from '../api/save-file';
import { CompanyService } from '../company/company.service';
import { FigureGrid } from '../figures/figure-grid';
import type { GridAct, GridTyped } from '../figures/grid-model';
import type { PackedDocument } from '../sheets/documents-of-zip';
import { SheetReader } from '../sheets/sheet-reader.service';
import { rowsOfText, type FileTable } from '../sheets/table-of-file';
import type { Repaid } from '../sheets/cells';
import { meanings, meaningNames, neededColumns, type Meaning } from './meanings';
import { repaidWords, SheetDesk, stateOf, type DeskRow, type RowState } from './sheet-desk';
import { meaningOfKey } from './sheet-row';
import { DocumentsPart } from './documents-part';
import { examplesIn } from './examples';
import { TakingOn } from './taking-on';
import { deskColumns, deskRows, deskTotals, eveningText } from './take-on-columns';

/** Many instruments from a sheet: columns pointed at what they mean, each row worked out, all taken on at once. */
@Component({
  selector: 'coffer-take-on',
  imports: [DocumentsPart, FigureGrid, MatButtonModule, RouterLink],
  providers: [SheetDesk, TakingOn],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './take-on.page.html',
  styleUrl: './take-on.page.scss',
})
export class TakeOnPage {
  private readonly router = inject(Router);
  private readonly sheets = inject(SheetReader);
  private readonly company = inject(CompanyService);
  protected readonly desk = inject(SheetDesk);
  private readonly grid = viewChild<FigureGrid<DeskRow>>(FigureGrid);
  protected readonly meaningNames = meaningNames;
  protected readonly meanings = meanings;
  protected readonly often = frequencies.map((every) => [every, frequencyInWords(every)] as const);
  protected readonly repaid = Object.entries(repaidWords) as [Repaid, string][];
  protected readonly counts = dayCountNames.map((name) => [name, dayCounts[name].title] as const);
  protected readonly tables = signal<readonly FileTable[]>([]);
  protected readonly failed = signal('');
  protected readonly reading = signal(false);
  protected readonly shown = signal<RowState | 'all'>('all');
  protected readonly taking = inject(TakingOn);
  /** The documents of a ZIP, where that was brought in place of a sheet. */
  protected readonly documents = signal<readonly PackedDocument[]>([]);
  private left = false;

  private readonly digits = computed(() => this.company.digits());
  protected readonly columns = computed(() => deskColumns(this.desk.pointing(), this.digits()));
  protected readonly rows = computed(() => {
    const shown = this.shown();
    const rows = this.desk.rows().filter((row) => shown === 'all' || stateOf(row) === shown);
    return deskRows(rows, this.digits());
  });
  protected readonly total = computed(() => deskTotals(this.desk.kept(), this.digits()));
  protected readonly evening = computed(() => eveningText(this.company.company()?.booksFrom ?? ''));
  protected readonly missing = computed(() => {
    const pointed = new Set(this.desk.pointing().values());
    return neededColumns(this.desk.pointing())
      .filter((meaning) => !pointed.has(meaning))
      .map((meaning) => meanings[meaning].title);
  });
  protected readonly states = computed(() => {
    const counts = this.desk.counts();
    const all: readonly (readonly [RowState | 'all', string, number])[] = [
      ['all', 'All', this.desk.rows().length],
      ['agrees', 'Agree', counts.agrees],
      ['differs', 'Differ', counts.differs],
      ['faulty', 'Faults', counts.faulty],
      ['left-out', 'Left out', counts['left-out']],
    ];
    return all.filter(([state, , many]) => state === 'all' || many > 0);
  });
  /** What is in the way of taking on; empty where nothing is. */
  protected readonly inTheWay = computed(() => {
    if (this.missing().length > 0) return `No column is pointed at ${this.missing().join(', ')}.`;
    const kept = this.desk.kept().length;
    if (kept === 0) return 'No row is kept.';
    if (kept > mostAtOnce)
      return `More than ${showNumber(mostAtOnce)} rows; leave some out, or bring the sheet in parts.`;
    if (this.desk.working()) return 'The rows are being worked out.';
    const { faulty } = this.desk.counts();
    return faulty === 0
      ? ''
      : `${faulty} ${faulty === 1 ? 'row has' : 'rows have'} faults: put them right or leave them out.`;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.left = true));
  }

  protected bring(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (file) this.read(file);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    const file = event.dataTransfer?.files[0];
    if (file) this.read(file);
  }

  private read(file: File): void {
    this.failed.set('');
    this.reading.set(true);
    this.sheets.open(file).subscribe({
      next: (content) => {
        if ('tables' in content) this.take(content.tables.filter(({ rows }) => rows.length > 0));
        else {
          this.reading.set(false);
          this.documents.set(content.documents);
        }
      },
      error: (error: unknown) => {
        this.reading.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }

  @HostListener('document:paste', ['$event'])
  protected onPaste(event: ClipboardEvent): void {
    if (event.target instanceof HTMLElement && event.target.matches('input, textarea')) return;
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (text.trim() === '') return;
    event.preventDefault();
    this.failed.set('');
    try {
      this.take([{ name: '', rows: rowsOfText(text) }]);
    } catch (error) {
      this.failed.set(messageOf(error));
    }
  }

  private take(tables: readonly FileTable[]): void {
    this.reading.set(false);
    this.tables.set(tables);
    const [first] = tables;
    if (first) this.desk.lay(first);
    if (!first || this.desk.rows().length === 0)
      this.failed.set('There is no row of two cells or more in it.');
  }

  protected lay(name: string): void {
    const table = this.tables().find((each) => each.name === name);
    if (table) this.desk.lay(table);
  }

  protected again(): void {
    this.documents.set([]);
    this.tables.set([]);
    this.desk.clear();
    this.failed.set('');
  }

  protected pointed(column: number): Meaning | '' {
    return this.desk.pointing().get(column) ?? '';
  }

  protected setOften(every: string): void {
    this.desk.set({ every: every as Frequency });
  }

  protected setRepaid(repaid: string): void {
    this.desk.set({ repaid: repaid as Repaid });
  }

  protected setDayCount(dayCount: string): void {
    this.desk.set({ dayCount: dayCount as DayCountName });
  }

  protected setDecimals(decimals: string): void {
    const { habits } = this.desk.settings();
    this.desk.set({ habits: { ...habits, decimals: decimals === 'comma' ? 'comma' : 'point' } });
  }

  protected setDates(dates: string): void {
    const { habits } = this.desk.settings();
    this.desk.set({ habits: { ...habits, dates: dates === 'month-first' ? 'month-first' : 'day-first' } });
  }

  protected onTyped({ row, column, text }: GridTyped<DeskRow>): void {
    if (row.type === 'item') this.desk.type(row.item.at, column.key as Meaning, text);
  }

  protected onAct({ row, key }: GridAct<DeskRow>): void {
    const at = Number.parseInt(row.id, 10);
    const found = this.desk.rows().find((each) => each.at === at);
    if (!found) return;
    if (key === 'mend' && found.outcome?.mend) this.desk.mend(at, found.outcome.mend);
    if (key === 'leave-out') this.desk.leaveOut(at, true);
  }

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) this.takeOn();
    else if (typing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'n') this.toNextFault();
    else if (event.key === 'x' && isInRows(event.target)) this.turnRow();
    else return;
    event.preventDefault();
  }

  /** The row under the cursor, as the table tells it. */
  private looked: DeskRow | undefined;

  protected onLook(row: { readonly type: string; readonly item?: DeskRow } | undefined): void {
    this.looked = row?.item;
  }

  private turnRow(): void {
    const row = this.looked && this.desk.rows()[this.looked.at];
    if (row) this.desk.leaveOut(row.at, !row.leftOut);
  }

  /** On to the next row that is faulty or differs, from the one under the cursor. */
  protected toNextFault(): void {
    const rows = this.desk.rows();
    const wanted = rows.filter((row) => ['faulty', 'differs'].includes(stateOf(row)));
    const next = wanted.find(({ at }) => at > (this.looked?.at ?? -1)) ?? wanted[0];
    if (!next) return;
    const meaning = Object.keys(next.outcome?.faults ?? {})[0];
    this.grid()?.reveal(String(next.at), meaning);
    this.grid()?.focus();
    this.looked = next;
  }

  protected takeOn(): void {
    if (this.taking.soFar() || this.documents().length > 0) return;
    if (this.inTheWay() !== '') {
      this.toNextFault();
      return;
    }
    const kept = this.desk.kept();
    this.failed.set('');
    this.taking.run(kept.flatMap(({ outcome }) => outcome?.document ?? [])).subscribe({
      next: () => {
        // Who left the page meanwhile stays where they are.
        if (!this.left) void this.router.navigateByUrl('/');
      },
      error: (error: unknown) => this.refuse(error, kept),
    });
  }

  /** Ends the call; the server takes on nothing then. */
  protected cancel(): void {
    this.taking.end();
    this.failed.set('Taking on was cancelled; nothing was taken on.');
  }

  private refuse(error: unknown, sent: readonly DeskRow[]): void {
    this.failed.set(messageOf(error));
    const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
    const byRow = new Map<number, Partial<Record<Meaning, string>>>();
    for (const { key, message } of faults) {
      const [, at = '', ...rest] = key.split('.');
      const row = sent[Number(at)];
      if (row) byRow.set(row.at, { ...byRow.get(row.at), [meaningOfKey(rest.join('.'))]: message });
    }
    this.desk.tell(byRow);
    if (byRow.size > 0) this.toNextFault();
  }

  /** A sheet to fill in, with a row of each kind that shows how. */
  protected template(): void {
    const columns = meaningNames.map((meaning) => meanings[meaning].title);
    const currency = this.company.company()?.currency ?? 'EUR';
    const lines = examplesIn(currency).map((example) =>
      meaningNames.map((meaning) => example[meaning] ?? ''),
    );
    const text = [columns, ...lines].map((row) => row.map((cell) => `"${cell}"`).join(',')).join('\r\n');
    saveFile('instruments-to-take-on.csv', new Blob([`\ufeff${text}\r\n`], { type: 'text/csv' }));
  }
}

/** Whether a key is pressed where the rows are: elsewhere it is not about the row under their cursor. */
function isInRows(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('coffer-figure-grid') !== null;
}

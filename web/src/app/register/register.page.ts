import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, switchMap, catchError, of, tap } from 'rxjs';
import {
  addMonths,
  explainPosition,
  formatDay,
  parseDay,
  type CalendarDay,
  type Explanation,
  type FigureLink,
  type PositionFigure,
} from '@coffer/core';
import { type RegisterRow, type RegisterView, showDay } from '@coffer/contract';
import { newKey } from '../api/api-client';
import { MaturityChart } from '../charts/maturity-chart';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { ExplainPanel } from '../explain/explain-panel';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { FigureGrid } from '../figures/figure-grid';
import { UnworkableNotice } from '../figures/unworkable-notice';
import type { GridChoice } from '../figures/grid-model';
import { InstrumentsService } from '../instrument/instruments.service';
import { messageOf } from '../api/message-of';
import { SessionService } from '../session/session.service';
import { RegisterService } from './register.service';
import { attentionWords, registerColumns, registerRows, sumCells, sumsOf } from './register-rows';

/** The register: every instrument on the as-of date, by class, with subtotals and the total. */
@Component({
  selector: 'coffer-register',
  imports: [
    UnworkableNotice,
    AmountPipe,
    DayPipe,
    DecimalPipe,
    ExplainPanel,
    FigureGrid,
    MatButtonModule,
    MaturityChart,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './register.page.html',
  styleUrl: './register.page.scss',
})
export class RegisterPage {
  private readonly register = inject(RegisterService);
  private readonly instruments = inject(InstrumentsService);
  private readonly company = inject(CompanyService);
  private readonly router = inject(Router);
  protected readonly session = inject(SessionService);
  protected readonly asOf = inject(AsOfService);
  protected readonly view = signal<RegisterView | undefined>(undefined);
  protected readonly failed = signal('');
  protected readonly imported = signal<{ message: string; faults: readonly string[] } | undefined>(undefined);
  protected readonly explained = signal<{ how: Explanation; row: string; column: string } | undefined>(
    undefined,
  );
  private readonly retries = signal(0);

  protected readonly attentionWords = attentionWords;
  protected readonly columns = computed(() => registerColumns(this.company.digits()));
  protected readonly rows = computed(() => registerRows(this.view()?.rows ?? [], this.company.digits()));
  protected readonly sums = computed(() => sumsOf(this.view()?.rows ?? []));
  protected readonly foot = computed(() => sumCells('All instruments', this.sums(), this.company.digits()));
  protected readonly currentShare = computed(() => {
    const { current, carrying } = this.sums();
    return carrying === 0 ? 0 : (100 * current) / carrying;
  });
  protected readonly yearOn = computed(() =>
    formatDay(addMonths(parseDay(this.asOf.date()) as CalendarDay, 12, true)),
  );

  /** Such as `31 Oct`. */
  protected readonly dayOfYear = computed(() => this.shortDay(this.asOf.date()));

  constructor() {
    combineLatest([this.asOf.date$, toObservable(this.retries)])
      .pipe(
        tap(() => this.explained.set(undefined)),
        switchMap(([date]) =>
          this.register.on(date).pipe(
            catchError((error: unknown) => {
              this.failed.set(messageOf(error));
              return of(undefined);
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((view) => {
        if (!view) return;
        this.failed.set('');
        this.view.set(view);
      });
  }

  protected shortDay(day: string): string {
    return showDay(day).replace(/ \d+$/, '');
  }

  protected retry(): void {
    this.retries.update((count) => count + 1);
  }

  protected onChoose({ row, column }: GridChoice<RegisterRow>): void {
    if (row.type !== 'item') return;
    const { id, version } = row.item;
    if (!(column.key in row.item.figures)) {
      void this.router.navigate(['/instruments', id]);
      return;
    }
    const on = parseDay(this.asOf.date()) as CalendarDay;
    this.instruments.open(id, version).subscribe(({ read }) => {
      const how = explainPosition(read.schedule, on, column.key as PositionFigure);
      this.explained.set({
        how: { ...how, title: `${row.item.name}: ${how.title}` },
        row: id,
        column: column.key,
      });
    });
  }

  protected follow(link: FigureLink): void {
    const place = link.to === 'terms' ? 'terms' : 'schedule';
    const queryParams = link.to === 'row' ? { row: link.row, column: link.column } : {};
    void this.router.navigate(['/instruments', this.explained()?.row, place], { queryParams });
  }

  protected async bringIn(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.imported.set(undefined);
    let document: unknown;
    try {
      document = JSON.parse(await file.text());
    } catch {
      this.imported.set({
        message: `${file.name} is not JSON, so it is no instrument document.`,
        faults: [],
      });
      return;
    }
    this.instruments.create(document, newKey()).subscribe({
      next: ({ id }) => void this.router.navigate(['/instruments', id]),
      error: (error: unknown) =>
        this.imported.set({ message: `${file.name}: ${messageOf(error)}`, faults: faultLines(error) }),
    });
  }
}

function faultLines(error: unknown): string[] {
  const { refusal } = error as { refusal?: { faults?: { key: string; message: string }[] } };
  return (refusal?.faults ?? []).map(({ key, message }) => (key ? `${key}: ${message}` : message));
}

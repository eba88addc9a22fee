import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
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
import { type RegisterRow, showDay } from '@coffer/contract';
import { newKey } from '../api/api-client';
import { loaded } from '../api/loaded';
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
import { NextSteps } from './next-steps';
import { RegisterService } from './register.service';
import { attentionLines } from './attention-lines';
import { registerColumns, registerRows, sumCells, sumsOf } from './register-rows';

/** The register: every instrument on the as-of date, by class, with subtotals and the total. */
@Component({
  selector: 'coffer-register',
  imports: [
    NextSteps,
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
  host: { '[class.behind]': 'loaded.behind()' },
})
export class RegisterPage {
  private readonly register = inject(RegisterService);
  private readonly instruments = inject(InstrumentsService);
  private readonly company = inject(CompanyService);
  private readonly router = inject(Router);
  protected readonly session = inject(SessionService);
  protected readonly asOf = inject(AsOfService);
  protected readonly loaded = loaded(
    computed(() => this.asOf.date() || undefined),
    (date) => this.register.on(date),
  );
  protected readonly view = this.loaded.value;
  protected readonly failed = this.loaded.failed;
  protected readonly imported = signal<{ message: string; faults: readonly string[] } | undefined>(undefined);
  protected readonly explained = signal<{ how: Explanation; row: string; column: string } | undefined>(
    undefined,
  );
  /** Lines of what needs attention that fit beside the totals. */
  protected readonly fewest = 4;
  protected readonly allAttention = signal(false);
  /** What somebody should see to: payments to record first, then what is near. */
  protected readonly attention = computed(() => {
    const { unrecorded = [], attention = [] } = this.view() ?? {};
    return attentionLines(unrecorded, attention);
  });
  protected readonly shownAttention = computed(() => {
    const all = this.attention();
    return this.allAttention() || all.length <= this.fewest ? all : all.slice(0, this.fewest - 1);
  });
  protected readonly columns = computed(() => registerColumns(this.company.digits()));
  protected readonly rows = computed(() =>
    registerRows(this.view()?.rows ?? [], this.company.digits(), this.company.company()?.classNames),
  );
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
    effect(() => {
      this.asOf.date();
      this.explained.set(undefined);
    });
  }

  protected shortDay(day: string): string {
    return showDay(day).replace(/ \d+$/, '');
  }

  protected retry(): void {
    this.loaded.again();
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

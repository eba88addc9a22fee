import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { Router } from '@angular/router';
import {
  addMonths,
  explainPosition,
  kindOf,
  parseDay,
  type CalendarDay,
  type Explanation,
  type FigureLink,
  type PositionFigure,
} from '@coffer/core';
import { Chart } from '../../charts/chart';
import { AsOfService } from '../../company/as-of.service';
import { CompanyService } from '../../company/company.service';
import { ExplainPanel } from '../../explain/explain-panel';
import { FigureGrid } from '../../figures/figure-grid';
import type { GridChoice, GridRow } from '../../figures/grid-model';
import { viewKindOf } from '../../kinds/view-kinds';
import { DayEntriesDialog, type DayOfEntries } from '../entries/day-entries.dialog';
import type { OpenInstrument } from '../instruments.service';
import { PositionPanel } from '../position/position-panel';
import { StretchTotals } from '../stretches/stretch-totals';
import { standsOn } from '../position/reported';
import { type Moment, asOfBand, rowId, type ScheduleRow } from './schedule-model';

/** The schedule: its picture, its rows with the period end among them, and how any figure is made. */
@Component({
  selector: 'coffer-schedule-tab',
  imports: [
    Chart,
    MatButtonModule,
    MatButtonToggleModule,
    ExplainPanel,
    FigureGrid,
    PositionPanel,
    StretchTotals,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './schedule-tab.html',
  styleUrls: ['../picture.scss', './schedule-tab.scss'],
  host: { '(document:keydown)': 'onKey($event)' },
})
export class ScheduleTab {
  readonly instrument = input.required<OpenInstrument>();
  /** A row and column to show at once, from a link. */
  readonly row = input<string | undefined>();
  readonly column = input<string | undefined>();
  private readonly asOf = inject(AsOfService);
  private readonly company = inject(CompanyService);
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialog);
  private readonly grid = viewChild<FigureGrid<ScheduleRow>>(FigureGrid);

  protected readonly schedule = computed(() => this.instrument().read.schedule);
  private readonly rowDays = computed(() => kindOf(this.schedule()).rowDays(this.schedule()));
  protected readonly on = computed(() => parseDay(this.asOf.date()) as CalendarDay);
  protected readonly model = computed(() => {
    const openTo = parseDay(this.company.openEnd() ?? this.asOf.date()) as CalendarDay;
    const { figures, version } = standsOn(this.instrument(), this.on());
    const moment: Moment = {
      on: this.on(),
      openFrom: addMonths(openTo, -1, true) + 1,
      openTo,
      reported: version === undefined ? undefined : figures,
    };
    const schedule = this.schedule();
    return viewKindOf(schedule).model(schedule, moment);
  });
  /** Picture that was chosen; kept from instrument to instrument. */
  protected readonly pictureName = signal('');
  protected readonly picture = computed(() => {
    const { pictures } = this.model();
    const chosen = pictures.find(({ name }) => name === this.pictureName()) ?? pictures[0];
    if (!chosen) throw new Error('A schedule has at least one picture.');
    return chosen;
  });
  protected readonly explained = signal<{ how: Explanation; row: string; column: string } | undefined>(
    undefined,
  );
  /** The band of the as-of date; where nothing is owed and so there is none, the last row before it. */
  private rowOfAsOf(): string {
    const { rows } = this.model();
    return (
      (rows.find(({ id }) => id === asOfBand) ?? rows.findLast((row) => row.type === 'item' && row.quiet))
        ?.id ?? asOfBand
    );
  }

  private looked: CalendarDay | undefined;
  protected readonly markedBar = signal<number | undefined>(undefined);
  protected readonly markedRow = computed(() => {
    const at = this.markedBar();
    const index = at === undefined ? undefined : this.picture().rows[at];
    return index === undefined ? undefined : rowId(index);
  });

  constructor() {
    // The as-of date, or a link, brings its row into view; the explanation no longer fits and goes.
    effect(() => {
      const [grid, row, column] = [this.grid(), this.row(), this.column()];
      this.model();
      if (!grid) return;
      untracked(() => {
        this.explained.set(undefined);
        setTimeout(() => {
          if (row === undefined) grid.reveal(this.rowOfAsOf());
          else this.showFigure(Number(row), column ?? '');
        });
      });
    });
  }

  protected onChoose({ row, column }: GridChoice<ScheduleRow>): void {
    if (row.type === 'band') this.explain(-1, 'accruedInterest', asOfBand);
    if (row.type === 'item' && column.explains) this.explain(row.item.index, column.key, row.id);
  }

  protected onLook(row: GridRow<ScheduleRow> | undefined): void {
    this.looked = row?.type === 'item' ? this.rowDays()[row.item.index] : undefined;
    const at = row?.type === 'item' ? this.picture().rows.indexOf(row.item.index) : -1;
    this.markedBar.set(at < 0 ? undefined : at);
  }

  /** One key shows the entries of the row under the cursor, or of the as-of date. */
  protected onKey(event: KeyboardEvent): void {
    const typing =
      event.target instanceof Element && event.target.closest('input, textarea, [role=dialog], [role=menu]');
    if (event.key !== 'e' || event.ctrlKey || event.metaKey || event.altKey || typing) return;
    event.preventDefault();
    this.showEntries();
  }

  protected showEntries(): void {
    const { read, accounts } = this.instrument();
    const data = {
      name: read.document.name,
      schedule: read.schedule,
      day: this.looked ?? this.on(),
      accounts,
    };
    this.dialog.open<DayEntriesDialog, DayOfEntries>(DayEntriesDialog, { data, width: '560px' });
  }

  protected onPick(bar: number): void {
    const index = this.picture().rows[bar];
    if (index !== undefined) this.grid()?.reveal(rowId(index));
  }

  protected explainPosition(figure: PositionFigure): void {
    this.explained.set({ how: explainPosition(this.schedule(), this.on(), figure), row: '', column: figure });
  }

  protected follow(link: FigureLink): void {
    if (link.to === 'row') this.showFigure(link.row, link.column);
    else void this.router.navigate(['/instruments', this.instrument().id, 'terms']);
  }

  protected showRow(index: number): void {
    this.grid()?.reveal(rowId(index));
  }

  private showFigure(index: number, column: string): void {
    this.grid()?.reveal(rowId(index), column);
    this.explain(index, column, rowId(index));
  }

  private explain(index: number, column: string, row: string): void {
    const how = this.model().explain(index, column);
    if (how) this.explained.set({ how, row, column });
  }
}

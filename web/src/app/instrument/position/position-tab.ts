import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  viewChild,
  effect,
} from '@angular/core';
import { addMonths, firstDay, formatDay, lastDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import { columnTitles, showAmount, showDay, type FiguresView } from '@coffer/contract';
import { Chart } from '../../charts/chart';
import { AsOfService } from '../../company/as-of.service';
import { FigureGrid } from '../../figures/figure-grid';
import type { GridChoice, GridColumn, GridRow } from '../../figures/grid-model';
import { viewKindOf } from '../../kinds/view-kinds';
import type { OpenInstrument } from '../instruments.service';
import { positionPicture } from './position-picture';
import { isKnownOtherwise, nowText, standsOn, type Stands } from './reported';

interface MonthEnd {
  readonly on: CalendarDay;
  /** As reported where the month is closed. */
  readonly stands: Stands;
  /** The row beneath a closed month whose figures are known otherwise now. */
  readonly asKnownNow: boolean;
}

type Figure =
  | 'outstanding'
  | 'accruedInterest'
  | 'unpaidInterest'
  | 'deferredCosts'
  | 'overpaid'
  | 'carrying'
  | 'current'
  | 'nonCurrent';

/** Where the instrument stands at every month end of its life; choosing one moves the as-of date there. */
@Component({
  selector: 'coffer-position-tab',
  imports: [Chart, FigureGrid],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet picture" aria-label="What is carried at month ends">
      <div class="legend">
        <h3>At month ends</h3>
        <span class="principal"><span class="swatch" aria-hidden="true"></span>carrying amount</span>
        <span class="plain"><span class="swatch" aria-hidden="true"></span>current portion</span>
        <span class="dim paid">upright: as of</span>
      </div>
      <coffer-chart [words]="picture().words" [option]="picture().option" (pick)="onPick($event)" />
    </section>
    <coffer-figure-grid
      label="Position at every month end"
      [columns]="columns()"
      [rows]="rows()"
      [rowHeight]="30"
      [minWidth]="780"
      [marked]="marked()"
      (choose)="onChoose($event)"
    />
  `,
  styleUrl: '../picture.scss',
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
export class PositionTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly asOf = inject(AsOfService);
  private readonly grid = viewChild<FigureGrid<MonthEnd>>(FigureGrid);
  protected readonly marked = computed(() => this.asOf.date());
  private readonly schedule = computed(() => this.instrument().read.schedule);

  protected readonly rows = computed((): GridRow<MonthEnd>[] => {
    const first = monthEnd(firstDay(this.schedule()));
    const last = monthEnd(lastDay(this.schedule()));
    const rows: GridRow<MonthEnd>[] = [];
    for (let on = first; on <= last; on = addMonths(on, 1, true)) {
      const stands = standsOn(this.instrument(), on);
      rows.push({ type: 'item', id: formatDay(on), item: { on, stands, asKnownNow: false } });
      if (isKnownOtherwise(stands)) {
        const id = `${formatDay(on)} now`;
        rows.push({ type: 'item', id, item: { on, stands, asKnownNow: true }, quiet: true });
      }
    }
    return rows;
  });

  protected readonly columns = computed((): GridColumn<MonthEnd>[] => {
    const schedule = this.schedule();
    const { digits } = schedule.terms;
    // Beneath a closed month only what is known otherwise now, and by how much.
    const told = ({ stands, asKnownNow }: MonthEnd, of: (at: FiguresView) => number): string => {
      const reported = of(stands.figures);
      if (!asKnownNow) return showAmount(reported, digits);
      const now = of(stands.now);
      return now === reported ? '' : nowText(now, reported, digits);
    };
    const figure = (key: Figure, title: string, tone?: 'interest'): GridColumn<MonthEnd> => ({
      key,
      title,
      align: 'right',
      track: 'minmax(110px, 1fr)',
      ...(tone && { tone }),
      cell: (end) => told(end, (at) => at[key]),
    });
    const accrued: GridColumn<MonthEnd> = {
      ...figure('accruedInterest', 'Accrued', 'interest'),
      cell: (end) => told(end, ({ accruedInterest, accruedFee }) => accruedInterest + accruedFee),
    };
    const kind = viewKindOf(schedule);
    const unpaid = columnTitles(schedule)['unpaidInterest'];
    const unamortized: GridColumn<MonthEnd> = {
      key: 'unamortized',
      title: 'Unamortized',
      align: 'right',
      track: 'minmax(110px, 1fr)',
      // A premium stands with a minus: it adds to the face where a discount and costs take from it.
      cell: (end) => told(end, ({ outstanding, carrying }) => outstanding - carrying),
    };
    return [
      {
        key: 'on',
        title: 'Month end',
        align: 'left',
        track: '120px',
        cell: ({ on, asKnownNow }) => (asKnownNow ? 'as known now' : showDay(on)),
      },
      figure('outstanding', kind.words.owed),
      ...(kind.carriedApart ? [unamortized, figure('carrying', 'Carrying')] : []),
      accrued,
      ...(unpaid === undefined ? [] : [figure('unpaidInterest', unpaid)]),
      figure('current', 'Current'),
      figure('nonCurrent', 'Non-current'),
      ...(kind.costsDeferred(schedule) ? [figure('deferredCosts', 'Costs deferred')] : []),
      ...(kind.overpays(schedule) ? [figure('overpaid', 'Overpaid')] : []),
    ];
  });

  constructor() {
    effect(() => {
      const [grid, date] = [this.grid(), this.asOf.date()];
      if (grid && parseDay(date) !== undefined) setTimeout(() => grid.reveal(date));
    });
  }

  protected readonly picture = computed(() =>
    positionPicture(
      this.schedule(),
      this.rows().flatMap((row) => (row.type === 'item' ? [row.item.on] : [])),
      parseDay(this.asOf.date()) ?? 0,
    ),
  );

  protected onPick(at: number): void {
    const day = this.picture().days[at];
    if (day !== undefined) this.asOf.choose(formatDay(day));
  }

  protected onChoose({ row }: GridChoice<MonthEnd>): void {
    if (row.type === 'item') this.asOf.choose(formatDay(row.item.on));
  }
}

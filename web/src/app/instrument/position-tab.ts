import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  viewChild,
  effect,
} from '@angular/core';
import {
  addMonths,
  firstDay,
  formatDay,
  lastDay,
  monthEnd,
  parseDay,
  position,
  type CalendarDay,
} from '@coffer/core';
import { showAmount, showDay } from '@coffer/contract';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { FigureGrid } from '../figures/figure-grid';
import type { GridChoice, GridColumn, GridRow } from '../figures/grid-model';
import type { OpenInstrument } from './instruments.service';
import { positionPicture } from './position-picture';
import { unpaidTitle } from './unpaid-name';

interface MonthEnd {
  readonly on: CalendarDay;
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
  styleUrl: './picture.scss',
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 10px;
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
      rows.push({ type: 'item', id: formatDay(on), item: { on } });
    }
    return rows;
  });

  protected readonly columns = computed((): GridColumn<MonthEnd>[] => {
    const schedule = this.schedule();
    const { digits } = schedule.terms;
    const figure = (key: Figure, title: string, tone?: 'interest'): GridColumn<MonthEnd> => ({
      key,
      title,
      align: 'right',
      track: 'minmax(110px, 1fr)',
      ...(tone && { tone }),
      cell: ({ on }) => showAmount(position(schedule, on)[key], digits),
    });
    const accrued: GridColumn<MonthEnd> = {
      ...figure('accruedInterest', 'Accrued', 'interest'),
      cell: ({ on }) => {
        const { accruedInterest, accruedFee } = position(schedule, on);
        return showAmount(accruedInterest + accruedFee, digits);
      },
    };
    const line = schedule.kind === 'loan' && schedule.terms.creditLine !== undefined;
    const costsAside = line && schedule.terms.issueCosts ? [figure('deferredCosts', 'Costs deferred')] : [];
    const overpaid =
      schedule.kind === 'loan' && schedule.overpaid.some((amount) => amount > 0)
        ? [figure('overpaid', 'Overpaid')]
        : [];
    const bond = schedule.kind === 'bond';
    const unamortized: GridColumn<MonthEnd> = {
      key: 'unamortized',
      title: 'Unamortized',
      align: 'right',
      track: 'minmax(110px, 1fr)',
      // A premium stands with a minus: it adds to the face where a discount and costs take from it.
      cell: ({ on }) => {
        const at = position(schedule, on);
        return showAmount(at.outstanding - at.carrying, digits);
      },
    };
    return [
      { key: 'on', title: 'Month end', align: 'left', track: '120px', cell: ({ on }) => showDay(on) },
      figure('outstanding', bond ? 'Face' : 'Outstanding'),
      ...(bond ? [unamortized, figure('carrying', 'Carrying')] : []),
      accrued,
      ...(schedule.kind === 'bond' ? [] : [figure('unpaidInterest', unpaidTitle(schedule))]),
      figure('current', 'Current'),
      figure('nonCurrent', 'Non-current'),
      ...costsAside,
      ...overpaid,
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
    if (row.type === 'item') this.asOf.choose(row.id);
  }
}

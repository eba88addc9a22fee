import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type BondSchedule, compareMethods, type MethodsOfRow, type MinorUnits } from '@coffer/core';
import { showAmount, showDay, showRate } from '@coffer/contract';
import { FigureGrid } from '../figures/figure-grid';
import type { GridColumn, GridRow } from '../figures/grid-model';
import type { OpenInstrument } from './instruments.service';

/** Effective interest and straight-line side by side, so that it can be judged whether they are close enough. */
@Component({
  selector: 'coffer-methods-tab',
  imports: [FigureGrid],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet said">
      <p>{{ summary() }}</p>
      <p class="dim">
        Straight-line may be used where the result does not differ materially from effective interest (ASC
        835-30-35-4); IFRS 9 asks for effective interest.
      </p>
    </section>
    <coffer-figure-grid
      label="Both methods"
      [columns]="columns()"
      [rows]="rows()"
      [rowHeight]="30"
      [minWidth]="780"
      [total]="total()"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
      gap: var(--space-7);
    }
    .said {
      padding: var(--space-5) var(--space-7);
    }
    p {
      max-width: 78ch;
    }
  `,
})
export class MethodsTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly schedule = computed(() => this.instrument().read.schedule as BondSchedule);
  private readonly compared = computed(() => compareMethods(this.schedule()));

  protected readonly summary = computed(() => {
    const { farthest, farthestCarrying } = this.compared();
    const { terms } = this.schedule();
    const money = (minor: MinorUnits): string => showAmount(minor, terms.digits);
    const books =
      terms.method === 'effective' ? 'The books use effective interest.' : 'The books use straight-line.';
    if (!farthest || (farthest.difference === 0 && farthestCarrying === 0)) {
      return `${books} Both methods give the same in every period.`;
    }
    const share = percent(farthest.difference, farthest.effective);
    return (
      `${books} The two are farthest apart in ${nameOf(farthest)}, by ${money(Math.abs(farthest.difference))}, ` +
      `${share} of its expense. The carrying amounts never differ by more than ${money(farthestCarrying)}.`
    );
  });

  protected readonly rows = computed((): GridRow<MethodsOfRow>[] =>
    this.compared().rows.map((item) => ({ type: 'item', id: String(item.index), item })),
  );

  protected readonly total = computed(() => {
    const { rows } = this.compared();
    const sum = (of: 'effective' | 'straightLine' | 'difference'): string =>
      showAmount(
        rows.reduce((total, row) => total + row[of], 0),
        this.schedule().terms.digits,
      );
    return {
      due: 'In all',
      effective: sum('effective'),
      straightLine: sum('straightLine'),
      difference: sum('difference'),
    };
  });

  protected readonly columns = computed((): GridColumn<MethodsOfRow>[] => {
    const { digits } = this.schedule().terms;
    const figure = (
      key: 'effective' | 'straightLine' | 'difference' | 'carryingDifference',
      title: string,
      tone?: 'interest',
    ): GridColumn<MethodsOfRow> => ({
      key,
      title,
      align: 'right',
      track: 'minmax(120px, 1fr)',
      ...(tone && { tone }),
      cell: (row) => showAmount(row[key], digits),
    });
    return [
      {
        key: 'n',
        title: 'No.',
        align: 'right',
        track: '64px',
        cell: ({ n }) => (n === 0 ? 'redeem' : String(n)),
      },
      { key: 'due', title: 'Date', align: 'left', track: '110px', cell: ({ due }) => showDay(due) },
      figure('effective', 'Effective interest', 'interest'),
      figure('straightLine', 'Straight-line', 'interest'),
      figure('difference', 'Difference'),
      {
        key: 'share',
        title: 'Of the expense',
        align: 'right',
        track: 'minmax(110px, 0.8fr)',
        cell: (row) => percent(row.difference, row.effective),
      },
      figure('carryingDifference', 'Carrying differs by'),
    ];
  });
}

function nameOf({ n, due }: MethodsOfRow): string {
  return n === 0 ? `the redemption of ${showDay(due)}` : `coupon period ${n}`;
}

function percent(part: number, whole: number): string {
  return whole === 0 ? '–' : showRate(`${((100 * Math.abs(part)) / Math.abs(whole)).toFixed(2)}%`);
}

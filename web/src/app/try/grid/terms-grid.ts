import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { debounceTime, EMPTY, map, startWith, switchMap } from 'rxjs';
import { loanOutcome, type LoanSchedule } from '@coffer/core';
import type { LoanDocument, Meanwhile, TermsChange } from '@coffer/contract';
import { FigureGrid } from '../../figures/figure-grid';
import type { GridChoice, GridColumn, GridRow } from '../../figures/grid-model';
import { ChoiceField } from '../../fields/choice-field';
import { TypedField } from '../../fields/typed-field';
import { axisValues, type TypedAxis } from './axis-values';
import { againstChoices } from '../change-in-words';
import {
  differenceCell,
  firstAxes,
  gridCell,
  gridFigures,
  isNow,
  shadeRange,
  termNames,
  valueText,
  type GridFigure,
} from './grid-figures';
import type { TriedCell, VariedTerm } from '../tried';
import { varied } from '../try-out';
import { TryOutService } from '../try-out.service';

interface GridLine {
  readonly at: number;
  readonly cells: readonly TriedCell[];
}

const axisForm = (axis: TypedAxis): FormGroup<{ [Key in keyof TypedAxis]: FormControl<TypedAxis[Key]> }> =>
  new FormGroup({
    term: new FormControl(axis.term, { nonNullable: true }),
    from: new FormControl(axis.from, { nonNullable: true }),
    to: new FormControl(axis.to, { nonNullable: true }),
    by: new FormControl(axis.by, { nonNullable: true }),
  });

/** Two terms varied over ranges on top of a variant: a table of what each pair comes to, shaded by size. */
@Component({
  selector: 'coffer-terms-grid',
  imports: [ChoiceField, FigureGrid, MatProgressBarModule, ReactiveFormsModule, TypedField],
  providers: [TryOutService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './terms-grid.html',
  styleUrl: './terms-grid.scss',
})
export class TermsGrid {
  readonly schedule = input.required<LoanSchedule>();
  readonly document = input.required<LoanDocument>();
  readonly change = input.required<TermsChange>();
  readonly letter = input.required<string>();
  /** A cell was chosen: the change it stands for. */
  readonly kept = output<TermsChange>();
  private readonly worker = inject(TryOutService);
  private readonly rows = signal<readonly GridLine[]>([]);
  protected readonly form = new FormGroup({
    down: axisForm({ term: 'annual', from: '', to: '', by: '' }),
    across: axisForm({ term: 'amount', from: '', to: '', by: '' }),
    figure: new FormControl<GridFigure>('payment', { nonNullable: true }),
    against: new FormControl<Meanwhile | ''>('', { nonNullable: true }),
  });
  protected readonly againstChoices = againstChoices;
  protected readonly figures = gridFigures.map(({ key, name }) => [key, name] as const);
  protected readonly terms = Object.entries(termNames);
  protected readonly typed = toSignal(
    this.form.valueChanges.pipe(
      startWith(undefined),
      map(() => this.form.getRawValue()),
    ),
    { requireSync: true },
  );
  protected readonly digits = computed(() => this.schedule().terms.digits);
  protected readonly down = computed(() => axisValues(this.typed().down, this.digits()));
  protected readonly across = computed(() => axisValues(this.typed().across, this.digits()));
  protected readonly downFault = computed(() => this.faultOf('down'));
  protected readonly acrossFault = computed(() => this.faultOf('across'));
  private readonly asked = computed(() => {
    const [down, across] = [this.down(), this.across()];
    const { down: typedDown, across: typedAcross, against } = this.typed();
    if ('fault' in down || 'fault' in across || this.downFault() || this.acrossFault()) return undefined;
    return {
      down: { term: typedDown.term, values: down.values },
      across: { term: typedAcross.term, values: across.values },
      document: this.document(),
      change: this.change(),
      against: against === '' ? undefined : { ...this.change(), meanwhile: against },
    };
  });
  protected readonly done = computed(() => {
    const down = this.asked()?.down.values.length ?? 0;
    return down === 0 ? 100 : (100 * this.rows().length) / down;
  });
  private readonly range = computed(() =>
    shadeRange(
      this.rows().flatMap(({ cells }) => cells),
      this.typed().figure,
    ),
  );
  protected readonly now = computed(() => {
    const { figure } = this.typed();
    return gridCell(loanOutcome(this.schedule()), figure, undefined, this.digits()).text;
  });
  protected readonly columns = computed((): GridColumn<GridLine>[] => {
    const asked = this.asked();
    const { figure } = this.typed();
    if (!asked) return [];
    const [range, digits, schedule] = [this.range(), this.digits(), this.schedule()];
    return [
      {
        key: 'value',
        title: `${termNames[asked.down.term]} ↓  ${termNames[asked.across.term]} →`,
        align: 'left',
        track: 'minmax(116px, 1.2fr)',
        cell: ({ at }) => valueText(schedule, asked.down.term, asked.down.values[at] ?? ''),
      },
      ...asked.across.values.map((value, at): GridColumn<GridLine> => ({
        key: String(at),
        title: valueText(schedule, asked.across.term, value),
        align: 'right',
        // Room for the mark of the value as it is now.
        track: isNow(schedule, asked.across.term, value) ? 'minmax(112px, 1fr)' : 'minmax(86px, 1fr)',
        explains: true,
        ...(figure === 'interest' && { tone: 'interest' as const }),
        cell: ({ cells }) =>
          asked.against
            ? differenceCell(cells[at], figure, range, digits)
            : gridCell(cells[at], figure, range, digits),
      })),
    ];
  });
  protected readonly lines = computed((): GridRow<GridLine>[] =>
    this.rows().map((item) => ({ type: 'item', id: String(item.at), item })),
  );
  protected readonly minWidth = computed(() => 120 + 88 * (this.columns().length - 1));

  /** Why, where no pair at all can be. */
  protected readonly impossible = computed(() => {
    const cells = this.rows().flatMap((row) => row.cells);
    const [first] = cells;
    return typeof first === 'string' && cells.every((cell) => typeof cell === 'string') ? first : '';
  });

  constructor() {
    effect(() => {
      const axes = firstAxes(this.schedule());
      untracked(() => this.form.patchValue(axes));
    });
    toObservable(this.asked)
      .pipe(
        debounceTime(200),
        switchMap((asked) => {
          this.rows.set([]);
          return asked ? this.worker.grid(asked.document, asked) : EMPTY;
        }),
        takeUntilDestroyed(),
      )
      .subscribe((row) => this.rows.update((rows) => [...rows, row]));
    this.form.controls.down.controls.term.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe((term) => this.begin('down', term));
    this.form.controls.across.controls.term.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe((term) => this.begin('across', term));
  }

  /** Another term begins with values around what it is now. */
  private begin(side: 'down' | 'across', term: VariedTerm): void {
    const { from, to, by } = firstAxes(this.schedule(), term).down;
    this.form.controls[side].patchValue({ from, to, by });
  }

  private faultOf(side: 'down' | 'across'): string {
    const axis = side === 'down' ? this.down() : this.across();
    if ('fault' in axis) return axis.fault;
    const { down, across } = this.typed();
    return side === 'across' && down.term === across.term ? 'Take another term than the one downwards.' : '';
  }

  protected onChoose({ row, column }: GridChoice<GridLine>): void {
    const asked = this.asked();
    if (row.type !== 'item' || !asked || column.key === 'value') return;
    const at = Number(column.key);
    if (typeof row.item.cells[at] === 'string') return;
    this.kept.emit({
      ...asked.change,
      ...varied(asked.down, asked.down.values[row.item.at] ?? ''),
      ...varied(asked.across, asked.across.values[at] ?? ''),
    });
  }
}

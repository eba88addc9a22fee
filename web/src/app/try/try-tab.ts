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
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { debounceTime, map, switchMap } from 'rxjs';
import { loanOutcome, balanceCurve, parseDay, type LoanSchedule } from '@coffer/core';
import type { LoanDocument, TermsChange } from '@coffer/contract';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import type { OpenInstrument } from '../instrument/instruments.service';
import { SessionService } from '../session/session.service';
import { AdoptDialog, type Adoption } from './adopt.dialog';
import { changeInWords } from './change-in-words';
import { comparedLines } from './comparison';
import { curvesChart } from './curves-chart';
import { TermsGrid } from './grid/terms-grid';
import type { Tried } from './tried';
import { TryOutService } from './try-out.service';
import { noChange, readChange, typedOf, type TypedChange, type TypedVariant } from './typed-variant';
import { changeForm, VariantForm } from './variant-form';
import { VariantsKeeper } from './variants-keeper';

const letters = ['A', 'B', 'C', 'D', 'E', 'F'];

/** Tries changes of a loan: several side by side with their balance curves, or two terms varied over a grid. */
@Component({
  selector: 'coffer-try-tab',
  imports: [Chart, MatButtonModule, MatButtonToggleModule, TermsGrid, VariantForm],
  providers: [TryOutService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './try-tab.html',
  styleUrls: ['./trying.scss', './try-tab.scss'],
})
export class TryTab {
  readonly instrument = input.required<OpenInstrument>();
  /** A variant became the terms; what was done, in words. */
  readonly adopted = output<string>();
  private readonly keeper = inject(VariantsKeeper);
  private readonly worker = inject(TryOutService);
  private readonly asOf = inject(AsOfService);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly form = changeForm();
  protected readonly shown = signal<'variants' | 'grid'>('variants');
  protected readonly variants = signal<readonly TypedVariant[]>([]);
  protected readonly chosen = signal('A');
  private readonly tried = signal<readonly Tried[]>([]);

  protected readonly document = computed(() => this.instrument().read.document as LoanDocument);
  protected readonly schedule = computed(() => this.instrument().read.schedule as LoanSchedule);
  protected readonly original = computed(() => loanOutcome(this.schedule()));
  protected readonly typed = toSignal(this.form.valueChanges.pipe(map(() => this.form.getRawValue())), {
    initialValue: noChange,
  });
  protected readonly read = computed(() => this.variants().map(({ typed }) => readChange(typed)));
  /** Each variant with what it changes, in words. */
  protected readonly columns = computed(() =>
    this.variants().map(({ letter }, at) => {
      const reading = this.read()[at];
      const tried = this.tried()[at];
      const faulty = (reading?.faults.length ?? 0) > 0 || tried?.ok === false;
      const words = reading ? changeInWords(reading.change) : '';
      return { letter, words: words || 'nothing changed yet', faulty, chosen: letter === this.chosen() };
    }),
  );
  protected readonly lines = computed(() =>
    comparedLines(
      this.original(),
      this.variants().map((_, at) => (this.columns()[at]?.faulty ? undefined : this.tried()[at])),
      this.schedule().terms.digits,
    ),
  );
  protected readonly curves = computed(() => [
    { letter: '', points: balanceCurve(this.schedule()), chosen: false },
    ...this.columns().flatMap(({ letter, chosen, faulty }, at) => {
      const tried = this.tried()[at];
      return tried?.ok && !faulty ? [{ letter, points: tried.curve, chosen }] : [];
    }),
  ]);
  protected readonly option = computed(() =>
    curvesChart(this.curves(), parseDay(this.asOf.date()) ?? 0, this.schedule().terms.digits),
  );
  protected readonly chosenChange = computed((): TermsChange => {
    const at = this.variants().findIndex(({ letter }) => letter === this.chosen());
    return this.read()[at]?.change ?? {};
  });
  /** Faults of the chosen variant that belong to no field of it. */
  protected readonly elsewhere = computed(() => this.chosenFaults().filter(({ key }) => !(key in noChange)));
  protected readonly adoptable = computed(() => {
    const column = this.columns().find(({ chosen }) => chosen);
    return column !== undefined && !column.faulty && changeInWords(this.chosenChange()) !== '';
  });

  constructor() {
    effect(() => {
      const { id } = this.instrument();
      untracked(() => {
        this.variants.set(this.keeper.restore(id));
        this.choose(this.variants()[0]?.letter ?? 'A');
      });
    });
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => {
      const typed = this.form.getRawValue();
      this.set(this.variants().map((each) => (each.letter === this.chosen() ? { ...each, typed } : each)));
    });
    const asked = computed(() => ({ document: this.document(), read: this.read() }));
    toObservable(asked)
      .pipe(
        debounceTime(0),
        switchMap(({ document, read }) =>
          this.worker.changes(
            document,
            read.map(({ change }) => change),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((tried) => this.tried.set(tried));
  }

  private chosenFaults(): readonly { key: string; message: string }[] {
    const at = this.variants().findIndex(({ letter }) => letter === this.chosen());
    const tried = this.tried()[at];
    const unread = this.read()[at]?.faults ?? [];
    return unread.length > 0 ? unread : tried?.ok === false ? tried.faults : [];
  }

  protected readonly fault = (key: string): string =>
    this.chosenFaults().find((fault) => fault.key === key)?.message ?? '';

  private set(variants: readonly TypedVariant[]): void {
    this.variants.set(variants);
    this.keeper.keep(this.instrument().id, variants);
  }

  protected choose(letter: string): void {
    this.chosen.set(letter);
    const variant = this.variants().find((each) => each.letter === letter);
    // The form follows the chosen variant: filling it in is no change of it.
    this.form.reset(variant?.typed ?? noChange);
  }

  protected readonly freeLetter = computed(() =>
    letters.find((letter) => !this.variants().some((each) => each.letter === letter)),
  );

  /** Another variant beside the others, as a copy of one or as given. */
  protected add(typed: TypedChange = noChange): void {
    const letter = this.freeLetter();
    if (letter === undefined) return;
    this.set([...this.variants(), { letter, typed }]);
    this.choose(letter);
  }

  protected copy(): void {
    this.add(this.form.getRawValue());
  }

  protected remove(): void {
    const rest = this.variants().filter(({ letter }) => letter !== this.chosen());
    this.set(rest.length > 0 ? rest : [{ letter: 'A', typed: noChange }]);
    this.choose(this.variants()[0]?.letter ?? 'A');
  }

  /** A cell of the grid becomes a variant: in place of the chosen one where that changes nothing yet. */
  protected keepCell(change: TermsChange): void {
    const typed = typedOf(change);
    if (changeInWords(this.chosenChange()) === '') this.form.setValue(typed);
    else this.add(typed);
    this.shown.set('variants');
  }

  protected adopt(): void {
    const data: Adoption = {
      instrument: this.instrument(),
      change: this.chosenChange(),
      letter: this.chosen(),
    };
    this.dialog
      .open<AdoptDialog, Adoption, string>(AdoptDialog, { data, width: '520px' })
      .afterClosed()
      .subscribe((said) => {
        if (said === undefined) return;
        this.remove();
        this.adopted.emit(said);
      });
  }
}

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
import { messageOf } from '../api/message-of';
import { AdoptDialog } from '../scenarios/adopt.dialog';
import { NameDialog } from '../scenarios/name.dialog';
import { ScenarioDesk, type DeskScenario } from '../scenarios/scenario-desk';
import { wordsOf } from '../scenarios/scenario-words';
import { comparedLines } from './comparison';
import { curvesChart } from './curves-chart';
import { TermsGrid } from './grid/terms-grid';
import type { Tried } from './tried';
import { TryOutService } from './try-out.service';
import { noChange, readChange, typedOf } from './typed-variant';
import { changeForm, VariantForm } from './variant-form';
import { typedVariant, Variants } from './variants';

/** Tries changes of a loan: several side by side with their balance curves, or two terms varied over a grid. */
@Component({
  selector: 'coffer-try-tab',
  imports: [Chart, MatButtonModule, MatButtonToggleModule, TermsGrid, VariantForm],
  providers: [TryOutService, Variants],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './try-tab.html',
  styleUrls: ['./trying.scss', './try-tab.scss'],
})
export class TryTab {
  readonly instrument = input.required<OpenInstrument>();
  /** A variant became the terms; what was done, in words. */
  readonly adopted = output<string>();
  protected readonly variants = inject(Variants);
  private readonly desk = inject(ScenarioDesk);
  private readonly worker = inject(TryOutService);
  private readonly asOf = inject(AsOfService);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly form = changeForm();
  protected readonly shown = signal<'variants' | 'grid'>('variants');
  protected readonly failed = signal('');
  private readonly tried = signal<readonly Tried[]>([]);

  protected readonly document = computed(() => this.instrument().read.document as LoanDocument);
  protected readonly schedule = computed(() => this.instrument().read.schedule as LoanSchedule);
  protected readonly original = computed(() => loanOutcome(this.schedule()));
  private readonly changed = toSignal(this.form.valueChanges.pipe(map(() => ({}))), { initialValue: {} });
  /** Goes up as the form is filled in for another variant. */
  private readonly filled = signal(0);
  protected readonly typed = computed(() => {
    this.changed();
    this.filled();
    return this.form.getRawValue();
  });
  /** What is typed, read; while it cannot be read the scenario stays as it was. */
  private readonly reading = computed(() => readChange(this.typed()));
  /** Each variant with what it changes, in words. */
  protected readonly columns = computed(() =>
    this.variants.all().map(({ letter, scenario, ways }, at) => {
      const chosen = scenario.key === this.variants.chosenKey();
      const tried = this.tried()[at];
      const faulty = (chosen && this.reading().faults.length > 0) || tried?.ok === false;
      const { key, name, draft } = scenario;
      const others = scenario.changes.length - 1;
      const words = wordsOf(ways) || 'nothing changed yet';
      return { key, letter, name, draft, words, others, faulty, chosen };
    }),
  );
  protected readonly lines = computed(() =>
    comparedLines(
      this.original(),
      this.columns().map(({ faulty }, at) => (faulty ? undefined : this.tried()[at])),
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
  protected readonly chosenChange = computed((): TermsChange => this.variants.chosen()?.ways.change ?? {});
  protected readonly letter = computed(() => this.variants.chosen()?.letter ?? 'A');
  /** Faults of the chosen variant that belong to no field of it. */
  protected readonly elsewhere = computed(() => this.chosenFaults().filter(({ key }) => !(key in noChange)));
  protected readonly keepable = computed(() => {
    const column = this.columns().find(({ chosen }) => chosen);
    return column !== undefined && !column.faulty && column.words !== 'nothing changed yet';
  });

  constructor() {
    this.desk.load().subscribe({
      next: () => {
        if (!this.variants.chosen()) this.variants.open(this.instrument());
      },
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
    effect(() => {
      const instrument = this.instrument();
      untracked(() => this.variants.open(instrument));
    });
    effect(() => {
      this.variants.chosenKey();
      // The form follows the chosen variant: filling it in is no change of it.
      untracked(() => {
        const typed = typedVariant(this.variants.chosen());
        const same = JSON.stringify(this.reading().change) === JSON.stringify(readChange(typed).change);
        if (!same || this.reading().faults.length > 0) this.form.reset(typed, { emitEvent: false });
        this.filled.update((count) => count + 1);
      });
    });
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => {
      const { change, faults } = readChange(this.form.getRawValue());
      const nothing = Object.keys(change).length === 0;
      if (faults.length > 0 || (nothing && !this.variants.chosen())) return;
      this.variants.set(change);
    });
    const asked = computed(() => ({
      document: this.document(),
      changes: this.variants.all().map(({ ways }) => ways),
    }));
    toObservable(asked)
      .pipe(
        debounceTime(0),
        switchMap(({ document, changes }) => this.worker.changes(document, changes)),
        takeUntilDestroyed(),
      )
      .subscribe((tried) => this.tried.set(tried));
  }

  /** What is wrong with the chosen variant: what cannot be read, or what it cannot be, by the fields of the form. */
  private chosenFaults(): readonly { key: string; message: string }[] {
    const unread = this.reading().faults;
    if (unread.length > 0) return unread;
    const at = this.columns().findIndex(({ chosen }) => chosen);
    const tried = this.tried()[at];
    if (tried?.ok !== false) return [];
    return tried.faults.map((fault) => ({ ...fault, key: fault.key.replace(/^change\./, '') }));
  }

  protected readonly fault = (key: string): string =>
    this.chosenFaults().find((fault) => fault.key === key)?.message ?? '';

  protected choose(key: string): void {
    this.variants.chosenKey.set(key);
  }

  protected copy(): void {
    this.variants.add(this.chosenChange());
  }

  /** Takes this loan out of the chosen scenario; the scenario is gone where it changes nothing else. */
  protected remove(): void {
    const chosen = this.variants.chosen();
    if (!chosen) return;
    const { key, changes } = chosen.scenario;
    this.failed.set('');
    if (changes.length > 1) {
      this.desk.changeInstrument(key, this.instrument().id, undefined);
      this.variants.chooseFirst();
      return;
    }
    this.desk.drop(key).subscribe({
      next: () => this.variants.chooseFirst(),
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  protected keep(scenario: DeskScenario): void {
    this.dialog
      .open<NameDialog, DeskScenario, string>(NameDialog, { data: scenario, width: '460px' })
      .afterClosed()
      .subscribe((name) => {
        const kept = this.variants.all().find((variant) => variant.scenario.name === name);
        if (kept) this.choose(kept.scenario.key);
      });
  }

  /** A cell of the grid becomes a variant: in place of the chosen one where that changes nothing yet. */
  protected keepCell(change: TermsChange): void {
    if (Object.keys(this.chosenChange()).length === 0) this.form.setValue(typedOf(change));
    else this.variants.add(change);
    this.shown.set('variants');
  }

  protected adopt(scenario: DeskScenario): void {
    this.dialog
      .open<AdoptDialog, DeskScenario, string>(AdoptDialog, { data: scenario, width: '560px' })
      .afterClosed()
      .subscribe((said) => {
        if (said === undefined) return;
        this.variants.chooseFirst();
        this.adopted.emit(said);
      });
  }
}

import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { comparedFigures, type ComparedFigure } from '@coffer/core';
import {
  comparedNames,
  differenceCause,
  differenceCauses,
  differenceInWords,
  differenceReasonNames,
  showAmount,
  showMonth,
  showMovement,
  type DifferenceCause,
  type DifferenceLine,
  type DifferencesView,
  type MonthChange,
  type MonthComment,
} from '@coffer/contract';
import { CompanyService } from '../../company/company.service';
import { MonthComments } from './month-comments';
import { LookedAt } from './looked-at';

/** Lines drawn at once; the largest come first. */
const atOnce = 100;

/** A comment that somebody makes. */
export interface Said {
  readonly instrumentId: string | undefined;
  readonly text: string;
}

/**
 * What differs from the month before, line by line: what has a cause first, what ran as scheduled in one row. Arrows go
 * from line to line and figure to figure, Enter opens the parts of a figure with what was said, Space marks a line as
 * looked at, `c` comments.
 */
@Component({
  selector: 'coffer-differences-list',
  imports: [FormsModule, MatButtonModule, MonthComments],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './differences-list.html',
  styleUrl: './differences-list.scss',
})
export class DifferencesList {
  readonly view = input.required<DifferencesView>();
  readonly comments = input.required<readonly MonthComment[]>();
  readonly changed = input<readonly MonthChange[]>([]);
  readonly mayComment = input(false);
  readonly chosen = output<DifferenceLine>();
  readonly said = output<Said>();
  private readonly company = inject(CompanyService);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly looked = inject(LookedAt);
  protected readonly figures = comparedFigures;
  protected readonly comparedNames = comparedNames;
  protected readonly differenceReasonNames = differenceReasonNames;
  /** The cause that alone is shown; all of them where none is chosen. */
  protected readonly cause = signal<DifferenceCause | undefined>(undefined);
  protected readonly scheduledOpen = signal(false);
  protected readonly most = signal(atOnce);
  protected readonly at = signal<{ readonly id: string; readonly figure: ComparedFigure } | undefined>(
    undefined,
  );
  protected readonly opened = signal<string | undefined>(undefined);
  private going = false;
  protected readonly commenting = signal<string | undefined>(undefined);

  protected readonly before = computed(() => {
    const { before } = this.view();
    return before === null ? '' : showMonth(before).split(' ')[0];
  });
  private readonly changedIds = computed(
    () => new Set(this.changed().map(({ instrumentId }) => instrumentId)),
  );
  private readonly listed = computed(() => {
    const caused = this.view().lines.filter(({ asScheduled }) => !asScheduled);
    const first = caused.filter(({ id }) => this.changedIds().has(id));
    return [...first, ...caused.filter(({ id }) => !this.changedIds().has(id))];
  });
  protected readonly scheduled = computed(() => this.view().lines.filter(({ asScheduled }) => asScheduled));
  protected readonly causes = computed(() =>
    differenceCauses
      .map((name) => ({ name, many: this.listed().filter((line) => differenceCause(line) === name).length }))
      .filter(({ many }) => many > 0),
  );
  protected readonly lines = computed(() => {
    const cause = this.cause();
    const own = this.listed().filter((line) => cause === undefined || differenceCause(line) === cause);
    return cause === undefined && this.scheduledOpen() ? [...own, ...this.scheduled()] : own;
  });
  protected readonly drawn = computed(() => this.lines().slice(0, this.most()));
  /** The line that Tab leads to. */
  protected readonly current = computed(() => {
    const at = this.at();
    return this.drawn().some(({ id }) => id === at?.id) ? at : undefined;
  });

  constructor() {
    effect(() => {
      const { endsOn } = this.view();
      untracked(() => this.looked.of(endsOn));
    });
  }

  /** How many of the lines with a cause were looked at. */
  readonly progress = computed(() => ({
    looked: this.listed().filter((line) => this.looked.has(line)).length,
    all: this.listed().length,
  }));

  protected reason(line: DifferenceLine): { lead: string; rest: string } {
    return differenceInWords(line, this.company.digits());
  }

  protected now(line: DifferenceLine, figure: ComparedFigure): string {
    return showAmount(line[figure].now, this.company.digits());
  }

  protected change(amount: number): string {
    const shown = showMovement(amount, this.company.digits());
    return amount > 0 ? `+${shown}` : shown;
  }

  protected sum(lines: readonly DifferenceLine[], figure: ComparedFigure, of: 'now' | 'change'): string {
    const sum = lines.reduce((total, line) => total + line[figure][of], 0);
    return of === 'now' ? showAmount(sum, this.company.digits()) : this.change(sum);
  }

  /** The parts of a figure; what is left unexplained is always one of them. */
  protected parts(
    line: DifferenceLine,
    figure: ComparedFigure,
  ): { name: string; text: string; open: boolean }[] {
    const told = line[figure].parts
      .filter(({ reason }) => reason !== 'unexplained')
      .map(({ reason, amount }) => ({
        name: differenceReasonNames[reason],
        text: this.change(amount),
        open: false,
      }));
    const left = line[figure].parts.find(({ reason }) => reason === 'unexplained')?.amount ?? 0;
    return [...told, { name: 'unexplained', text: this.change(left), open: left !== 0 }];
  }

  protected saidOf(line: DifferenceLine): MonthComment[] {
    return this.comments().filter(({ instrumentId }) => instrumentId === line.id);
  }

  protected hasChanged(line: DifferenceLine): boolean {
    return this.changedIds().has(line.id);
  }

  protected choose(line: DifferenceLine, figure: ComparedFigure = 'expense'): void {
    const was = this.at();
    const same = this.opened() === line.id && was?.id === line.id && was.figure === figure;
    this.at.set({ id: line.id, figure });
    this.opened.set(same ? undefined : line.id);
    this.chosen.emit(line);
  }

  protected show(cause: DifferenceCause | undefined): void {
    this.cause.set(this.cause() === cause ? undefined : cause);
  }

  protected say(line: DifferenceLine, text: string): void {
    this.commenting.set(undefined);
    this.said.emit({ instrumentId: line.id, text });
    this.focus(line.id);
  }

  protected leave(line: DifferenceLine): void {
    this.commenting.set(undefined);
    this.focus(line.id);
  }

  protected onKey(event: KeyboardEvent, line: DifferenceLine): void {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    // After `g` a letter goes to a place.
    const going = this.going;
    this.going = event.key === 'g';
    if (going) return;
    const figure = this.at()?.figure ?? 'expense';
    const done = {
      ArrowDown: () => this.step(line, 1),
      ArrowUp: () => this.step(line, -1),
      Home: () => this.step(line, -Infinity),
      End: () => this.step(line, Infinity),
      ArrowRight: () => this.turn(line, figure, 1),
      ArrowLeft: () => this.turn(line, figure, -1),
      Enter: () => this.choose(line, figure),
      ' ': () => this.looked.toggle(line),
      c: () => this.comment(line),
    }[event.key];
    if (!done) return;
    event.preventDefault();
    done();
  }

  private comment(line: DifferenceLine): void {
    if (!this.mayComment()) return;
    this.at.set({ id: line.id, figure: this.at()?.figure ?? 'expense' });
    this.opened.set(line.id);
    this.commenting.set(line.id);
  }

  private step(line: DifferenceLine, by: number): void {
    const drawn = this.drawn();
    const to = Math.min(drawn.length - 1, Math.max(0, drawn.indexOf(line) + by));
    const next = drawn[to];
    if (!next) return;
    this.at.set({ id: next.id, figure: this.at()?.figure ?? 'expense' });
    this.focus(next.id);
  }

  private turn(line: DifferenceLine, figure: ComparedFigure, by: number): void {
    const to = Math.min(comparedFigures.length - 1, Math.max(0, comparedFigures.indexOf(figure) + by));
    this.at.set({ id: line.id, figure: comparedFigures[to] ?? figure });
  }

  private focus(id: string): void {
    this.element.nativeElement.querySelector<HTMLElement>(`[data-line="${id}"]`)?.focus();
  }
}

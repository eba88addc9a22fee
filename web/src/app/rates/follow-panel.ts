import type { MinorUnits } from '@coffer/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { showAmount, showRate, type FollowedInstrument, type FollowView } from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { TypedField } from '../fields/typed-field';
import { DayPipe } from '../figures/amount.pipe';
import type { Draft } from './drafts';
import { RatesService } from './rates.service';

/** What drafted fixings do to each instrument that follows their index, and keeping them with one reason. */
@Component({
  selector: 'coffer-follow-panel',
  imports: [DayPipe, MatButtonModule, MatCheckboxModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './follow-panel.html',
  styleUrl: './follow-panel.scss',
  host: { '(keydown)': 'onKey($event)' },
})
export class FollowPanel {
  protected readonly showRate = showRate;
  readonly draft = input.required<Draft>();
  readonly mayKeep = input.required<boolean>();
  readonly dropDay = output<string>();
  readonly dropAll = output();
  readonly kept = output<string>();
  private readonly rates = inject(RatesService);
  private readonly company = inject(CompanyService);
  protected readonly seen = loaded(
    computed(() => ({ index: this.draft().index, fixings: this.draft().fixings })),
    (asked) => this.rates.look(asked),
  );
  /** Whether fixings are to be kept, or only taken by instruments. */
  protected readonly isNew = computed(() => this.draft().fixings.length > 0);
  protected readonly view = computed(() => (this.seen.behind() ? undefined : this.seen.value()));
  /** Instruments that are not to take the fixings now. */
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  protected readonly failed = signal<readonly string[]>([]);
  protected readonly lines = computed(() => (this.view()?.instruments ?? []).map((each) => this.line(each)));
  protected readonly chosen = computed(
    () => new Set(this.lines().flatMap(({ takes, left, id }) => (takes && !left ? [id] : []))),
  );

  constructor() {
    // What went wrong was wrong with another draft.
    effect(() => {
      this.draft();
      this.failed.set([]);
    });
  }

  private line(of: FollowedInstrument) {
    const { instrumentId: id, name, taken, own, faults, effect: does } = of;
    const money = (minor: MinorUnits): string => showAmount(minor, this.company.digits());
    const moved = ({ before, after }: { before: number; after: number }): string =>
      before === after ? '–' : `${after > before ? '+' : ''}${money(after - before)}`;
    return {
      id,
      name,
      takes: taken.length > 0 && faults.length === 0,
      left: this.left().has(id),
      taken: taken.length,
      own,
      faults,
      does: does && {
        ...does,
        payment: does.payment && {
          due: does.payment.due,
          before: money(does.payment.before),
          after: money(does.payment.after),
        },
        closed: moved(does.closed),
        month: moved(does.month),
        year: moved(does.year),
      },
    };
  }

  protected choose(id: string, takes: boolean): void {
    this.left.update((left) => new Set([...left].filter((each) => each !== id).concat(takes ? [] : [id])));
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
    event.preventDefault();
    this.keep();
  }

  /** What the button does, in words. */
  protected readonly does = computed(() => {
    const many = this.chosen().size;
    const instruments = many === 1 ? 'one instrument' : `${many} instruments`;
    if (!this.isNew()) return `Change ${instruments}`;
    return many === 0 ? 'Keep' : `Keep, and change ${instruments}`;
  });

  protected keep(): void {
    const view = this.view();
    const reason = this.reason.value.trim();
    this.asked.set(true);
    if (!view || reason === '' || this.busy()) return;
    this.busy.set(true);
    this.failed.set([]);
    this.rates.keep(this.draft(), view, this.chosen(), reason).subscribe({
      next: (many) => this.kept.emit(this.saying(view, many)),
      error: (error: unknown) => {
        this.busy.set(false);
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.failed.set([messageOf(error), ...faults.map(({ message }) => message)]);
        // What was changed meanwhile is looked at anew.
        if (error instanceof ApiRefusal && error.status === 409) this.seen.again();
      },
    });
  }

  private saying({ fixings }: FollowView, many: number): string {
    if (fixings.length === 0)
      return `${many === 1 ? 'One instrument has' : `${many} instruments have`} a new version.`;
    const kept = fixings.length === 1 ? 'One fixing is kept' : `${fixings.length} fixings are kept`;
    const reached = many === 1 ? 'one instrument has' : `${many === 0 ? 'no' : many} instruments have`;
    return `${kept}; ${reached} a new version.`;
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { showAmount, showDay, showMonth, type ClosedDaysOfInstrument } from '@coffer/contract';
import { loaded } from '../api/loaded';
import { refusedAt } from '../api/refused-at';
import { CompanyService } from '../company/company.service';
import { TypedField } from '../fields/typed-field';
import { SessionService } from '../session/session.service';
import { SettingsService } from './settings.service';

/** An instrument that lacks closed days of the company, as it is told. */
interface Lacking {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  /** Payments that move, and interest expense that does: a line each. */
  readonly moves: readonly string[];
  readonly faults: readonly string[];
  readonly chosen: boolean;
}

/** The instruments whose due dates move and that lack closed days of the company, and giving them these with one reason. */
@Component({
  selector: 'coffer-lacking-closed-days',
  imports: [MatButtonModule, MatCheckboxModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lacking-closed-days.html',
  styleUrl: './lacking-closed-days.scss',
})
export class LackingClosedDays {
  private readonly service = inject(SettingsService);
  private readonly company = inject(CompanyService);
  protected readonly session = inject(SessionService);
  protected readonly seen = loaded(
    computed(() => this.session.company()?.id),
    () => this.service.lackingClosedDays(),
  );
  /** Instruments that were chosen otherwise than is proposed: those that had days of the company before. */
  private readonly turned = signal<ReadonlySet<string>>(new Set());
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  protected readonly said = signal('');
  protected readonly lines = computed(() =>
    (this.seen.value()?.instruments ?? []).map((of) => this.line(of)),
  );
  protected readonly chosen = computed(() => this.lines().filter(({ chosen }) => chosen));
  /** How many are drawn; the others are chosen with all. */
  protected readonly most = signal(50);
  protected readonly drawn = computed(() => this.lines().slice(0, this.most()));
  private readonly possible = computed(() => this.lines().filter(({ faults }) => faults.length === 0));
  protected readonly all = computed(() => this.chosen().length === this.possible().length);
  /** What the button does, in words. */
  protected readonly does = computed(() => {
    const many = this.chosen().length;
    if (many === 0) return 'Choose who takes them';
    return many === 1 ? 'Change one instrument' : `Change ${many} instruments`;
  });
  protected readonly month = computed(() => {
    const month = this.seen.value()?.month;
    return month ? showMonth(month) : 'the open month';
  });

  private line({
    instrumentId: id,
    name,
    version,
    follows,
    moved,
    effect,
    faults,
  }: ClosedDaysOfInstrument): Lacking {
    const interest = (of: string, { before, after } = { before: 0, after: 0 }): string[] => {
      const more = after - before;
      if (more === 0) return [];
      return [`interest of ${of} ${more > 0 ? '+' : ''}${showAmount(more, this.company.digits())}`];
    };
    return {
      id,
      version,
      name,
      moves: [
        ...few(moved.map(({ from, to }) => `${showDay(from)} to ${showDay(to)}`)),
        ...interest('closed months', effect?.closed),
        ...interest(this.month(), effect?.month),
      ],
      faults,
      chosen: faults.length === 0 && follows !== this.turned().has(id),
    };
  }

  protected turn(id: string): void {
    this.turned.update((turned) => {
      const next = new Set(turned);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected turnAll(chosen: boolean): void {
    const other = this.possible().filter((line) => line.chosen !== chosen);
    for (const { id } of other) this.turn(id);
  }

  protected give(): void {
    const reason = this.reason.value.trim();
    this.asked.set(true);
    this.said.set('');
    if (reason === '' || this.busy() || this.chosen().length === 0) return;
    this.busy.set(true);
    this.failed.set('');
    const instruments = this.chosen().map(({ id, version }) => ({ id, version }));
    this.service.takeClosedDays({ reason, instruments }).subscribe({
      next: ({ saved }) => {
        this.busy.set(false);
        this.asked.set(false);
        this.reason.reset();
        this.turned.set(new Set());
        this.said.set(
          saved.length === 1
            ? 'One instrument has a new version.'
            : `${saved.length} instruments have a new version.`,
        );
        this.seen.again();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        const { fields, whole } = refusedAt(error);
        this.failed.set([whole, ...Object.values(fields)].filter(Boolean).join(' '));
        // What was changed meanwhile is looked at anew.
        this.seen.again();
      },
    });
  }
}

/** The first three of some, and how many more there are. */
function few(all: readonly string[]): string[] {
  const left = all.length - 3;
  return [...all.slice(0, 3), ...(left > 0 ? [`and ${left} more`] : [])];
}

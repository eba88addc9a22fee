import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { addMonths, formatDay, parseDay, type CalendarDay } from '@coffer/core';
import { downloads, endpoints, showMonth, type TrailChecked, type TrailEvent } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { ChoiceField } from '../fields/choice-field';
import { MomentPipe } from '../figures/moment.pipe';
import { CompanyChoice } from '../session/company-choice';

/** Anybody, and any time. */
const any = '';
/** Months back that are offered. */
const monthsBack = 24;

/** What happened in the company, as sentences with old and new, by person, month and instrument; and whether the trail is whole. */
@Component({
  selector: 'coffer-trail',
  imports: [ChoiceField, MatButtonModule, MomentPipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trail.page.html',
  styleUrl: './trail.page.scss',
  host: { '[class.behind]': 'loaded.behind()' },
})
export class TrailPage {
  private readonly api = inject(ApiClient);
  private readonly choice = inject(CompanyChoice);
  protected readonly company = inject(CompanyService);
  /** The instrument that is asked about, by its id in the address. */
  readonly instrument = input<string>();
  protected readonly person = new FormControl(any, { nonNullable: true });
  protected readonly month = new FormControl(any, { nonNullable: true });
  private readonly chosenPerson = toSignal(this.person.valueChanges, { initialValue: any });
  private readonly chosenMonth = toSignal(this.month.valueChanges, { initialValue: any });
  private readonly before = signal<number | undefined>(undefined);
  private readonly earlier = signal<readonly TrailEvent[]>([]);

  private readonly asked = computed(() => {
    const month = this.chosenMonth();
    const person = this.chosenPerson();
    const instrument = this.instrument();
    return {
      ...(month !== any && { from: `${month.slice(0, 8)}01`, to: month }),
      ...(person !== any && { person }),
      ...(instrument !== undefined && { instrument }),
    };
  });
  protected readonly loaded = loaded(
    computed(() => ({ ...this.asked(), before: this.before() })),
    ({ before, ...asked }) =>
      this.api.call(endpoints.trail, {
        query: { ...asked, ...(before !== undefined && { before: String(before) }) },
      }),
  );
  protected readonly view = this.loaded.value;
  /** Those that were there already, and while earlier ones are on their way no others. */
  protected readonly events = computed(() =>
    this.loaded.behind() && this.before() !== undefined
      ? this.earlier()
      : [...this.earlier(), ...(this.view()?.events ?? [])],
  );
  protected readonly people = computed((): readonly (readonly [string, string])[] => [
    [any, 'anybody'],
    ...(this.view()?.people ?? []).map(({ id, name }) => [String(id), name] as const),
  ]);
  protected readonly months = computed((): readonly (readonly [string, string])[] => {
    const today = new Date().toISOString().slice(0, 8);
    const first = parseDay(`${today}01`) as CalendarDay;
    const ends = Array.from({ length: monthsBack }, (_, at) => formatDay(addMonths(first, 1 - at) - 1));
    return [[any, 'any month'], ...ends.map((end) => [end, showMonth(end)] as const)];
  });
  protected readonly csv = computed(() => this.choice.file(downloads.trailCsv, {}, this.asked()));

  protected readonly checking = signal(false);
  protected readonly checked = signal<TrailChecked | undefined>(undefined);
  protected readonly failed = signal('');

  constructor() {
    // Another question begins with the newest again.
    this.person.valueChanges.subscribe(() => this.begin());
    this.month.valueChanges.subscribe(() => this.begin());
  }

  private begin(): void {
    this.earlier.set([]);
    this.before.set(undefined);
  }

  protected more(next: number): void {
    this.earlier.set(this.events());
    this.before.set(next);
  }

  /** Follows the whole trail, and says from which event to which. */
  protected check(): void {
    this.checking.set(true);
    this.failed.set('');
    this.api.call(endpoints.trailChecked).subscribe({
      next: (checked) => {
        this.checking.set(false);
        this.checked.set(checked);
      },
      error: (error: unknown) => {
        this.checking.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Explanation, MinorUnits, Schedule } from '@coffer/core';
import { showAmount } from '@coffer/contract';
import { CompanyService } from '../../company/company.service';
import { viewKindOf } from '../../kinds/view-kinds';
import { meantRow, offeredStretches, sumsOf, typedStretch } from './stretch-totals-model';

/** A total: its name, its amount, and the column it sums up where it is one. */
type TotalLine = readonly [name: string, text: string, column?: string];

/** Totals for any stretch of a schedule, and a way to any of its rows. */
@Component({
  selector: 'coffer-stretch-totals',
  imports: [FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="go()">
      <label>
        Go to
        <input
          name="place"
          autocomplete="off"
          [placeholder]="
            rows().numbered === 'coupons' ? '4, date, as of, maturity' : '24, date, as of, payoff'
          "
          [ngModel]="place()"
          (ngModelChange)="place.set($event)"
          [attr.aria-invalid]="lost() ? true : null"
        />
      </label>
      @if (lost()) {
        <span class="wrong" role="alert">no such row</span>
      }
    </form>
    <label>
      Totals for
      <input
        name="stretch"
        autocomplete="off"
        list="stretches"
        placeholder="Whole schedule"
        [ngModel]="typed()"
        (ngModelChange)="typed.set($event)"
        [attr.aria-invalid]="chosen() ? null : true"
      />
    </label>
    <datalist id="stretches">
      @for (stretch of offered(); track stretch.name) {
        <option [value]="stretch.name"></option>
      }
    </datalist>
    @if (sums(); as figures) {
      <dl [attr.aria-label]="'Totals, ' + chosen()?.name">
        @for (figure of figures; track figure[0]) {
          <div>
            <dt>{{ figure[0] }}</dt>
            <dd>
              @if (figure[2]; as column) {
                <button
                  class="plain"
                  [attr.aria-label]="figure[0] + ' ' + figure[1] + ', how it is made'"
                  (click)="explain.emit(explanation(column))"
                >
                  {{ figure[1] }}
                </button>
              } @else {
                {{ figure[1] }}
              }
            </dd>
          </div>
        }
      </dl>
    } @else {
      <span class="wrong" role="alert"
        >type {{ rows().numbered }} such as 3-6, a year such as year 2, 2028 or fiscal 2028, or days such as 1
        jan 26 - 30 jun 26</span
      >
    }
  `,
  styleUrl: './stretch-totals.scss',
})
export class StretchTotals {
  readonly schedule = input.required<Schedule>();
  readonly on = input.required<number>();
  /** The row to be shown. */
  readonly went = output<number>();
  /** How a total is made. */
  readonly explain = output<Explanation>();
  private readonly company = inject(CompanyService);
  protected readonly rows = computed(() => viewKindOf(this.schedule()).stretchRows(this.schedule()));
  protected readonly place = signal('');
  protected readonly lost = signal(false);
  protected readonly typed = signal('');
  protected readonly offered = computed(() =>
    offeredStretches(this.rows(), this.on(), this.company.company()?.fiscalYearEndMonth ?? 12),
  );
  protected readonly chosen = computed(() => {
    const typed = this.typed().trim();
    if (typed === '') return this.offered()[0];
    const named = this.offered().find(({ name }) => name.toLowerCase() === typed.toLowerCase());
    return named ?? typedStretch(this.rows(), typed, this.company.company()?.fiscalYearEndMonth);
  });
  protected readonly sums = computed((): TotalLine[] | undefined => {
    const chosen = this.chosen();
    if (!chosen) return undefined;
    const rows = this.rows();
    const { count, totals, closing } = sumsOf(rows, chosen);
    const money = (minor: MinorUnits): string => showAmount(minor, rows.digits);
    const shown = rows.columns.filter(({ key, seldom }) => !seldom || totals[key] !== 0);
    return [
      [rows.numbered, String(count)],
      ...shown.map(({ key, name }) => [name, money(totals[key] ?? 0), key] as const),
      [rows.closes, money(closing)],
    ];
  });

  protected explanation(column: string): Explanation {
    const rows = this.rows();
    const { from, end } = this.chosen() ?? { from: 0, end: rows.length };
    return rows.explain(column, from, end);
  }

  protected go(): void {
    const row = meantRow(this.rows(), this.place(), this.on());
    this.lost.set(row === undefined);
    if (row !== undefined) this.went.emit(row);
  }
}

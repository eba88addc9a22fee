import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { explainTotal, type Explanation, type LoanSchedule, type TotalledColumn } from '@coffer/core';
import { showAmount } from '@coffer/contract';
import { CompanyService } from '../company/company.service';
import { meantRow, offeredStretches, sumsOf, typedStretch } from './stretch-totals-model';

/** A total: its name, its amount, and the column it sums up where it is one. */
type TotalLine = readonly [name: string, text: string, column?: TotalledColumn];

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
          placeholder="24, date, as of, payoff"
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
        >type payments such as 13-24, or days such as 1 jan 26 - 30 jun 26</span
      >
    }
  `,
  styleUrl: './stretch-totals.scss',
})
export class StretchTotals {
  readonly schedule = input.required<LoanSchedule>();
  readonly on = input.required<number>();
  /** The row to be shown. */
  readonly went = output<number>();
  /** How a total is made. */
  readonly explain = output<Explanation>();
  private readonly company = inject(CompanyService);
  protected readonly place = signal('');
  protected readonly lost = signal(false);
  protected readonly typed = signal('');
  protected readonly offered = computed(() =>
    offeredStretches(this.schedule(), this.on(), this.company.company()?.fiscalYearEndMonth ?? 12),
  );
  protected readonly chosen = computed(() => {
    const typed = this.typed().trim();
    if (typed === '') return this.offered()[0];
    const named = this.offered().find(({ name }) => name.toLowerCase() === typed.toLowerCase());
    return named ?? typedStretch(this.schedule(), typed);
  });
  protected readonly sums = computed((): TotalLine[] | undefined => {
    const chosen = this.chosen();
    if (!chosen) return undefined;
    const sums = sumsOf(this.schedule(), chosen);
    const money = (minor: number): string => showAmount(minor, this.schedule().terms.digits);
    return [
      ['payments', String(sums.payments)],
      ['payment', money(sums.payment), 'payment'],
      ['interest', money(sums.interest), 'interest'],
      ['principal', money(sums.principal), 'principal'],
      ...(sums.extra > 0 ? [['extra', money(sums.extra), 'extra'] as const] : []),
      ['closing', money(sums.closing)],
    ];
  });

  protected explanation(column: TotalledColumn): Explanation {
    const chosen = this.chosen();
    return explainTotal(this.schedule(), column, chosen?.from, chosen?.end);
  }

  protected go(): void {
    const row = meantRow(this.schedule(), this.place(), this.on());
    this.lost.set(row === undefined);
    if (row !== undefined) this.went.emit(row);
  }
}

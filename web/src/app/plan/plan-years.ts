import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import {
  isOneCurrency,
  showDecimal,
  type PublishedPlan,
  type PublishedPlannedLoan,
  type PublishedPlanYear,
} from '@coffer/contract';

/** What of a year is shown. */
const measures = { closing: 'Balance', interest: 'Interest', principal: 'Principal' } as const;
type Measure = keyof typeof measures;

/** Balance at each year end, or interest or principal in each year, loan by loan. */
@Component({
  selector: 'coffer-plan-years',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h2>{{ measure() === 'closing' ? 'At each year end' : 'In each year' }}</h2>
      <mat-button-toggle-group
        aria-label="What is shown of a year"
        hideSingleSelectionIndicator
        [value]="measure()"
        (change)="measure.set($event.value)"
      >
        @for (each of choices; track each[0]) {
          <mat-button-toggle [value]="each[0]">{{ each[1] }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="Year by year">
      <table>
        <thead>
          <tr>
            <th scope="col" class="name">Instrument</th>
            @for (year of years(); track year) {
              <th scope="col">{{ year }}</th>
            }
            @if (measure() !== 'closing') {
              <th scope="col">In all</th>
            }
          </tr>
        </thead>
        <tbody>
          @for (line of lines(); track line.name) {
            <tr [class.all]="line.all">
              <th scope="row" class="name">{{ line.name }}</th>
              @for (text of line.texts; track $index) {
                <td>{{ text }}</td>
              }
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styleUrls: ['./plan-loans.scss', './plan-years.scss'],
})
export class PlanYears {
  readonly plan = input.required<PublishedPlan>();
  protected readonly choices = Object.entries(measures) as [Measure, string][];
  protected readonly measure = signal<Measure>('closing');
  private readonly totals = computed(() => {
    const { totals } = this.plan();
    return totals && isOneCurrency(totals) ? totals : undefined;
  });
  protected readonly years = computed(() => (this.totals()?.years ?? []).map(({ year }) => year));
  protected readonly lines = computed(() => {
    const loans = (this.plan().loans ?? []).filter(
      (loan): loan is PublishedPlannedLoan => !('outOfReach' in loan),
    );
    const [measure, totals] = [this.measure(), this.totals()];
    const line = (
      name: string,
      years: readonly PublishedPlanYear[],
      interest: string,
      all = false,
    ): { name: string; texts: string[]; all: boolean } => ({
      name,
      all,
      texts: [
        ...years.map((year) => (Number(year[measure]) === 0 ? '–' : showDecimal(year[measure]))),
        ...(measure === 'closing' ? [] : [measure === 'interest' ? showDecimal(interest) : sumOf(years)]),
      ],
    });
    return [
      ...loans.map(({ name, years, interest }) => line(name, years, interest)),
      ...(totals ? [line('In all', totals.years, totals.interest, true)] : []),
    ];
  });
}

/** The principal of all years: what is owed at the beginning, with what is drawn since. */
function sumOf(years: readonly PublishedPlanYear[]): string {
  const decimals = years[0]?.principal.split('.')[1]?.length ?? 0;
  const unit = 10 ** decimals;
  const sum = years.reduce((total, { principal }) => total + Math.round(Number(principal) * unit), 0);
  return showDecimal((sum / unit).toFixed(decimals));
}

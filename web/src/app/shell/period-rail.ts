import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  viewChildren,
} from '@angular/core';
import { type CompanyView, showDay, showMonth } from '@coffer/contract';
import { AsOfService } from '../company/as-of.service';
import { railYears, type RailPeriod } from '../company/fiscal-periods';

/** Fiscal periods, closed, open and future; choosing one moves every figure. Arrow keys step it. */
@Component({
  selector: 'coffer-period-rail',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="as-of">
      <span>Figures as of</span>
      <strong>{{ shown() }}</strong>
    </div>
    <div class="years" role="radiogroup" aria-label="Period end that figures stand at">
      <button class="step" [attr.aria-label]="'A year back'" (click)="jump(-12)">‹</button>
      @for (year of years(); track year.name) {
        <div class="year">
          <span class="name">{{ year.name }}</span>
          <div class="months">
            @for (period of year.periods; track period.endsOn) {
              <button
                #month
                role="radio"
                [class]="period.state"
                [class.on]="period.endsOn === date()"
                [attr.aria-checked]="period.endsOn === date()"
                [attr.aria-label]="label(period)"
                [title]="label(period)"
                [tabindex]="period.endsOn === date() ? 0 : -1"
                (click)="choose(period)"
                (keydown)="onKey($event)"
              >
                {{ period.month }}
              </button>
            }
          </div>
        </div>
      }
      <button class="step" [attr.aria-label]="'A year on'" (click)="jump(12)">›</button>
    </div>
  `,
  styleUrl: './period-rail.scss',
})
export class PeriodRail {
  readonly company = input.required<CompanyView>();
  private readonly asOf = inject(AsOfService);
  private readonly months = viewChildren<ElementRef<HTMLButtonElement>>('month');
  protected readonly date = this.asOf.date;
  protected readonly years = computed(() => railYears(this.company(), this.date()));
  protected readonly shown = computed(() => showDay(this.date()));
  private readonly all = computed(() => this.years().flatMap((year) => year.periods));

  constructor() {
    // In a narrow window the rail scrolls; the chosen month is kept in view.
    effect(() => {
      const at = this.all().findIndex((period) => period.endsOn === this.date());
      this.months()[at]?.nativeElement.scrollIntoView({ block: 'nearest', inline: 'center' });
    });
  }

  protected label(period: RailPeriod): string {
    const states = {
      closed: 'closed',
      prepared: 'handed over',
      open: 'open',
      future: 'not begun',
      before: 'before the books',
    };
    return `${showMonth(period.endsOn)}, ${states[period.state]}`;
  }

  protected choose(period: RailPeriod): void {
    this.asOf.choose(period.endsOn);
  }

  protected onKey(event: KeyboardEvent): void {
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -12, ArrowDown: 12 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    this.jump(step);
    setTimeout(() => {
      const at = this.all().findIndex((period) => period.endsOn === this.date());
      this.months()[at]?.nativeElement.focus();
    });
  }

  /** Steps by months; beyond what is shown, the years shown move along. */
  protected jump(months: number): void {
    const at = this.all().findIndex((period) => period.endsOn === this.date());
    const inside = this.all()[at + months];
    if (inside) {
      this.choose(inside);
      return;
    }
    const edge = months < 0 ? this.all()[0] : this.all().at(-1);
    const [year, month] = (edge?.endsOn ?? this.date()).split('-').map(Number) as [number, number];
    const left = months < 0 ? months + at : months - (this.all().length - 1 - at);
    const moved = new Date(Date.UTC(year, month + left, 0));
    this.asOf.choose(moved.toISOString().slice(0, 10));
  }
}

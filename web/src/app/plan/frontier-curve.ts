import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import {
  showDay,
  showDecimal,
  type PublishedHorizon,
  type PublishedPlanTotals,
  showRate,
} from '@coffer/contract';
import { Chart } from '../charts/chart';
import { cashTop, frontierChart, nearestHorizon, offPicture, placeOf } from './frontier-chart';
import { worthSentence, yearSteps } from './plan-words';
import type { Compared } from './plan-work';

/** What each day costs: the curve of horizons, chosen on by dragging or keys, and what one more year adds and frees. */
@Component({
  selector: 'coffer-frontier-curve',
  imports: [Chart, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './frontier-curve.html',
  styleUrl: './frontier-curve.scss',
})
export class FrontierCurve {
  readonly compared = input.required<{ readonly months: Compared; readonly years: Compared }>();
  /** The chosen day, `YYYY-MM-DD`, and what it comes to. */
  readonly clearBy = input.required<string>();
  readonly totals = input.required<PublishedPlanTotals>();
  /** What the contracts ask in a month, in units of the currency. */
  readonly contractual = input.required<number>();
  /** What cash is worth, such as `4.5%`; empty where it is not typed. */
  readonly hurdle = input.required<string>();
  /** Names of what no payment clears by the chosen day. */
  readonly without = input.required<readonly string[]>();
  readonly freed = input.required<'month' | 'year'>();
  readonly wish = output<string>();
  readonly freedChange = output<'month' | 'year'>();
  /** The day last wished for: the next key goes on from it, however fast it follows. */
  private readonly wished = linkedSignal(() => this.clearBy());
  /** The day that is dragged to and not let go of yet. */
  private readonly dragged = signal<PublishedHorizon | undefined>(undefined);
  protected readonly showDay = showDay;
  protected readonly showDecimal = showDecimal;
  protected readonly showRate = showRate;
  private readonly months = computed(() => this.compared().months.horizons);
  private readonly years = computed(() => this.compared().years.horizons);
  protected readonly chosen = computed(() => {
    const dragged = this.dragged();
    if (dragged) return placeOf(dragged);
    const { interest, monthlyCash } = this.totals();
    return [Number(interest), Number(monthlyCash)] as const;
  });
  private readonly top = computed(() => cashTop(this.years(), Number(this.totals().monthlyCash)));
  protected readonly crossing = computed(() => this.compared().years.worthIt.crossing);
  private readonly cheapest = computed(() => this.compared().months.worthIt.hurdle ?? undefined);
  protected readonly off = computed(() => offPicture(this.years(), this.top()));
  protected readonly option = computed(() => {
    const crossing = this.crossing();
    const cheapest = this.months().find(({ clearBy }) => clearBy === this.cheapest()?.clearBy);
    const crossed = crossing ? this.atYears(Number(crossing.years)) : undefined;
    return frontierChart({
      months: this.months(),
      years: this.years(),
      chosen: this.chosen(),
      crossing: crossing && crossed ? [placeOf(crossed)[0], Number(crossing.monthlyCash)] : undefined,
      hurdle: cheapest && placeOf(cheapest),
    });
  });
  protected readonly steps = computed(() => yearSteps(this.years()));
  protected readonly day = computed(() => this.dragged()?.clearBy ?? this.wished());
  protected readonly sentence = computed(() => {
    const dragged = this.dragged();
    return worthSentence({
      day: this.day(),
      monthlyCash: dragged?.monthlyCash ?? this.totals().monthlyCash,
      interest: dragged?.interest ?? this.totals().interest,
      contractual: this.contractual(),
      years: this.years(),
      hurdle: this.hurdle(),
      cheapest: this.cheapest()?.clearBy,
      first: this.months()[0]?.clearBy,
      last: this.months().at(-1)?.clearBy,
      crossing: this.crossing(),
      income: this.cheapest()?.income,
      without: this.without(),
    });
  });

  private atYears(years: number): PublishedHorizon | undefined {
    return this.months()[Math.min(this.months().length, Math.max(1, Math.round(12 * years))) - 1];
  }

  protected onDrag({ at, done }: { at: readonly [number, number]; done: boolean }): void {
    const nearest = nearestHorizon(this.months(), at, this.top());
    this.dragged.set(done ? undefined : nearest);
    if (done && nearest) this.wishFor(nearest);
  }

  /** Arrows go a year along the curve, with Shift a month; `h` and `c` to where faster stops being worth it. */
  protected onKey(event: KeyboardEvent): void {
    const months = this.months();
    const now = months.findLastIndex(({ clearBy }) => clearBy <= this.wished());
    const by = event.shiftKey ? 1 : 12;
    const crossing = this.crossing();
    const to: Record<string, number | undefined> = {
      ArrowRight: now + by,
      ArrowUp: now + by,
      ArrowLeft: now - by,
      ArrowDown: now - by,
      Home: 0,
      End: months.length - 1,
      h: months.findIndex(({ clearBy }) => clearBy === this.cheapest()?.clearBy),
      c: crossing ? Math.round(12 * Number(crossing.years)) - 1 : -1,
    };
    const place = to[event.key];
    if (place === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    if ((event.key === 'h' || event.key === 'c') && place < 0) return;
    const horizon = months[Math.min(months.length - 1, Math.max(0, place))];
    if (horizon) this.wishFor(horizon);
  }

  private wishFor({ clearBy }: PublishedHorizon): void {
    this.wished.set(clearBy);
    this.wish.emit(clearBy);
  }
}

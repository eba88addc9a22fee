import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatDay, position, type CalendarDay, type PositionFigure } from '@coffer/core';
import { unpaidName } from './unpaid-name';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import type { OpenInstrument } from './instruments.service';

interface PositionLine {
  readonly figure: PositionFigure;
  readonly label: string;
  readonly amount: number;
  readonly tone?: 'interest';
  readonly strong?: boolean;
}

/** Where an instrument stands on a day, a bond as the balance sheet presents it. Each figure explains itself. */
@Component({
  selector: 'coffer-position-panel',
  imports: [AmountPipe, DayPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet">
      <h3>On {{ on() | day }}</h3>
      <dl class="list">
        @for (line of lines(); track line.figure) {
          <dt [class.strong]="line.strong">{{ line.label }}</dt>
          <dd [class.strong]="line.strong">
            <button
              class="plain"
              [class.interest]="line.tone === 'interest'"
              [attr.aria-label]="line.label + ' ' + (line.amount | amount) + ', how it is made'"
              (click)="explain.emit(line.figure)"
            >
              {{ line.amount | amount }}
            </button>
          </dd>
        }
        @if (at().next; as next) {
          <dt>Next, {{ next.due | day }}</dt>
          <dd>{{ next.payment | amount }}</dd>
        }
      </dl>
      @if (reported(); as then) {
        @if (then.differs) {
          <p class="notice">
            The close reported {{ then.carrying | amount }} carrying from version {{ then.version }}. The
            terms have changed since; the difference falls in the open period.
          </p>
        } @else {
          <p class="dim">As reported when the period was closed.</p>
        }
      }
    </section>
  `,
  styles: `
    section {
      padding: 10px 14px;
    }
    .strong {
      font-weight: 650;
    }
    button.interest {
      color: var(--interest);
    }
    p {
      margin-top: 6px;
      font-size: 12.5px;
    }
  `,
})
export class PositionPanel {
  readonly instrument = input.required<OpenInstrument>();
  readonly on = input.required<CalendarDay>();
  readonly explain = output<PositionFigure>();
  protected readonly at = computed(() => position(this.instrument().read.schedule, this.on()));

  protected readonly lines = computed((): PositionLine[] => {
    const at = this.at();
    const { schedule } = this.instrument().read;
    const bond = schedule.kind === 'bond';
    const noCoupon = schedule.kind === 'bond' && schedule.terms.zeroCoupon;
    const some = (figure: PositionFigure, label: string): PositionLine[] =>
      at[figure] === 0 ? [] : [{ figure, label, amount: at[figure] }];
    const accrued: PositionLine = {
      figure: 'accruedInterest',
      label: bond ? 'Accrued coupon' : 'Accrued interest',
      amount: at.accruedInterest,
      tone: 'interest',
    };
    return [
      { figure: 'outstanding', label: bond ? 'Face' : 'Outstanding', amount: at.outstanding },
      ...some('unamortizedDiscount', 'less discount'),
      ...some('unamortizedPremium', 'plus premium'),
      ...some('unamortizedIssueCosts', 'less issue costs'),
      ...(bond || at.unamortizedIssueCosts !== 0
        ? [{ figure: 'carrying' as const, label: 'Carrying amount', amount: at.carrying, strong: true }]
        : []),
      ...(noCoupon ? [] : [accrued]),
      ...some('accruedFee', 'Accrued fee'),
      ...some('unpaidInterest', unpaidName(at)),
      { figure: 'current', label: 'Current portion', amount: at.current },
      { figure: 'nonCurrent', label: 'Non-current', amount: at.nonCurrent },
      ...some('deferredCosts', 'Costs deferred'),
      ...some('overpaid', 'Overpaid'),
    ];
  });

  protected readonly reported = computed(() => {
    const then = this.instrument().reported.find(({ periodEnd }) => periodEnd === formatDay(this.on()));
    if (!then) return undefined;
    const at = this.at();
    const differs = (Object.keys(then.figures) as (keyof typeof then.figures)[]).some(
      (key) => then.figures[key] !== at[key],
    );
    return { differs, carrying: then.figures.carrying, version: then.version };
  });
}

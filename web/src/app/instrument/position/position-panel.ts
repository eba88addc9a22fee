import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { CalendarDay, PositionFigure } from '@coffer/core';
import { CompanyService } from '../../company/company.service';
import { unpaidName } from '../schedule/unpaid-name';
import { AmountPipe, DayPipe } from '../../figures/amount.pipe';
import { viewKindOf } from '../../kinds/view-kinds';
import type { OpenInstrument } from '../instruments.service';
import { isKnownOtherwise, nowText, standsOn } from './reported';

interface PositionLine {
  readonly figure: PositionFigure;
  readonly label: string;
  readonly amount: number;
  /** As known now, where that differs from what was reported. */
  readonly now: string;
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
          <dt [class.strong]="line.strong" [class.differs]="line.now">{{ line.label }}</dt>
          <dd [class.strong]="line.strong" [class.differs]="line.now">
            <button
              class="plain"
              [class.interest]="line.tone === 'interest'"
              [attr.aria-label]="line.label + ' ' + (line.amount | amount) + ', how it is made'"
              (click)="explain.emit(line.figure)"
            >
              {{ line.amount | amount }}
            </button>
          </dd>
          @if (line.now) {
            <dd class="now">now {{ line.now }}</dd>
          }
        }
        @if (at().now.next; as next) {
          <dt>Next, {{ next.due | day }}</dt>
          <dd>{{ next.payment | amount }}</dd>
        }
      </dl>
      @if (at().version; as version) {
        @if (otherwise()) {
          <p class="notice">
            As the close reported it from version {{ version }}; beside it as known now, with the difference,
            which the open month books. Figures are explained as known now.
          </p>
        } @else {
          <p class="dim">As reported when the period was closed.</p>
        }
      }
    </section>
  `,
  styles: `
    section {
      padding: var(--space-5) var(--space-7);
    }
    .strong {
      font-weight: 650;
    }
    button.interest {
      color: var(--interest);
    }
    .differs {
      border-bottom: 0;
      padding-bottom: 0;
    }
    .now {
      grid-column: 1 / -1;
      padding-top: 0;
      font-size: var(--text-fine);
      color: var(--flag);
    }
    p {
      margin-top: var(--space-3);
      font-size: var(--text-small);
    }
  `,
})
export class PositionPanel {
  readonly instrument = input.required<OpenInstrument>();
  readonly on = input.required<CalendarDay>();
  readonly explain = output<PositionFigure>();
  private readonly company = inject(CompanyService);
  /** As reported where the day ends a closed month. */
  protected readonly at = computed(() => standsOn(this.instrument(), this.on()));
  protected readonly otherwise = computed(() => isKnownOtherwise(this.at()));

  protected readonly lines = computed((): PositionLine[] => {
    const stands = this.at();
    const { figures: at, now } = stands;
    const { schedule } = this.instrument().read;
    const kind = viewKindOf(schedule);
    const line = (
      figure: PositionFigure,
      label: string,
      more: Pick<PositionLine, 'tone' | 'strong'> = {},
    ): PositionLine => ({
      figure,
      label,
      amount: at[figure],
      now: isKnownOtherwise(stands, figure) ? nowText(now[figure], at[figure], this.company.digits()) : '',
      ...more,
    });
    const some = (figure: PositionFigure, label: string): PositionLine[] =>
      at[figure] === 0 && now[figure] === 0 ? [] : [line(figure, label)];
    return [
      line('outstanding', kind.words.owed),
      ...some('unamortizedDiscount', 'less discount'),
      ...some('unamortizedPremium', 'plus premium'),
      ...some('unamortizedIssueCosts', 'less issue costs'),
      ...(kind.carriedApart || at.unamortizedIssueCosts + now.unamortizedIssueCosts !== 0
        ? [line('carrying', 'Carrying amount', { strong: true })]
        : []),
      ...(kind.accrues(schedule) ? [line('accruedInterest', kind.words.accrued, { tone: 'interest' })] : []),
      ...some('accruedFee', 'Accrued fee'),
      ...some('unpaidInterest', unpaidName(at)),
      line('current', 'Current portion'),
      line('nonCurrent', 'Non-current'),
      ...some('deferredCosts', 'Costs deferred'),
      ...some('overpaid', 'Overpaid'),
    ];
  });
}

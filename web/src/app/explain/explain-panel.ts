import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Explanation, FigureLink } from '@coffer/core';
import { showDecimal } from '@coffer/contract';
import { AmountPipe, WithDaysPipe } from '../figures/amount.pipe';

/** How a figure is made: its inputs, each leading to where it comes from, the unrounded value and the rounding. */
@Component({
  selector: 'coffer-explain-panel',
  imports: [AmountPipe, MatButtonModule, WithDaysPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown.escape)': 'closed.emit()' },
  template: `
    @let how = explanation();
    <section aria-live="polite" aria-label="How this figure is made">
      <div class="head">
        <h3>How this figure is made</h3>
        <button matButton (click)="closed.emit()" aria-label="Close the explanation">✕</button>
      </div>
      <p class="title">{{ how.title | withDays }} · {{ how.amount | amount }}</p>
      <dl>
        @for (step of how.steps; track $index) {
          <div>
            <dt>
              @if (step.link; as link) {
                <button class="link" (click)="follow.emit(link)">{{ step.label | withDays }}</button>
              } @else {
                {{ step.label | withDays }}
              }
            </dt>
            <dd>{{ step.amount === undefined ? (step.text ?? '' | withDays) : (step.amount | amount) }}</dd>
          </div>
        }
        @if (how.unrounded) {
          <div class="sum">
            <dt>unrounded</dt>
            <dd>{{ showDecimal(how.unrounded) }}</dd>
          </div>
          <div class="result">
            <dt>{{ how.rounding }}</dt>
            <dd>{{ how.amount | amount }}</dd>
          </div>
        }
      </dl>
    </section>
  `,
  styles: `
    section {
      border: 1px solid var(--flag);
      border-radius: 8px;
      background: var(--flag-soft);
      padding: var(--space-4) var(--space-7) var(--space-6);
    }
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
    }
    h3 {
      color: var(--flag);
    }
    .head button {
      min-width: 28px;
      padding: 0;
      margin-right: -8px;
      color: var(--ink-2);
    }
    .title {
      font-weight: 650;
      margin-bottom: var(--space-2);
    }
    dl {
      margin: 0;
      font-size: var(--text-small);
    }
    dl > div {
      display: flex;
      justify-content: space-between;
      gap: var(--space-6);
      padding: var(--space-1) 0;
    }
    dd {
      margin: 0;
      flex: none;
      max-width: 62%;
      text-align: right;
    }
    .sum dd {
      max-width: none;
      flex: 0 1 auto;
      overflow-wrap: anywhere;
    }
    .sum {
      border-top: 1px solid color-mix(in srgb, var(--flag) 35%, transparent);
    }
    .result {
      font-weight: 650;
    }
    .link {
      border: 0;
      padding: 0;
      background: none;
      font: inherit;
      color: inherit;
      text-align: left;
      text-decoration: underline dotted;
      text-underline-offset: 3px;
      cursor: pointer;
    }
  `,
})
export class ExplainPanel {
  readonly explanation = input.required<Explanation>();
  readonly follow = output<FigureLink>();
  readonly closed = output();
  protected readonly showDecimal = showDecimal;
}

import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { MomentPipe } from '../../figures/moment.pipe';
import type { CloseStep } from '@coffer/contract';

/** The checks of a month one under another, each with who agreed to what does not hold. */
@Component({
  selector: 'coffer-checks-list',
  imports: [MomentPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (step of steps(); track step.name) {
        <li [class.wrong]="step.state === 'wrong'">
          <span class="mark" [class.agreed]="step.state === 'done'">{{
            step.state === 'wrong' ? '!' : '✓'
          }}</span>
          <span
            ><strong>{{ step.name }}</strong> {{ step.text }}
            @if (step.evidence; as evidence) {
              <br /><span class="dim">{{ evidence }}</span>
            }
            @if (step.by; as by) {
              <br /><span class="dim">agreed by {{ by.by ?? 'Coffer' }}, {{ by.at | moment }}</span>
            }
          </span>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: var(--space-4);
      padding: var(--space-1) 0;
      border-top: 1px solid var(--line);
      font-size: var(--text-small);
    }
    .mark {
      flex: none;
      width: 12px;
      font-weight: 650;
    }
  `,
})
export class ChecksList {
  readonly steps = input.required<readonly CloseStep[]>();
}

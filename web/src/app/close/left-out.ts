import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { CloseView } from '@coffer/contract';
import { AmountPipe } from '../figures/amount.pipe';

/** Names shown before the others are counted. */
const told = 8;

/** The accruals that a month does not book because they are too small to matter, with their sum. */
@Component({
  selector: 'coffer-left-out',
  imports: [AmountPipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Too small to accrue</h3>
    <ul>
      @for (one of first(); track one.id) {
        <li>
          <a [routerLink]="[page(one.id), one.id]">{{ one.name }}</a>
          <span class="figure">{{ one.amount | amount }}</span>
        </li>
      }
      @if (more() > 0) {
        <li class="dim">and {{ more() }} more</li>
      }
      <li class="sum">
        <span>Left out altogether</span><span class="figure">{{ sum() | amount }}</span>
      </li>
    </ul>
    <p class="dim">
      Below {{ close().materiality.each | amount }} each and {{ close().materiality.sum | amount }} together:
      the next payment charges the whole interest.
    </p>
  `,
  styles: `
    h3 {
      margin: var(--space-6) 0 var(--space-2);
      font-size: var(--text-body);
      font-weight: 600;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: var(--space-4);
      padding: var(--space-1) 0;
    }
    .sum {
      border-top: 1px solid var(--line);
      font-weight: 600;
    }
  `,
})
export class LeftOut {
  readonly close = input.required<CloseView>();
  protected readonly first = computed(() => this.close().leftOut.slice(0, told));
  protected readonly more = computed(() => this.close().leftOut.length - this.first().length);
  protected readonly sum = computed(() => this.close().leftOut.reduce((sum, { amount }) => sum + amount, 0));

  protected page(id: string): string {
    return this.close().funds.some((fund) => fund.id === id) ? '/funds' : '/instruments';
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { showMonth } from '@coffer/contract';
import { CompanyService } from '../company/company.service';
import { SessionService } from '../session/session.service';

interface NextStep {
  readonly name: string;
  readonly text: string;
  readonly to: string;
  readonly done: boolean;
}

/** What a company that has closed no month yet still needs; each ticks itself off. */
@Component({
  selector: 'coffer-next-steps',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shown()) {
      <section class="sheet" aria-label="What comes next">
        <h2>What comes next</h2>
        <ol>
          @for (step of steps(); track step.name) {
            <li [class.done]="step.done">
              <span class="mark" [class.agreed]="step.done">{{ step.done ? '✓' : '' }}</span>
              <a [routerLink]="step.to">{{ step.name }}</a>
              <span class="dim">{{ step.text }}</span>
            </li>
          }
        </ol>
      </section>
    }
  `,
  styles: `
    section {
      padding: var(--space-5) var(--space-7);
    }
    ol {
      list-style: none;
      margin: var(--space-3) 0 0;
      padding: 0;
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
      gap: var(--space-3) var(--space-7);
    }
    li {
      display: grid;
      grid-template-columns: 18px 1fr;
      align-items: baseline;
    }
    li .dim {
      grid-column: 2;
      font-size: var(--text-small);
    }
    a {
      font-weight: 600;
    }
    .mark {
      font-weight: 650;
    }
  `,
})
export class NextSteps {
  /** How many instruments the register has. */
  readonly instruments = input.required<number>();
  private readonly company = inject(CompanyService);
  private readonly session = inject(SessionService);
  protected readonly shown = computed(() => {
    const periods = this.company.company()?.periods ?? [];
    const nothingClosed = periods.length > 0 && periods.every(({ state }) => state !== 'closed');
    return nothingClosed && (this.session.mayPrepare() || this.session.mayAdminister());
  });
  protected readonly steps = computed((): NextStep[] => {
    const accounts = this.company.accounts().length;
    const many = this.instruments();
    const month = showMonth(this.company.openEnd() ?? '2000-01-31');
    return [
      {
        name: 'Accounts',
        text: accounts === 0 ? 'your chart from a file, or typed' : `${accounts} roles have one`,
        to: '/accounts',
        done: accounts > 0,
      },
      ...(this.session.mayAdminister()
        ? [{ name: 'People', text: 'each by a link that holds 72 hours', to: '/people', done: false }]
        : []),
      {
        name: 'Instruments',
        text: many === 0 ? 'all from a sheet, or one by one' : `${many} taken on`,
        to: '/instruments/many',
        done: many > 0,
      },
      {
        name: `Close ${month}`,
        text: 'worked out, looked through, locked',
        to: '/close',
        done: false,
      },
    ];
  });
}

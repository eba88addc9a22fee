import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { showDay, type CloseView } from '@coffer/contract';
import { MomentPipe } from '../../figures/moment.pipe';

interface Stage {
  readonly mark: string;
  readonly name: string;
  readonly at: string | undefined;
  readonly text: string;
  readonly on: boolean;
}

/** How far a month has come: open, handed over, closed; by whom and when. */
@Component({
  selector: 'coffer-month-stages',
  imports: [MomentPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol aria-label="How far the month has come">
      @for (stage of stages(); track stage.name) {
        <li [class.on]="stage.on">
          <strong>{{ stage.mark }} {{ stage.name }}</strong>
          <span class="dim"
            >{{ stage.text }}
            @if (stage.at; as at) {
              {{ at | moment }}
            }
          </span>
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: flex;
      flex-wrap: wrap;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      padding: 0 var(--space-6);
      border-left: 1px solid var(--line-2);
      font-size: var(--text-small);
      line-height: 1.35;
    }
    li:first-child {
      border-left: 0;
    }
    strong {
      color: var(--ink-3);
    }
    .on strong {
      color: var(--ink);
    }
  `,
})
export class MonthStages {
  readonly close = input.required<CloseView>();

  protected readonly stages = computed((): Stage[] => {
    const { state, endsOn, review, closedAs, closedAt, closedBy } = this.close();
    const last = (step: string): { by: string | null; at: string } | undefined =>
      review.steps.findLast((each) => each.step === step);
    const handed = last('handed-over');
    const returned = review.steps.at(-1)?.step === 'returned' ? review.steps.at(-1) : undefined;
    const two = state === 'closed' ? closedAs === 'reviewed' : review.twoPeople;
    const open: Stage = {
      mark: state === 'open' ? '◐' : '✓',
      name: returned && state === 'open' ? 'Open again' : 'Open',
      text:
        returned && state === 'open'
          ? `returned by ${returned.by ?? 'Coffer'}`
          : `from ${showDay(`${endsOn.slice(0, 8)}01`)}`,
      at: returned && state === 'open' ? returned.at : undefined,
      on: true,
    };
    const prepared: Stage = {
      mark: state === 'prepared' ? '◐' : state === 'closed' ? '✓' : '○',
      name: 'Prepared',
      text: handed && state !== 'open' ? (handed.by ?? '') : 'to be handed over',
      at: handed && state !== 'open' ? handed.at : undefined,
      on: state !== 'open',
    };
    const closed: Stage = {
      mark: state === 'closed' ? '✓' : '○',
      name: 'Closed',
      text:
        state === 'closed'
          ? `${closedBy ?? (closedAs === 'brought' ? 'brought in closed' : '')}${closedAs === 'alone' ? ', no second person' : ''}`
          : two
            ? 'to be approved'
            : 'no second person',
      at: closedAt ?? undefined,
      on: state === 'closed',
    };
    return two ? [open, prepared, closed] : [open, closed];
  });
}

import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { showMonth, type CloseView } from '@coffer/contract';
import { AmountPipe } from '../../figures/amount.pipe';
import { SessionService } from '../../session/session.service';

/** What can be decided about a month. */
export type Decision = 'hand-over' | 'return' | 'approve' | 'lock';

/** The one decision that a month waits for, and in a sentence what it does. `Ctrl Enter` takes it, `r` returns. */
@Component({
  selector: 'coffer-decision-bar',
  imports: [AmountPipe, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'onKey($event)' },
  template: `
    @let known = close();
    <p>
      @switch (main()) {
        @case ('approve') {
          <b>Approving</b> posts {{ known.draftCount }} entries, <b>{{ posts() | amount }}</b> each side, and
          locks {{ month() }}. Found later, a change becomes a catch-up in the month after.
          @if (progress(); as looked) {
            <span class="dim">{{ looked.looked }} of {{ looked.all }} lines looked at.</span>
          }
        }
        @case ('hand-over') {
          <b>Handing over</b> posts nothing yet. {{ approvers() }}
        }
        @case ('lock') {
          <b>Locking</b> posts {{ known.draftCount }} entries, <b>{{ posts() | amount }}</b> each side, for
          good. This company asks for no second person, and every paper says so.
        }
        @default {
          {{ waits() }}
        }
      }
    </p>
    <div class="buttons">
      @if (known.state === 'prepared' && session.mayReview()) {
        <button matButton="outlined" [disabled]="busy()" (click)="decided.emit('return')">
          Return with a comment <kbd>r</kbd>
        </button>
      }
      @if (main(); as which) {
        <button matButton="filled" [disabled]="busy()" (click)="decided.emit(which)">
          {{ title() }} <kbd>Ctrl Enter</kbd>
        </button>
      }
    </div>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      justify-content: space-between;
      gap: var(--space-4) var(--space-8);
      padding: var(--space-5) var(--space-7);
      background: var(--sheet);
      border: 1px solid var(--line);
      border-radius: 8px;
    }
    p {
      flex: 1 1 320px;
      max-width: 74ch;
    }
    .buttons {
      display: flex;
      flex-wrap: wrap;
      gap: var(--space-5);
    }
  `,
})
export class DecisionBar {
  readonly close = input.required<CloseView>();
  readonly busy = input(false);
  /** Lines looked at, while a month is reviewed. */
  readonly progress = input<{ readonly looked: number; readonly all: number }>();
  readonly decided = output<Decision>();
  protected readonly session = inject(SessionService);

  protected readonly month = computed(() => showMonth(this.close().endsOn));
  /** Of the entries that are still to be posted. */
  protected readonly posts = computed(() => this.close().draftDebits);

  /** The decision that who looks may take; none where they wait for somebody else. */
  protected readonly main = computed((): Exclude<Decision, 'return'> | undefined => {
    const { state, review } = this.close();
    if (state === 'closed') return undefined;
    if (!review.twoPeople) return this.session.mayPrepare() ? 'lock' : undefined;
    if (state === 'prepared' && review.barred === null && review.changed.length === 0) return 'approve';
    const again = state === 'open' || review.changed.length > 0;
    return again && this.session.mayPrepare() ? 'hand-over' : undefined;
  });

  protected readonly title = computed(() => {
    const titles = {
      approve: `Approve and lock ${this.month()}`,
      'hand-over': this.close().state === 'prepared' ? 'Hand over again' : `Hand over ${this.month()}`,
      lock: `Lock ${this.month()}`,
    };
    const main = this.main();
    return main ? titles[main] : '';
  });

  protected readonly approvers = computed(() => {
    const { approvers } = this.close().review;
    return approvers.length === 0
      ? 'Nobody may approve it yet: an administrator invites somebody who reviews.'
      : `${approvers.join(' or ')} may approve it then.`;
  });

  /** Why who looks has nothing to decide. */
  protected readonly waits = computed(() => {
    const { state, review } = this.close();
    if (state === 'open') return 'The month is being prepared. Nothing is posted yet.';
    if (review.changed.length > 0)
      return 'It was changed since it was handed over: it is handed over again first.';
    const who =
      review.approvers.length === 0
        ? 'Nobody else reviews here yet.'
        : `${review.approvers.join(' or ')} may approve it.`;
    return review.barred === null ? who : `${review.barred} ${who}`;
  });

  protected onKey(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLElement && event.target.closest('input, textarea, [role=dialog]');
    // What went to a place by its letters decides nothing.
    if (this.busy() || typing || event.defaultPrevented) return;
    const main = this.main();
    if (event.key === 'Enter' && event.ctrlKey && main) {
      event.preventDefault();
      this.decided.emit(main);
    } else if (event.key === 'r' && !event.ctrlKey && !event.metaKey && !event.altKey) {
      if (this.close().state !== 'prepared' || !this.session.mayReview()) return;
      event.preventDefault();
      this.decided.emit('return');
    }
  }
}

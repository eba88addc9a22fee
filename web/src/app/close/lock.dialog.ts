import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { type CloseView, type ConfirmCode, notRecorded, showMonth } from '@coffer/contract';
import { newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { attentionLines } from '../register/attention-lines';
import { CloseService } from './close.service';

/** A month that is to be closed, and how. */
export interface ToClose {
  readonly close: CloseView;
  readonly which: 'lock' | 'approve';
}

/** Says what closing a month does before it is done, by one person or by who approves it; it cannot be undone. */
@Component({
  selector: 'coffer-lock',
  imports: [AmountPipe, DayPipe, MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ title }}</h2>
    <mat-dialog-content>
      <ul>
        <li>
          {{ close.draftCount }} entries of {{ close.draftDebits | amount }} dated to
          {{ close.endsOn | day }} are posted and numbered.
        </li>
        <li>
          @if (close.accruals === 'standing') {
            Accruals are left standing; payments clear them. The next month opens.
          } @else {
            {{ close.reversalCount }} accruals are reversed on the first day of the next month, which opens.
          }
        </li>
        <li>The figures reported stay as they are for good. A later correction falls in the open month.</li>
        @for (one of attention; track $index) {
          <li>
            <span class="chip flag">{{ one.word }}</span> {{ one.name }}, {{ one.on }}
          </li>
        }
        @for (hand of named; track $index) {
          <li>
            <span class="chip flag">two people</span> {{ hand.message }} It stands on the paper of the month.
          </li>
        }
        @for (payment of close.unrecorded; track $index) {
          <li>
            <span class="chip wrong">{{ notRecorded }}</span> {{ payment.name }}, due {{ payment.due | day }},
            {{ payment.amount | amount }}
          </li>
        }
      </ul>
      @if (failed()) {
        <p class="notice wrong" role="alert">{{ failed() }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton mat-dialog-close [disabled]="busy()">Not yet</button>
      <button matButton="filled" (click)="lock()" [disabled]="busy()">
        {{ busy() ? 'Locking…' : title }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    ul {
      margin: 0;
      padding-left: var(--space-9);
      display: grid;
      gap: var(--space-4);
    }
  `,
})
export class LockDialog {
  private readonly asked = inject<ToClose>(MAT_DIALOG_DATA);
  protected readonly notRecorded = notRecorded;
  protected readonly close = this.asked.close;
  private readonly which = this.asked.which;
  private readonly closes = inject(CloseService);
  private readonly dialog = inject(MatDialogRef<LockDialog, string>);
  private readonly key = newKey();
  protected readonly attention = attentionLines([], this.close.attention);
  protected readonly named = this.which === 'approve' ? this.close.review.named : [];
  protected readonly month = showMonth(this.close.endsOn);
  protected readonly title = `${this.which === 'lock' ? 'Lock' : 'Approve and lock'} ${this.month}`;
  /** What is told here by name, and so confirmed with the button. */
  private readonly told: ConfirmCode[] = [
    ...(this.close.unrecorded.length > 0 ? (['payments-unrecorded'] as const) : []),
    ...(this.close.attention.some(({ kind }) => kind === 'fixing-due') ? (['fixings-missing'] as const) : []),
    ...this.named.map(({ code }) => code),
  ];
  protected readonly busy = signal(false);
  protected readonly failed = signal('');

  protected lock(): void {
    this.busy.set(true);
    this.failed.set('');
    this.closes.close(this.which, this.close, this.told, this.key).subscribe({
      next: ({ entries, reversals, opens, trail }) =>
        this.dialog.close(
          `${this.month} is locked: ${entries} entries are posted. ${showMonth(opens)} is open${reversals > 0 ? `, with ${reversals} reversals` : ''}. The audit trail stands at event ${trail.event}, ${trail.hash.slice(0, 12)}.`,
        ),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}

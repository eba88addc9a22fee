import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { type CloseView, showMonth } from '@coffer/contract';
import { newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { attentionLines } from '../register/attention-lines';
import { CloseService } from './close.service';

/** Says what locking a month does before it is done; it cannot be undone. */
@Component({
  selector: 'coffer-lock',
  imports: [AmountPipe, DayPipe, MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Lock {{ month }}</h2>
    <mat-dialog-content>
      <ul>
        <li>
          {{ close.entryCount }} entries of {{ close.debits | amount }} dated to {{ close.endsOn | day }} are
          posted and numbered.
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
        @for (payment of close.unrecorded; track $index) {
          <li>
            <span class="chip wrong">not recorded</span> {{ payment.name }}, due {{ payment.due | day }}:
            taken as paid as scheduled, {{ payment.amount | amount }}.
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
        {{ busy() ? 'Locking…' : 'Lock ' + month }}
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
  protected readonly close = inject<CloseView>(MAT_DIALOG_DATA);
  private readonly closes = inject(CloseService);
  private readonly dialog = inject(MatDialogRef<LockDialog, string>);
  private readonly key = newKey();
  protected readonly attention = attentionLines([], this.close.attention);
  protected readonly month = showMonth(this.close.endsOn);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');

  protected lock(): void {
    this.busy.set(true);
    this.failed.set('');
    this.closes.lock(this.close.endsOn, this.key).subscribe({
      next: ({ entries, reversals, opens }) =>
        this.dialog.close(
          `${this.month} is locked: ${entries} entries are posted. ${showMonth(opens)} is open${reversals > 0 ? `, with ${reversals} reversals` : ''}.`,
        ),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}

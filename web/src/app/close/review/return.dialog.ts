import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { showMonth } from '@coffer/contract';

/** What a month is returned with. */
export interface Returned {
  readonly comment: string;
  readonly instrumentId: string | undefined;
}

/** Asks what is to be seen to before a month is returned; about one instrument where one was looked at. */
@Component({
  selector: 'coffer-return',
  imports: [FormsModule, MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Return {{ month }}</h2>
    <mat-dialog-content>
      <p>Whoever prepares it sees what you say here, and hands it over again.</p>
      <label for="to-see-to">What is to be seen to</label>
      <textarea
        id="to-see-to"
        rows="4"
        maxlength="2000"
        cdkFocusInitial
        [(ngModel)]="comment"
        (keydown.control.enter)="give()"
        [attr.aria-invalid]="missing() ? true : null"
      ></textarea>
      @if (missing()) {
        <p class="wrong" role="alert">Say what is to be seen to.</p>
      }
      @if (about.line; as line) {
        <label class="one"
          ><input type="checkbox" [(ngModel)]="atLine" /> It is about {{ line.name }} alone</label
        >
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton mat-dialog-close>Not yet</button>
      <button matButton="filled" (click)="give()">Return it</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-4);
      /* Leaves the ring of what has the focus its room. */
      padding-bottom: var(--space-4);
    }
    .one {
      display: flex;
      gap: var(--space-4);
      align-items: center;
    }
  `,
})
export class ReturnDialog {
  protected readonly about = inject<{
    readonly endsOn: string;
    readonly line: { readonly id: string; readonly name: string } | undefined;
  }>(MAT_DIALOG_DATA);
  private readonly dialog = inject(MatDialogRef<ReturnDialog, Returned>);
  protected readonly month = showMonth(this.about.endsOn);
  protected readonly missing = signal(false);
  protected comment = '';
  protected atLine = this.about.line !== undefined;

  protected give(): void {
    const comment = this.comment.trim();
    this.missing.set(comment === '');
    if (comment === '') return;
    this.dialog.close({ comment, instrumentId: this.atLine ? this.about.line?.id : undefined });
  }
}

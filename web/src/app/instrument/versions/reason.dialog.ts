import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { Observable } from 'rxjs';
import { messageOf } from '../../api/message-of';

/** Something that is done for a reason, which is kept with it. */
export interface Reasoned {
  readonly title: string;
  /** What it does, in sentences. */
  readonly what: readonly string[];
  readonly does: string;
  readonly act: (reason: string) => Observable<unknown>;
}

/** Asks why, and then does it. Closes with `true` once it is done. */
@Component({
  selector: 'coffer-reason',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.title }}</h2>
    <form (submit)="go($event)">
      <mat-dialog-content>
        @for (sentence of asked.what; track $index) {
          <p>{{ sentence }}</p>
        }
        <mat-form-field>
          <mat-label>Why</mat-label>
          <input matInput [formControl]="reason" autocomplete="off" />
          @if (missing()) {
            <mat-hint class="wrong">Say why; it is kept with the history.</mat-hint>
          }
        </mat-form-field>
        @if (failed()) {
          <p class="notice wrong" role="alert">{{ failed() }}</p>
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button matButton type="button" mat-dialog-close [disabled]="busy()">Cancel</button>
        <button matButton="filled" type="submit" [disabled]="busy()">{{ asked.does }}</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-6);
    }
  `,
})
export class ReasonDialog {
  protected readonly asked = inject<Reasoned>(MAT_DIALOG_DATA);
  private readonly dialog = inject(MatDialogRef<ReasonDialog, true>);
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly busy = signal(false);
  protected readonly missing = signal(false);
  protected readonly failed = signal('');

  protected go(event: Event): void {
    event.preventDefault();
    const reason = this.reason.value.trim();
    this.missing.set(reason === '');
    if (reason === '' || this.busy()) return;
    this.busy.set(true);
    this.failed.set('');
    this.asked.act(reason).subscribe({
      next: () => this.dialog.close(true),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}

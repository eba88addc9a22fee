import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { showText, type Question } from '@coffer/contract';

/** Asks whether what looks unusual is meant so. Closes with `true` when it is. */
@Component({
  selector: 'coffer-confirm',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Is this meant so?</h2>
    <mat-dialog-content>
      @for (question of questions; track $index) {
        <p>{{ showText(question.message) }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton mat-dialog-close cdkFocusInitial>Go back</button>
      <button matButton="filled" [mat-dialog-close]="true">Yes, do it</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-6);
    }
  `,
})
export class ConfirmDialog {
  protected readonly showText = showText;
  protected readonly questions = inject<readonly Question[]>(MAT_DIALOG_DATA);
}

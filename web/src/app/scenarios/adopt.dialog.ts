import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { changesFromTheStart } from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { TypedField } from '../fields/typed-field';
import { ScenarioDesk, type DeskScenario } from './scenario-desk';
import { wordsOf } from './scenario-words';

/** Makes a scenario the terms of every instrument that it changes, with one reason: all of them, or none. */
@Component({
  selector: 'coffer-adopt-scenario',
  imports: [MatButtonModule, MatDialogModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Make {{ scenario.letter }} the terms</h2>
    <form (submit)="adopt($event)">
      <mat-dialog-content>
        <p>
          {{ changes.length === 1 ? 'One instrument gets' : changes.length + ' instruments get' }} a new
          version of its terms; all of them, or none.
        </p>
        <ul>
          @for (change of changes; track change.name) {
            <li>
              <strong>{{ change.name }}</strong><br />{{ change.words }}
            </li>
          }
        </ul>
        @if (fromTheStart) {
          <p class="notice">
            It changes terms from the start. Recorded payments stay as they were made; what closed months
            reported stays, and the difference is corrected in the open month.
          </p>
        }
        <coffer-typed-field
          label="Why the terms change"
          [control]="reason"
          [fault]="asked() && reason.value.trim() === '' ? 'Say why; it is kept with each version.' : ''"
        />
        @if (failed().length > 0) {
          <div class="notice wrong" role="alert">
            @for (line of failed(); track $index) {
              <p>{{ line }}</p>
            }
          </div>
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button matButton type="button" mat-dialog-close [disabled]="busy()">Not yet</button>
        <button matButton="filled" [disabled]="busy()">Make it the terms</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-6);
    }
    ul {
      margin: 0;
      padding-left: var(--space-7);
      max-height: 260px;
      overflow: auto;
    }
    p {
      margin: 0;
    }
  `,
})
export class AdoptDialog {
  protected readonly scenario = inject<DeskScenario>(MAT_DIALOG_DATA);
  private readonly desk = inject(ScenarioDesk);
  private readonly dialog = inject(MatDialogRef<AdoptDialog, string>);
  protected readonly changes = this.scenario.changes.map((change) => ({
    name: change.name,
    words: wordsOf(change),
  }));
  protected readonly fromTheStart = this.scenario.changes.some(
    ({ change }) => change !== undefined && changesFromTheStart(change),
  );
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  protected readonly failed = signal<readonly string[]>([]);

  protected adopt(event: Event): void {
    event.preventDefault();
    const reason = this.reason.value.trim();
    this.asked.set(true);
    if (reason === '') return;
    this.busy.set(true);
    this.desk.adopt(this.scenario.key, reason).subscribe({
      next: (count) => {
        const what = count === 1 ? 'One instrument has' : `${count} instruments have`;
        this.dialog.close(`${this.scenario.name}: ${what} a new version of its terms.`);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.failed.set([messageOf(error), ...faults.map(({ message }) => message)]);
      },
    });
  }
}

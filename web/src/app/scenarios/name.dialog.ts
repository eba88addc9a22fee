import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { TypedField } from '../fields/typed-field';
import { ScenarioDesk, type DeskScenario } from './scenario-desk';

/** Keeps a scenario under a name, for everybody to see. */
@Component({
  selector: 'coffer-name-scenario',
  imports: [MatButtonModule, MatDialogModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keep this scenario</h2>
    <form (submit)="keep($event)">
      <mat-dialog-content>
        <p>Everybody of the company sees it under its name. It changes nothing in the books.</p>
        <coffer-typed-field label="Name" [control]="name" [fault]="fault()" />
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button matButton type="button" mat-dialog-close [disabled]="busy()">Not yet</button>
        <button matButton="filled" [disabled]="busy()">Keep it</button>
      </mat-dialog-actions>
    </form>
  `,
})
export class NameDialog {
  private readonly scenario = inject<DeskScenario>(MAT_DIALOG_DATA);
  private readonly desk = inject(ScenarioDesk);
  private readonly dialog = inject(MatDialogRef<NameDialog, string>);
  protected readonly name = new FormControl(this.scenario.name, { nonNullable: true });
  protected readonly fault = signal('');
  protected readonly busy = signal(false);

  protected keep(event: Event): void {
    event.preventDefault();
    const name = this.name.value.trim();
    if (name === '') {
      this.fault.set('Type a name that tells it from the others.');
      return;
    }
    this.busy.set(true);
    this.desk.keep(this.scenario.key, name).subscribe({
      next: (view) => this.dialog.close(view.name),
      error: (error: unknown) => {
        this.busy.set(false);
        this.fault.set((error instanceof ApiRefusal && error.faultOf('name')) || messageOf(error));
      },
    });
  }
}

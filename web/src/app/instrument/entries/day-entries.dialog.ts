import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { entriesOnDay, type CalendarDay, type Schedule } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { EntryList } from '../../journal/entry-list';
import { entryViews, type AccountNames } from '../../journal/entry-views';
import { TypedField } from '../../fields/typed-field';
import { readDay } from '../../typed/typed-day';

/** Whose entries, and the day to begin with. */
export interface DayOfEntries {
  readonly name: string;
  readonly schedule: Schedule;
  readonly day: CalendarDay;
  readonly accounts: AccountNames;
}

/** The entries of any day: what falls on it, and what a period ending on it accrues. */
@Component({
  selector: 'coffer-day-entries',
  imports: [EntryList, MatButtonModule, MatDialogModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Entries of a day</h2>
    <mat-dialog-content>
      <p class="dim">{{ asked.name }}: what falls on the day, and what a period that ends on it accrues.</p>
      <coffer-typed-field label="Day" [control]="typed" [fault]="fault()" [hint]="hint()" />
      <coffer-entry-list [entries]="entries()" [posts]="false" />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="filled" mat-dialog-close>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-6);
    }
  `,
})
export class DayEntriesDialog {
  protected readonly asked = inject<DayOfEntries>(MAT_DIALOG_DATA);
  protected readonly typed = new FormControl(showDay(this.asked.day), { nonNullable: true });
  private readonly text = toSignal(this.typed.valueChanges, { initialValue: this.typed.value });
  private readonly read = computed(() => readDay(this.text(), this.asked.day));
  protected readonly fault = computed(() =>
    this.read() === undefined ? 'Type a date that exists, such as 15 Jun 2026.' : '',
  );
  protected readonly hint = computed(() => {
    const day = this.read();
    return day === undefined || showDay(day) === this.text().trim() ? '' : showDay(day);
  });
  protected readonly entries = computed(() => {
    const day = this.read();
    const found = day === undefined ? [] : entriesOnDay(this.asked.schedule, day);
    return entryViews(found, this.asked.accounts);
  });
}

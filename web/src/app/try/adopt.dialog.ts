import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { loanOutcome, type LoanSchedule } from '@coffer/core';
import {
  changedDocument,
  changesFromTheStart,
  readInstrument,
  type LoanDocument,
  type TermsChange,
} from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { InstrumentsService, type OpenInstrument } from '../instrument/instruments.service';
import { TypedField } from '../fields/typed-field';
import { changeInWords } from './change-in-words';
import { comparedLines } from './comparison';

/** A variant that is to become the real terms. */
export interface Adoption {
  readonly instrument: OpenInstrument;
  readonly change: TermsChange;
  readonly letter: string;
}

/** Makes a variant the real terms, with the reason: what it changes and what it comes to is shown first. */
@Component({
  selector: 'coffer-adopt',
  imports: [MatButtonModule, MatDialogModule, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Make variant {{ adoption.letter }} the terms</h2>
    <mat-dialog-content>
      <p>
        <strong>{{ words }}</strong> becomes version {{ adoption.instrument.version + 1 }} of
        {{ adoption.instrument.read.document.name }}.
      </p>
      @if (fault) {
        <p class="notice wrong" role="alert">{{ fault }}</p>
      } @else {
        <table>
          <thead>
            <tr>
              <td></td>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
            </tr>
          </thead>
          <tbody>
            @for (line of lines; track line.name) {
              <tr>
                <th scope="row">{{ line.name }}</th>
                @for (text of line.texts; track $index) {
                  <td>{{ text }}</td>
                }
              </tr>
            }
          </tbody>
        </table>
      }
      @if (fromTheStart) {
        <p class="notice">
          It changes the terms from the start. Recorded payments stay as they were made; what closed months
          reported stays, and the difference is corrected in the open month.
        </p>
      }
      <coffer-typed-field
        label="Why the terms change"
        [control]="reason"
        [fault]="asked() && reason.value.trim() === '' ? 'Say why; it is kept with the version.' : ''"
      />
      @if (failed()) {
        <p class="notice wrong" role="alert">{{ failed() }} Nothing was changed.</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton mat-dialog-close [disabled]="busy()">Not yet</button>
      <button matButton="filled" [disabled]="busy() || fault !== ''" (click)="adopt()">
        Make it the terms
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-6);
    }
    table {
      border-collapse: collapse;
    }
    th,
    td {
      padding: var(--space-1) var(--space-4);
      text-align: right;
      border-bottom: 1px solid var(--line);
    }
    tbody th {
      text-align: left;
      font-weight: 400;
      color: var(--ink-2);
    }
  `,
})
export class AdoptDialog {
  protected readonly adoption = inject<Adoption>(MAT_DIALOG_DATA);
  private readonly instruments = inject(InstrumentsService);
  private readonly digits = inject(CompanyService).digits;
  private readonly dialog = inject(MatDialogRef<AdoptDialog, string>);
  protected readonly words = changeInWords(this.adoption.change);
  protected readonly fromTheStart = changesFromTheStart(this.adoption.change);
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  private readonly read = computed(() => {
    const document = this.adoption.instrument.read.document as LoanDocument;
    const changed = changedDocument(document, this.adoption.change);
    return changed.ok ? readInstrument(changed.document) : changed;
  });
  protected readonly fault = this.faultText();
  protected readonly lines = this.compared();

  private faultText(): string {
    const read = this.read();
    return read.ok ? '' : `${read.faults.map(({ message }) => message).join(' ')} Nothing can be made of it.`;
  }

  /** With what was recorded, which a variant tried from the start leaves out. */
  private compared(): readonly { name: string; texts: readonly string[] }[] {
    const read = this.read();
    if (!read.ok) return [];
    const outcome = loanOutcome(read.instrument.schedule as LoanSchedule);
    const original = loanOutcome(this.adoption.instrument.read.schedule as LoanSchedule);
    return comparedLines(original, [{ ok: true, outcome, curve: [] }], this.digits());
  }

  protected adopt(): void {
    const read = this.read();
    const reason = this.reason.value.trim();
    this.asked.set(true);
    if (!read.ok || reason === '') return;
    this.busy.set(true);
    const { id, version } = this.adoption.instrument;
    this.instruments.change(id, version, read.instrument.document, reason).subscribe({
      next: (saved) => this.dialog.close(`${this.words} is in the terms since version ${saved.version}.`),
      error: (error: unknown) => {
        this.busy.set(false);
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.failed.set([messageOf(error), ...faults.map(({ message }) => message)].join(' '));
      },
    });
  }
}

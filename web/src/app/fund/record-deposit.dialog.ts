import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { formatDay } from '@coffer/core';
import { showDay, type FundDocument, showAmount } from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { ChoiceField } from '../fields/choice-field';
import { FieldReader } from '../fields/field-reader';
import { amountHint, dayHint } from '../fields/hints';
import { TypedField } from '../fields/typed-field';
import { FundsService, type OpenFund } from './funds.service';
import { depositChoices, likelyDeposit, withDeposit, withoutDeposit } from './made-deposits';

/** Records what was paid into a fund for a deposit: when and how much; or takes back what was recorded. */
@Component({
  selector: 'coffer-record-deposit',
  imports: [ChoiceField, MatButtonModule, MatDialogModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Record a deposit</h2>
    <form (submit)="record($event)">
      <mat-dialog-content>
        <p class="dim">{{ fund.document.name }}</p>
        <coffer-choice-field label="Deposit" [control]="due" [choices]="choices" />
        <coffer-typed-field
          label="Left the bank on"
          [control]="on"
          [fault]="faults()['on'] ?? ''"
          [hint]="dayHint(typedOn())"
        />
        <coffer-typed-field
          label="Amount paid in"
          [control]="amount"
          [fault]="faults()['amount'] ?? ''"
          [hint]="amountHint(typedAmount())"
        />
        @if (failed()) {
          <p class="notice wrong" role="alert">{{ failed() }}</p>
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button matButton type="button" mat-dialog-close [disabled]="busy()">Cancel</button>
        @if (recorded()) {
          <button matButton type="button" [disabled]="busy()" (click)="takeBack()">Take back</button>
        }
        <button matButton="filled" [disabled]="busy()">Record</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-7);
    }
  `,
})
export class RecordDepositDialog {
  protected readonly fund = inject<OpenFund>(MAT_DIALOG_DATA);
  private readonly funds = inject(FundsService);
  private readonly asOf = inject(AsOfService);
  private readonly dialog = inject(MatDialogRef<RecordDepositDialog, string>);
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly choices = depositChoices(this.fund.schedule, this.asOf.date());
  protected readonly due = new FormControl(likelyDeposit(this.fund.schedule, this.asOf.date()), {
    nonNullable: true,
  });
  protected readonly on = new FormControl('', { nonNullable: true });
  protected readonly amount = new FormControl('', { nonNullable: true });
  protected readonly typedOn = toSignal(this.on.valueChanges, { initialValue: '' });
  protected readonly typedAmount = toSignal(this.amount.valueChanges, { initialValue: '' });
  private readonly chosenDue = toSignal(this.due.valueChanges, { initialValue: this.due.value });
  protected readonly recorded = computed(() =>
    (this.fund.document.events ?? []).find((event) => event.due === this.chosenDue()),
  );
  protected readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly failed = signal('');
  protected readonly busy = signal(false);

  constructor() {
    this.fill();
    this.due.valueChanges.subscribe(() => this.fill());
  }

  /** What is agreed for the deposit, or was recorded for it. */
  private fill(): void {
    const row = this.fund.schedule.rows.find(({ agreed }) => formatDay(agreed) === this.due.value);
    if (!row) return;
    this.on.setValue(showDay(row.due));
    this.amount.setValue(showAmount(row.deposit, this.fund.schedule.terms.digits));
  }

  protected record(event: Event): void {
    event.preventDefault();
    const read = new FieldReader();
    const on = read.day('on', this.on.value);
    const amount = read.amount('amount', this.amount.value);
    this.faults.set(read.byKey());
    if (on === undefined || amount === undefined) return;
    const made = { due: this.due.value, on, amount };
    this.save(withDeposit(this.fund.document, made), `Deposit due ${made.due} recorded`);
  }

  protected takeBack(): void {
    const due = this.due.value;
    this.save(withoutDeposit(this.fund.document, due), `Deposit due ${due} taken back`);
  }

  private save(document: FundDocument, reason: string): void {
    this.busy.set(true);
    this.failed.set('');
    this.funds.change(this.fund, document, reason).subscribe({
      next: () => this.dialog.close(`${reason}.`),
      error: (error: unknown) => {
        this.busy.set(false);
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.failed.set([messageOf(error), ...faults.map(({ message }) => message)].join(' '));
      },
    });
  }
}

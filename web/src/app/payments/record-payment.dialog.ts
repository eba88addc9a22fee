import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { assumedPaid, showAmount, showDay, type DuePayment } from '@coffer/contract';
import { ApiRefusal, newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { ChoiceField } from '../fields/choice-field';
import { dayHint } from '../fields/hints';
import { TypedField } from '../fields/typed-field';
import type { OpenInstrument } from '../instrument/instruments.service';
import {
  draftOf,
  fellDueBefore,
  paymentMade,
  recordedText,
  readDraft,
  restOf,
  type DraftedPayment,
  type PaymentDraft,
} from './payment-draft';
import { PaymentsService } from './payments.service';
import { unrecordedNear } from './unrecorded-near';

/** Records what was paid for a payment that fell due: when and how much. */
@Component({
  selector: 'coffer-record-payment',
  imports: [ChoiceField, MatButtonModule, MatDialogModule, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Record a payment</h2>
    <form [formGroup]="form" (ngSubmit)="save()">
      <mat-dialog-content>
        <p class="dim">{{ instrument.read.document.name }}</p>
        <coffer-choice-field
          label="Payment due"
          [control]="form.controls.due"
          [choices]="choices"
          [fault]="refused('due')"
        />
        <coffer-typed-field
          label="Left the bank on"
          [control]="form.controls.on"
          [fault]="fault('on')"
          [hint]="dayHint(form.controls.on.value)"
        />
        <coffer-typed-field
          label="Amount paid"
          [control]="form.controls.amount"
          [fault]="fault('amount')"
          [hint]="words()"
        />
        @if (failed()) {
          <p class="notice wrong" role="alert">{{ failed() }}</p>
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button matButton type="button" mat-dialog-close>Cancel</button>
        <button matButton="filled" type="submit" [disabled]="busy()">Record</button>
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
export class RecordPaymentDialog {
  protected readonly instrument = inject<OpenInstrument>(MAT_DIALOG_DATA);
  private readonly recording = inject(PaymentsService);
  private readonly dialog = inject(MatDialogRef<RecordPaymentDialog, string>);
  private readonly company = inject(CompanyService);
  private readonly key = newKey();
  private readonly digits = this.company.digits();
  private readonly payments = unrecordedNear(this.instrument, this.company.openEnd());
  protected readonly choices = this.payments.map((payment) => [payment.due, this.name(payment)] as const);
  private readonly begun = this.draftFor(this.payments[0]?.due ?? '');
  protected readonly form = new FormGroup({
    due: new FormControl(this.payments[0]?.due ?? '', { nonNullable: true }),
    on: new FormControl(this.begun?.on ?? '', { nonNullable: true }),
    amount: new FormControl(this.begun?.amount ?? '', { nonNullable: true }),
  });
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  private readonly refusal = signal<ApiRefusal | undefined>(undefined);
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.getRawValue() });
  /** The payment that is chosen with what is typed for it. */
  private readonly drafted = computed((): DraftedPayment | undefined => {
    const { due, on = '', amount = '' } = this.typed();
    const payment = this.payments.find((candidate) => candidate.due === due);
    if (!payment) return undefined;
    const draft = { on, amount, ticked: true };
    const rest = payment.recorded.length > 0;
    const asked = rest ? payment.left : payment.amount;
    return { id: due ?? '', payment, rest, draft, reading: readDraft(payment, draft, this.digits, asked) };
  });
  protected readonly dayHint = dayHint;
  protected readonly words = computed(() => {
    const reading = this.drafted()?.reading;
    return reading && !reading.fault ? reading.words : '';
  });

  constructor() {
    this.form.controls.due.valueChanges.pipe(takeUntilDestroyed()).subscribe((due) => {
      const { on, amount } = this.draftFor(due) ?? { on: '', amount: '' };
      this.form.patchValue({ on, amount });
    });
  }

  /** What is typed at first: as agreed, or what a payment recorded in part still lacks. */
  private draftFor(due: string): PaymentDraft | undefined {
    const payment = this.payments.find((candidate) => candidate.due === due);
    const by = payment?.due ?? '';
    return payment && (restOf(payment, by, this.digits) ?? draftOf(payment, by, this.digits));
  }

  private name(payment: DuePayment): string {
    const { n, due, recorded, left, amount } = payment;
    const named = `No. ${n}, ${showDay(due)}`;
    if (recorded.length > 0) return `${named}, in arrears ${showAmount(left, this.digits)}`;
    const closed = fellDueBefore(payment, this.company.openEnd() ?? '');
    return `${named}, ${showAmount(amount, this.digits)}${closed ? `, ${assumedPaid.text}` : ''}`;
  }

  protected refused(key: string): string {
    return this.refusal()?.faultOf(`payments.0.${key}`) ?? '';
  }

  protected fault(field: 'on' | 'amount'): string {
    const fault = this.drafted()?.reading.fault;
    return fault?.field === field ? fault.message : this.refused(field);
  }

  protected save(): void {
    const drafted = this.drafted();
    if (!drafted || drafted.reading.fault) return;
    this.busy.set(true);
    this.failed.set('');
    const made = paymentMade(drafted, this.digits);
    this.recording.record([made], this.key).subscribe({
      next: () => this.dialog.close(recordedText(drafted, this.digits)),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
        this.refusal.set(error instanceof ApiRefusal ? error : undefined);
      },
    });
  }
}

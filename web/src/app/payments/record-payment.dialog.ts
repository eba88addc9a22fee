import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { formatAmount, formatDay, loanRows, minorOf, parseDay, type LoanRow } from '@coffer/core';
import { recordsPayments, showAmount, showDay, showDecimal } from '@coffer/contract';
import { ApiRefusal, newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { readDay } from '../typed/typed-day';
import { readNumber } from '../typed/typed-number';
import { PaymentsService } from './payments.service';
import type { OpenInstrument } from '../instrument/instruments.service';

interface DuePayment {
  readonly due: string;
  readonly n: number;
  readonly amount: string;
  readonly text: string;
  /** Whether part of it is recorded already, and this is what it lacks. */
  readonly rest: boolean;
}

const before = 3;
const most = 14;

/** Records what was paid for a payment that fell due: when and how much. */
@Component({
  selector: 'coffer-record-payment',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Record a payment</h2>
    <form [formGroup]="form" (ngSubmit)="save()">
      <mat-dialog-content>
        <p class="dim">{{ instrument.read.document.name }}</p>
        <mat-form-field>
          <mat-label>Payment due</mat-label>
          <mat-select formControlName="due">
            @for (payment of payments; track payment.due) {
              <mat-option [value]="payment.due">{{ payment.text }}</mat-option>
            }
          </mat-select>
          @if (fault('due'); as message) {
            <mat-hint class="wrong">{{ message }}</mat-hint>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>Left the bank on</mat-label>
          <input matInput formControlName="on" autocomplete="off" />
          <mat-hint [class.wrong]="onFault()">{{ onFault() || onHint() }}</mat-hint>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Amount paid</mat-label>
          <input matInput formControlName="amount" autocomplete="off" inputmode="decimal" />
          <mat-hint [class.wrong]="amountFault()">{{ amountFault() || amountHint() }}</mat-hint>
        </mat-form-field>
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
      gap: 14px;
    }
  `,
})
export class RecordPaymentDialog {
  protected readonly instrument = inject<OpenInstrument>(MAT_DIALOG_DATA);
  private readonly recording = inject(PaymentsService);
  private readonly dialog = inject(MatDialogRef<RecordPaymentDialog, string>);
  private readonly company = inject(CompanyService);
  private readonly key = newKey();
  protected readonly payments = this.duePayments();
  private readonly first = this.payments[0];
  protected readonly form = inject(NonNullableFormBuilder).group({
    due: [this.first?.due ?? ''],
    on: [this.first ? showDay(this.first.due) : ''],
    amount: [this.first ? showDecimal(this.first.amount) : ''],
  });
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  private readonly refusal = signal<ApiRefusal | undefined>(undefined);
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.getRawValue() });
  private readonly on = computed(() => readDay(this.typed().on ?? '', parseDay(this.typed().due ?? '')));
  private readonly amount = computed(() => readNumber(this.typed().amount ?? ''));
  private readonly chosen = computed(() => this.payments.find(({ due }) => due === this.typed().due));

  constructor() {
    this.form.controls.due.valueChanges.subscribe((due) => {
      const payment = this.payments.find((candidate) => candidate.due === due);
      if (payment) this.form.patchValue({ on: showDay(payment.due), amount: showDecimal(payment.amount) });
    });
  }

  /** Unrecorded payments from a few before the open period on, those of the open period first in mind. */
  private duePayments(): DuePayment[] {
    const { schedule } = this.instrument.read;
    if (!recordsPayments(schedule)) return [];
    const { terms, settings } = schedule;
    // What a payment recorded in part still lacks of what was agreed.
    const lacks = (row: LoanRow): number => {
      const agreed = minorOf(terms, settings[schedule.setting[row.index] as number]?.amount ?? 0n);
      const parts = schedule.receipts.byDue.get(row.due)?.parts ?? [];
      return agreed - parts.reduce((sum, { amount }) => sum + amount, 0);
    };
    const open = parseDay(this.company.openEnd() ?? '') ?? 0;
    const unrecorded = loanRows(schedule).filter(
      (row) => row.n !== null && (schedule.receipts.byDue.has(row.due) ? lacks(row) > 0 : row.payment > 0),
    );
    const ofMonth = unrecorded.findIndex((row) => row.due > open - 31);
    const start = Math.max(0, ofMonth);
    const ordered = [
      ...unrecorded.slice(start, start + most - before),
      ...unrecorded.slice(Math.max(0, start - before), start).reverse(),
    ];
    return ordered.map((row) => {
      const rest = schedule.receipts.byDue.has(row.due);
      const amount = rest ? lacks(row) : row.payment;
      return {
        due: formatDay(row.due),
        n: row.n ?? 0,
        amount: formatAmount(amount, terms.digits),
        text: `No. ${row.n}, ${showDay(row.due)}, ${rest ? 'rest of ' : ''}${showAmount(amount, terms.digits)}`,
        rest,
      };
    });
  }

  protected fault(key: string): string {
    return this.refusal()?.faultOf(`payments.0.${key}`) ?? '';
  }

  protected onFault(): string {
    return this.on() === undefined ? 'Type a date such as 15 Oct 2026.' : this.fault('on');
  }

  protected onHint(): string {
    const [on, due] = [this.on(), this.chosen()?.due];
    if (on === undefined || due === undefined) return '';
    const days = on - (parseDay(due) ?? on);
    const when = days === 0 ? 'on time' : `${Math.abs(days)} days ${days > 0 ? 'late' : 'early'}`;
    return `${showDay(on)}, ${when}`;
  }

  protected amountFault(): string {
    return this.amount() === undefined
      ? 'Type an amount such as 46,611.29; 0 for a missed payment.'
      : this.fault('amount');
  }

  protected amountHint(): string {
    const [amount, scheduled] = [this.amount(), this.chosen()?.amount];
    if (amount === undefined || scheduled === undefined) return '';
    if (Number(amount) === Number(scheduled)) return 'as scheduled';
    return Number(amount) < Number(scheduled)
      ? `less than the scheduled ${showDecimal(scheduled)}`
      : `more than the scheduled ${showDecimal(scheduled)}; the rest repays principal`;
  }

  protected save(): void {
    const [on, amount, payment] = [this.on(), this.amount(), this.chosen()];
    if (on === undefined || amount === undefined || !payment) return;
    this.busy.set(true);
    this.failed.set('');
    const { id, version } = this.instrument;
    const made = {
      instrumentId: id,
      version,
      due: payment.due,
      on: formatDay(on),
      amount,
      ...(payment.rest && { adds: true }),
    };
    this.recording.record([made], this.key).subscribe({
      next: () =>
        this.dialog.close(
          `Payment ${payment.n}, due ${showDay(payment.due)}: ${showDecimal(amount)} recorded on ${showDay(on)}.`,
        ),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
        this.refusal.set(error instanceof ApiRefusal ? error : undefined);
      },
    });
  }
}

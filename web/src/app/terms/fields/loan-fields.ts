import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatCheckboxModule } from '@angular/material/checkbox';
import * as choices from '../form/choices';
import type { LoanForm, TypedLoan } from '../form/loan-form';
import { ChoiceField } from './choice-field';
import { amountHint, dayHint, firstPaymentHint, partHint, rateHint } from './hints';
import { TypedField } from './typed-field';

/** What is agreed for a loan or a credit line as a whole: amount, dates, rate, and the conventions. */
@Component({
  selector: 'coffer-loan-fields',
  imports: [ChoiceField, MatCheckboxModule, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './loan-fields.html',
  styleUrl: './fields.scss',
})
export class LoanFields {
  readonly form = input.required<LoanForm>();
  readonly typed = input.required<TypedLoan>();
  readonly currency = input.required<string>();
  /** A credit line rather than a loan. */
  readonly line = input(false);
  readonly fault = input.required<(key: string) => string>();
  /** The value that was solved for a field holding `?`. */
  readonly solved = input.required<(key: 'amount' | 'annual') => string>();
  /** Whether some stretch has a payment that amount or rate can be worked out from. */
  protected readonly solvable = computed(() =>
    this.typed().stretches.some(({ type }) => type !== 'interest-only' && type !== 'no-payment'),
  );
  protected readonly choices = choices;
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly firstPaymentHint = firstPaymentHint;
  protected readonly partHint = partHint;
  protected readonly rateHint = rateHint;
}

import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatCheckboxModule } from '@angular/material/checkbox';
import * as choices from '../form/choices';
import type { BondForm, TypedTerms } from '../form/terms-form';
import { ChoiceField } from './choice-field';
import { amountHint, dayHint, rateHint } from './hints';
import { TypedField } from './typed-field';

/** The terms of a bond, in figures. */
@Component({
  selector: 'coffer-bond-fields',
  imports: [ChoiceField, MatCheckboxModule, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bond-fields.html',
  styleUrl: './fields.scss',
})
export class BondFields {
  readonly form = input.required<BondForm>();
  readonly typed = input.required<TypedTerms['bond']>();
  readonly currency = input.required<string>();
  readonly fault = input.required<(key: string) => string>();
  /** The price that a yield makes, or the yield that a price makes. */
  readonly workedOut = input.required<(of: 'price' | 'yield') => string>();
  protected readonly choices = choices;
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly rateHint = rateHint;
}

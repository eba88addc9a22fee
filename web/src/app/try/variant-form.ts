import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { ChoiceField } from '../fields/choice-field';
import { amountHint, dayHint, rateHint, riseHint } from '../fields/hints';
import { TypedField } from '../fields/typed-field';
import { compoundingOrAsAgreed, meanwhileChoices } from './change-in-words';
import { noChange, type TypedChange } from './typed-variant';

/** Controls for a change. */
export type ChangeForm = FormGroup<{
  [Key in keyof TypedChange]: FormControl<TypedChange[Key]>;
}>;

/** An empty form for a change. */
export function changeForm(): ChangeForm {
  const controls = Object.fromEntries(
    Object.entries(noChange).map(([key, value]) => [key, new FormControl(value, { nonNullable: true })]),
  );
  return new FormGroup(controls) as unknown as ChangeForm;
}

/** The fields of a change: whatever is left empty stays as it is. */
@Component({
  selector: 'coffer-variant-form',
  imports: [ChoiceField, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './variant-form.html',
  styleUrl: './variant-form.scss',
})
export class VariantForm {
  readonly form = input.required<ChangeForm>();
  readonly typed = input.required<TypedChange>();
  readonly fault = input.required<(key: string) => string>();
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly rateHint = rateHint;
  protected readonly riseHint = riseHint;
  protected readonly compoundings = compoundingOrAsAgreed;
  protected readonly meanwhiles = meanwhileChoices;
}

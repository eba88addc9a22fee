import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import * as choices from '../form/choices';
import type { StretchForm, TypedStretch } from '../form/stretch-form';
import { ChoiceField } from './choice-field';
import { amountHint } from './hints';
import { ListedField } from './listed-field';
import { TypedField } from './typed-field';

/** One stretch of payments, in figures. */
@Component({
  selector: 'coffer-stretch-fields',
  imports: [ChoiceField, ListedField, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stretch-fields.html',
  styleUrl: './fields.scss',
})
export class StretchFields {
  readonly form = input.required<StretchForm>();
  readonly typed = input.required<TypedStretch>();
  /** Place among the stretches. */
  readonly at = input.required<number>();
  readonly last = input.required<boolean>();
  readonly only = input.required<boolean>();
  readonly fault = input.required<(key: string) => string>();
  /** What a payment or a count left open comes to. */
  readonly worked = input('');
  readonly removed = output();
  readonly moved = output<number>();
  protected readonly choices = choices;
  protected readonly amountHint = amountHint;
  protected readonly left = computed(() => (this.last() ? 'left after the last' : 'left for what follows'));
  protected readonly key = computed(() => `payments.phases.${this.at()}`);
}

import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceField } from '../../fields/choice-field';
import { DescribedFields } from '../../fields/described-fields';
import type { Told } from '../../fields/field';
import { stretchFields } from '../described/stretch-fields';
import { stretchChoices } from '../form/choices';
import type { StretchForm, TypedStretch } from '../form/stretch-form';

/** One stretch of payments in figures: what it pays, and the fields of that. */
@Component({
  selector: 'coffer-stretch-fields',
  imports: [ChoiceField, DescribedFields, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <coffer-choice-field
        [label]="'Stretch ' + (at() + 1)"
        [control]="form().controls.type"
        [choices]="choices"
        [fault]="fault()(key())"
      />
      @if (!only()) {
        <button
          matButton
          type="button"
          [disabled]="at() === 0"
          (click)="moved.emit(-1)"
          [attr.aria-label]="'Move stretch ' + (at() + 1) + ' earlier'"
        >
          ↑
        </button>
        <button
          matButton
          type="button"
          (click)="removed.emit()"
          [attr.aria-label]="'Remove stretch ' + (at() + 1)"
        >
          ✕
        </button>
      }
    </div>
    <coffer-described-fields
      [sections]="sections()"
      [form]="form()"
      [typed]="typed()"
      [told]="told()"
      [fault]="fault()"
      [part]="key()"
    />
  `,
  styleUrl: '../../fields/fields.scss',
})
export class StretchFields {
  readonly form = input.required<StretchForm>();
  readonly typed = input.required<TypedStretch>();
  /** Place among the stretches. */
  readonly at = input.required<number>();
  readonly only = input.required<boolean>();
  readonly told = input.required<Told>();
  readonly fault = input.required<(key: string) => string>();
  readonly removed = output();
  readonly moved = output<number>();
  protected readonly choices = stretchChoices;
  protected readonly sections = computed(() => [{ rows: stretchFields[this.typed().type] }]);
  protected readonly key = computed(() => `payments.phases.${this.at()}`);
}

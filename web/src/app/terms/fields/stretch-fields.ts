import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { DescribedFields } from '../../fields/described-fields';
import type { Told } from '../../fields/field';
import { stretchFields } from '../described/stretch-fields';
import { stretchChoices } from '../form/choices';
import type { StretchForm, TypedStretch } from '../form/stretch-form';
import { PartHead } from './part-head';

/** One stretch of payments in figures: what it pays, how often where that is asked beside it, how long, and the fields of that. */
@Component({
  selector: 'coffer-stretch-fields',
  imports: [DescribedFields, PartHead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <coffer-part-head
      [name]="only() ? 'What is paid' : 'Stretch'"
      [numbered]="!only()"
      [at]="at()"
      [type]="form().controls.type"
      [offered]="choices"
      [fault]="fault()(key())"
      [movable]="!only()"
      [removable]="!only()"
      (moved)="moved.emit($event)"
      (removed)="removed.emit()"
    />
    <div class="pair">
      <ng-content />
      @if (term(); as section) {
        <coffer-described-fields
          [sections]="[section]"
          [form]="form()"
          [typed]="typed()"
          [told]="told()"
          [fault]="fault()"
          [part]="key()"
        />
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
  styleUrls: ['../../fields/fields.scss', '../parts.scss'],
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
  protected readonly term = computed(() => {
    const { term } = stretchFields[this.typed().type];
    return term && { rows: [[term]] };
  });
  protected readonly sections = computed(() => [{ rows: stretchFields[this.typed().type].rows }]);
  protected readonly key = computed(() => `payments.phases.${this.at()}`);
}

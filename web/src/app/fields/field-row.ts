import { showText } from '@coffer/contract';
import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormControl, type FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { ChoiceField } from './choice-field';
import type { Field, Told } from './field';
import { hintOf } from './hints';
import { ListedField } from './listed-field';
import { TypedField } from './typed-field';

/** Fields beside each other, each with what was understood or what is wrong beneath it. */
@Component({
  selector: 'coffer-field-row',
  imports: [ChoiceField, ListedField, MatCheckboxModule, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (field of fields(); track field) {
      @if ('choices' in field) {
        <coffer-choice-field
          [label]="label(field)"
          [control]="control(field.control)"
          [choices]="field.choices"
          [fault]="wrong()(field)"
        />
      } @else if ('flag' in field) {
        <mat-checkbox [formControl]="control(field.control)">{{ label(field) }}</mat-checkbox>
      } @else if ('listed' in field) {
        <coffer-listed-field
          [control]="control(field.control)"
          [key]="part() + '.' + field.key"
          [fault]="fault()"
        />
      } @else {
        <coffer-typed-field
          [label]="label(field)"
          [control]="control(field.control)"
          [fault]="wrong()(field)"
          [hint]="hint(field)"
          [placeholder]="example(field.placeholder)"
          [offers]="field.offers?.(told()) ?? []"
        />
      }
    }
  `,
  styles: `
    :host {
      display: block;
    }
    :host(.pair) {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      gap: var(--space-5);
      align-items: start;
    }
    /* A lone field beside nothing takes all the room. */
    :host(.pair:has(> :only-child)) {
      grid-template-columns: minmax(0, 1fr);
    }
  `,
})
export class FieldRow<Typed extends object> {
  readonly fields = input.required<readonly Field<Typed>[]>();
  readonly form = input.required<FormGroup>();
  readonly typed = input.required<Typed>();
  readonly told = input.required<Told>();
  /** What is wrong with a field, and with a key of the document; empty where nothing is. */
  readonly wrong = input.required<(field: Field<Typed>) => string>();
  readonly fault = input.required<(key: string) => string>();
  readonly part = input.required<string>();

  protected control(name: string): FormControl {
    const control = this.form().get(name);
    if (control instanceof FormControl) return control;
    throw new Error(`The form has no field ${name}`);
  }

  protected label({ label }: Field<Typed>): string {
    return typeof label === 'string' ? label : label(this.typed(), this.told());
  }

  /** An example as the company writes; in the description it is plain. */
  protected example(placeholder = ''): string {
    return showText(placeholder);
  }

  protected hint(field: Field<Typed>): string {
    return 'reads' in field ? hintOf(field, this.typed(), this.told()) : '';
  }
}

import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { FormGroup } from '@angular/forms';
import type { Field, Told } from './field';
import { FieldRow } from './field-row';

/** A row as it is asked for now: fields, or words between fields. */
export interface ShownRow<Typed> {
  /** Its place among all that may be asked for: it stays what it is as others come and go. */
  readonly at: number;
  readonly note: string;
  readonly fields: readonly Field<Typed>[];
  readonly pair: boolean;
}

/** Rows of fields, with words between them. */
@Component({
  selector: 'coffer-field-rows',
  imports: [FieldRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.at) {
      @if (row.note) {
        <p class="dim">{{ row.note }}</p>
      } @else {
        <coffer-field-row
          [class.pair]="row.pair"
          [fields]="row.fields"
          [form]="form()"
          [typed]="typed()"
          [told]="told()"
          [wrong]="wrong()"
          [fault]="fault()"
          [part]="part()"
        />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: var(--space-6);
    }
    p {
      margin: 0;
    }
  `,
})
export class FieldRows<Typed extends object> {
  readonly rows = input.required<readonly ShownRow<Typed>[]>();
  readonly form = input.required<FormGroup>();
  readonly typed = input.required<Typed>();
  readonly told = input.required<Told>();
  readonly wrong = input.required<(field: Field<Typed>) => string>();
  readonly fault = input.required<(key: string) => string>();
  readonly part = input.required<string>();
}

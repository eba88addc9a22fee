import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormControl, type FormGroup } from '@angular/forms';
import { DescribedFields } from '../../fields/described-fields';
import type { Choices, Row, Told } from '../../fields/field';
import { PartHead } from './part-head';

/** One event in figures: its type, and the fields of the type. */
@Component({
  selector: 'coffer-event-fields',
  imports: [DescribedFields, PartHead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <coffer-part-head
      name="Event"
      [at]="at()"
      [type]="type()"
      [offered]="offered()"
      [fault]="fault()(key())"
      (removed)="removed.emit()"
    />
    <coffer-described-fields
      [sections]="[{ rows: rows() }]"
      [form]="form()"
      [typed]="typed()"
      [told]="told()"
      [fault]="fault()"
      [part]="key()"
    />
  `,
  styleUrl: '../../fields/fields.scss',
})
export class EventFields<Typed extends object> {
  readonly form = input.required<FormGroup>();
  readonly typed = input.required<Typed>();
  /** The fields of the event's type. */
  readonly rows = input.required<readonly Row<Typed>[]>();
  /** The types that it may be of. */
  readonly offered = input.required<Choices>();
  /** Place among the events. */
  readonly at = input.required<number>();
  /** The document's key of the event. */
  readonly key = input.required<string>();
  readonly told = input.required<Told>();
  readonly fault = input.required<(key: string) => string>();
  readonly removed = output();
  protected readonly type = computed(() => {
    const type = this.form().get('type');
    if (type instanceof FormControl) return type;
    throw new Error('An event is typed without its type');
  });
}

import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { FormGroup } from '@angular/forms';
import type { Field, Section, Told } from './field';
import { FieldRows } from './field-rows';

/** Draws sections of fields as they are described. */
@Component({
  selector: 'coffer-described-fields',
  imports: [FieldRows],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (section of shown(); track section.at) {
      @if (section.title) {
        <details [open]="section.open">
          <summary>{{ section.title }}</summary>
          <coffer-field-rows
            [rows]="section.rows"
            [form]="form()"
            [typed]="typed()"
            [told]="told()"
            [wrong]="wrong"
            [fault]="fault()"
            [part]="part()"
          />
        </details>
      } @else {
        <coffer-field-rows
          [rows]="section.rows"
          [form]="form()"
          [typed]="typed()"
          [told]="told()"
          [wrong]="wrong"
          [fault]="fault()"
          [part]="part()"
        />
      }
    }
  `,
  styleUrl: './fields.scss',
})
export class DescribedFields<Typed extends object> {
  readonly sections = input.required<readonly Section<Typed>[]>();
  readonly form = input.required<FormGroup>();
  readonly typed = input.required<Typed>();
  readonly told = input.required<Told>();
  /** What is wrong with the field of a key of the document; empty where nothing is. */
  readonly fault = input.required<(key: string) => string>();
  /** The document's key of the part that the fields belong to; empty for the document itself. */
  readonly part = input('');
  /** The sections with what is asked for now. */
  protected readonly shown = computed(() => {
    const typed = this.typed();
    const sections = this.sections().map((section, ofSections) => {
      const rows = section.rows.map((row, at) =>
        typeof row === 'function'
          ? { at, note: row(typed), fields: [], pair: false }
          : { at, note: '', fields: row.filter(({ when }) => when?.(typed) ?? true), pair: row.length > 1 },
      );
      const faulty =
        rows.some(({ fields }) => fields.some((field) => this.wrong(field) !== '')) ||
        (section.faults ?? []).some((key) => this.fault()(this.ofPart(key)) !== '');
      return {
        at: ofSections,
        title: section.title,
        rows: rows.filter(({ note, fields }) => note !== '' || fields.length > 0),
        open: faulty || (section.open?.(typed) ?? false),
      };
    });
    return sections.filter(({ rows }) => rows.length > 0);
  });

  protected readonly wrong = (field: Field<Typed>): string => {
    const keys = [...(field.key === undefined ? [] : [field.key]), ...(field.faults ?? [])];
    return keys.map((key) => this.fault()(this.ofPart(key))).find((text) => text !== '') ?? '';
  };

  private ofPart(key: string): string {
    return this.part() === '' ? key : `${this.part()}.${key}`;
  }
}

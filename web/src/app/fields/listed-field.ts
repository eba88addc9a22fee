import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { typedList } from '../typed/listed-amounts';
import { FormControl, ReactiveFormsModule } from '@angular/forms';

const shownList = [
  { on: '2026-06-15', amount: '12000' },
  { on: '2026-12-15', amount: '18500' },
];

/** Dates and amounts listed one a line, with what is wrong right beneath them. */
@Component({
  selector: 'coffer-listed-field',
  imports: [ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      <span class="dim">A date and an amount on each line</span>
      <textarea
        [formControl]="control()"
        [placeholder]="example"
        [attr.aria-invalid]="wrong() ? true : null"
      ></textarea>
      @if (wrong(); as message) {
        <span class="wrong" role="alert">{{ message }}</span>
      }
    </label>
  `,
  styles: `
    label {
      display: grid;
      gap: var(--space-2);
    }
    textarea {
      min-height: 110px;
    }
  `,
})
export class ListedField {
  readonly control = input.required<FormControl<string>>();
  protected readonly example = ['such as', typedList(shownList)].join('\n');
  /** The document's key of the list. */
  readonly key = input.required<string>();
  readonly fault = input.required<(key: string) => string>();

  /** The first thing that is wrong with the list. */
  protected wrong(): string {
    const lines = this.control().value.split('\n').length;
    const places = Array.from({ length: lines }, (_, line) => `${this.key()}.${line}`);
    const keys = [this.key(), ...places.flatMap((place) => [place, `${place}.on`, `${place}.amount`])];
    return keys.map((each) => this.fault()(each)).find((message) => message !== '') ?? '';
  }
}

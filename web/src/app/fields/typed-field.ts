import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** Fields made so far: each offers what is its own. */
let made = 0;

/** A field that people type into freely, with what was understood or what is wrong right beneath it. */
@Component({
  selector: 'coffer-typed-field',
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field [class.faulty]="fault()">
      <mat-label>{{ label() }}</mat-label>
      <input
        matInput
        autocomplete="off"
        [formControl]="control()"
        [placeholder]="placeholder()"
        [attr.aria-invalid]="fault() ? true : null"
        [attr.list]="offers().length > 0 ? listId : null"
      />
      @if (offers().length > 0) {
        <datalist [id]="listId">
          @for (offered of offers(); track offered) {
            <option [value]="offered"></option>
          }
        </datalist>
      }
      @if (fault(); as message) {
        <mat-hint class="wrong" role="alert">{{ message }}</mat-hint>
      } @else if (hint()) {
        <mat-hint>{{ hint() }}</mat-hint>
      }
    </mat-form-field>
  `,
  styleUrl: './outlined-field.scss',
})
export class TypedField {
  readonly label = input.required<string>();
  readonly control = input.required<FormControl<string>>();
  readonly fault = input('');
  readonly hint = input('');
  readonly placeholder = input('');
  /** What is offered while it is typed into. */
  readonly offers = input<readonly string[]>([]);
  protected readonly listId = `offers-${(made += 1)}`;
}

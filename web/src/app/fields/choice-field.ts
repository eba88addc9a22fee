import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';

/** A field with a few things to choose from. */
@Component({
  selector: 'coffer-choice-field',
  imports: [MatFormFieldModule, MatSelectModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>{{ label() }}</mat-label>
      <mat-select [formControl]="control()" panelWidth="auto">
        <mat-select-trigger>{{ shown() }}</mat-select-trigger>
        @for (choice of choices(); track choice[0]) {
          <mat-option [value]="choice[0]">{{ choice[1] }}</mat-option>
        }
      </mat-select>
      @if (fault()) {
        <mat-hint class="wrong" role="alert">{{ fault() }}</mat-hint>
      }
    </mat-form-field>
  `,
  styles: `
    :host {
      display: block;
    }
    mat-form-field {
      width: 100%;
    }
  `,
})
export class ChoiceField {
  readonly label = input.required<string>();
  readonly control = input.required<FormControl>();
  readonly choices = input.required<readonly (readonly [value: string, name: string])[]>();
  readonly fault = input('');

  /** The choice in force, without the explanation that follows a colon where the list is open. */
  protected shown(): string {
    const chosen: unknown = this.control().value;
    return (
      this.choices()
        .find(([value]) => value === chosen)?.[1]
        .replace(/:.*/, '') ?? ''
    );
  }
}

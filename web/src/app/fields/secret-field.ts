import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** A password, hidden until it is asked to be shown; pasting is welcome. */
@Component({
  selector: 'coffer-secret-field',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field [class.faulty]="fault()">
      <mat-label>{{ label() }}</mat-label>
      <input
        matInput
        [type]="shown() ? 'text' : 'password'"
        [formControl]="control()"
        [attr.autocomplete]="autocomplete()"
        [attr.aria-invalid]="fault() ? true : null"
        maxlength="200"
      />
      <button
        matButton
        matSuffix
        type="button"
        [attr.aria-pressed]="shown()"
        [attr.aria-label]="(shown() ? 'Hide: ' : 'Show: ') + label()"
        (click)="shown.set(!shown())"
      >
        {{ word() }}
      </button>
      @if (fault(); as message) {
        <mat-hint class="wrong" role="alert">{{ message }}</mat-hint>
      }
    </mat-form-field>
  `,
  styleUrl: './outlined-field.scss',
})
export class SecretField {
  readonly label = input.required<string>();
  readonly control = input.required<FormControl<string>>();
  readonly fault = input('');
  readonly autocomplete = input<'current-password' | 'new-password'>('current-password');
  protected readonly shown = signal(false);
  protected readonly word = computed(() => (this.shown() ? 'Hide' : 'Show'));
}

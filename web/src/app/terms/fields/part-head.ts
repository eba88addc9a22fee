import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceField } from '../../fields/choice-field';
import type { Choices } from '../../fields/field';

/** The head of one stretch or event among others: what it is, and how it is moved or removed. */
@Component({
  selector: 'coffer-part-head',
  imports: [ChoiceField, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <coffer-choice-field
      [label]="numbered() ? name() + ' ' + (at() + 1) : name()"
      [control]="type()"
      [choices]="offered()"
      [fault]="fault()"
    />
    @if (movable()) {
      <button
        matButton
        type="button"
        [disabled]="at() === 0"
        (click)="moved.emit(-1)"
        [attr.aria-label]="'Move ' + name().toLowerCase() + ' ' + (at() + 1) + ' earlier'"
      >
        ↑
      </button>
    }
    @if (removable()) {
      <button
        matButton
        type="button"
        (click)="removed.emit()"
        [attr.aria-label]="'Remove ' + name().toLowerCase() + ' ' + (at() + 1)"
      >
        ✕
      </button>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: var(--space-2);
      align-items: start;
    }
    coffer-choice-field {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class PartHead {
  /** Such as `Event`. */
  readonly name = input.required<string>();
  /** Place among the others. */
  readonly at = input.required<number>();
  readonly type = input.required<FormControl>();
  readonly offered = input.required<Choices>();
  readonly fault = input('');
  /** Whether its place is told. */
  readonly numbered = input(true);
  readonly movable = input(false);
  readonly removable = input(true);
  readonly moved = output<number>();
  readonly removed = output();
}

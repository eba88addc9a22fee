import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import * as choices from '../form/choices';
import type { EventForm, TypedEvent } from '../form/event-form';
import { ChoiceField } from './choice-field';
import { amountHint, dayHint, rateHint } from './hints';
import { TypedField } from './typed-field';

/** One event, in figures. */
@Component({
  selector: 'coffer-event-fields',
  imports: [ChoiceField, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './event-fields.html',
  styleUrl: './fields.scss',
})
export class EventFields {
  readonly form = input.required<EventForm>();
  readonly typed = input.required<TypedEvent>();
  /** Place among the events. */
  readonly at = input.required<number>();
  /** The document's key of the event. */
  readonly key = input.required<string>();
  readonly line = input(false);
  readonly fault = input.required<(key: string) => string>();
  /** What the payment of a renewal comes to where it is left open. */
  readonly worked = input('');
  readonly removed = output();
  protected readonly choices = choices;
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly rateHint = rateHint;
  protected readonly offered = computed(() =>
    (this.line() ? choices.lineEvents : choices.loanEvents).map(
      (type) => [type, choices.eventNames[type]] as const,
    ),
  );

  /** What is wrong with a field, under whichever name the document has for it. */
  protected wrong(...names: string[]): string {
    return names.map((name) => this.fault()(`${this.key()}.${name}`)).find((text) => text !== '') ?? '';
  }
}

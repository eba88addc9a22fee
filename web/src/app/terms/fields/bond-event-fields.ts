import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { BondEventForm, TypedBondEvent } from '../form/bond-form';
import * as choices from '../form/choices';
import { ChoiceField } from './choice-field';
import { amountHint, dayHint } from './hints';
import { TypedField } from './typed-field';

/** An instalment, a call, a redemption or a presentation of a bond, in figures. */
@Component({
  selector: 'coffer-bond-event-fields',
  imports: [ChoiceField, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let event = form().controls;
    @let said = typed();
    <div class="head">
      <coffer-choice-field
        [label]="'Event ' + (at() + 1)"
        [control]="event.type"
        [choices]="choices.bondEventChoices"
        [fault]="fault()(key())"
      />
      <button
        matButton
        type="button"
        (click)="removed.emit()"
        [attr.aria-label]="'Remove event ' + (at() + 1)"
      >
        ✕
      </button>
    </div>
    <div class="pair">
      <coffer-typed-field
        [label]="said.type === 'call' ? 'From' : 'On'"
        [control]="event.on"
        [fault]="wrong('on') || wrong('from')"
        [hint]="dayHint(said.on)"
        placeholder="1 Oct 2029"
      />
      @if (said.type === 'presentation') {
        <coffer-typed-field
          label="To, if not for good"
          [control]="event.to"
          [fault]="wrong('to')"
          [hint]="dayHint(said.to)"
        />
      } @else if (said.type === 'call') {
        <coffer-typed-field label="Price, percent of face" [control]="event.price" [fault]="wrong('price')" />
      } @else {
        <coffer-typed-field
          label="Face"
          [control]="event.face"
          [fault]="wrong('face')"
          [hint]="amountHint(said.face)"
        />
      }
    </div>
    @if (said.type === 'redemption') {
      <div class="pair">
        <coffer-typed-field label="Price, percent of face" [control]="event.price" [fault]="wrong('price')" />
        <coffer-typed-field
          label="Refunded by, if it is"
          [control]="event.refundedBy"
          [fault]="wrong('refundedBy')"
        />
      </div>
    } @else if (said.type === 'presentation') {
      <div class="pair">
        <coffer-choice-field label="All of it" [control]="event.as" [choices]="choices.presentationChoices" />
        <coffer-typed-field label="Because of" [control]="event.reason" [fault]="wrong('reason')" />
      </div>
    }
  `,
  styleUrl: './fields.scss',
})
export class BondEventFields {
  readonly form = input.required<BondEventForm>();
  readonly typed = input.required<TypedBondEvent>();
  /** Place among the events. */
  readonly at = input.required<number>();
  /** The document's key of the event. */
  readonly key = input.required<string>();
  readonly fault = input.required<(key: string) => string>();
  readonly removed = output();
  protected readonly choices = choices;
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;

  protected wrong(name: string): string {
    return this.fault()(`${this.key()}.${name}`);
  }
}

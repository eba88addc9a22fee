import { FormControl, FormGroup } from '@angular/forms';
import type { Frequency } from '@coffer/core';
import { choice, text, type Text } from '../../fields/controls';

/** What happens to a loan besides its agreed payments, as the page offers it. */
export const eventTypes = [
  'extra',
  'extra-each',
  'draw',
  'repayment',
  'rate-step',
  'fixing',
  'payment-change',
  'renewal',
  'interest-added',
  'fee',
  'settled',
  'overpayment-returned',
  'presentation',
] as const;

export type EventType = (typeof eventTypes)[number];

/** What follows from it for the payment. */
export type EventThen = 'keep' | 're-level';

/** An event as typed; each type uses its part of the fields. */
export type EventForm = FormGroup<{
  type: FormControl<EventType>;
  on: Text;
  from: Text;
  to: Text;
  amount: Text;
  /** By how much the amount rises each year. */
  rises: Text;
  rate: Text;
  count: Text;
  amortizeOver: Text;
  every: FormControl<Frequency | 'same'>;
  then: FormControl<EventThen>;
  treatment: FormControl<'expense' | 'defer'>;
  as: FormControl<'current' | 'non-current'>;
  reason: Text;
}>;

export type TypedEvent = ReturnType<EventForm['getRawValue']>;

/** Extra principal on one day, unless another event is asked for. */
export function eventForm(value: Partial<TypedEvent> = {}): EventForm {
  const type = value.type ?? 'extra';
  return new FormGroup({
    type: choice<EventType>(type),
    on: text(value.on),
    from: text(value.from),
    to: text(value.to),
    amount: text(value.amount),
    rises: text(value.rises),
    rate: text(value.rate),
    count: text(value.count),
    amortizeOver: text(value.amortizeOver),
    every: choice<Frequency | 'same'>(value.every ?? 'same'),
    then: choice<EventThen>(value.then ?? (type === 'rate-step' ? 're-level' : 'keep')),
    treatment: choice<'expense' | 'defer'>(value.treatment ?? 'expense'),
    as: choice<'current' | 'non-current'>(value.as ?? 'current'),
    reason: text(value.reason),
  });
}

import type { NamedChange } from '../scenarios/scenario-desk';

/** The event by which a payment becomes another one from a due date on. */
interface PaymentChange {
  readonly type: 'payment-change';
  readonly on: string;
  readonly payment: string;
}

const isChangeOn = (event: unknown, due: string): boolean => {
  const { type, on } = event as Partial<PaymentChange>;
  return type === 'payment-change' && on === due;
};

/**
 * What a scenario changes of an instrument with its payment another one from a due date on: what was changed on earlier
 * and later days stays, and another payment on the same day takes the place of the first.
 *
 * @param payment plain decimal
 */
export function withPayment(change: NamedChange, due: string, payment: string): NamedChange {
  const before = (change.events ?? []).filter((event) => !isChangeOn(event, due));
  const made: PaymentChange = { type: 'payment-change', on: due, payment };
  const dayOf = (event: unknown): string => (event as { on?: string }).on ?? '';
  const events = [...before, made].sort((one, other) => dayOf(one).localeCompare(dayOf(other)));
  return { ...change, events };
}

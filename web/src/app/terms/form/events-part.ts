import type { TypedEvent } from './event-form';
import { present, type FieldReader } from '../../typed/field-reader';

/** A recorded payment or another event that the form does not show and keeps as it is. */
export type KeptEvent = Readonly<Record<string, unknown>>;

/** The typed events as the document has them: some of them are steps or fixings of the rate. */
export interface EventsPart {
  readonly events: readonly object[] | undefined;
  readonly steps: readonly object[];
  readonly fixings: readonly object[];
  /** The document's key of each typed event, in the order of the form. */
  readonly keys: readonly string[];
}

/** Makes the document's events; events that the form does not show follow those it does. */
export function eventsPart(
  typed: readonly TypedEvent[],
  read: FieldReader,
  kept: readonly KeptEvent[],
): EventsPart {
  const events: object[] = [];
  const steps: object[] = [];
  const fixings: object[] = [];
  const keys = typed.map((event) => {
    const [list, name] =
      event.type === 'rate-step'
        ? [steps, 'rate.steps']
        : event.type === 'fixing'
          ? [fixings, 'rate.index.fixings']
          : [events, 'events'];
    const key = `${name}.${list.length}`;
    list.push(present(eventPart(event, key, read)));
    return key;
  });
  const all = [...events, ...kept];
  return { events: all.length === 0 ? undefined : all, steps, fixings, keys };
}

function eventPart(event: TypedEvent, key: string, read: FieldReader): Record<string, unknown> {
  const on = (name = 'on'): string | undefined =>
    read.day(`${key}.${name}`, name === 'to' ? event.to : event.on);
  const amount = (name = 'amount'): string | undefined => read.amount(`${key}.${name}`, event.amount);
  const reLevels = event.then === 're-level';
  switch (event.type) {
    case 'extra':
      return { type: 'extra-principal', on: on(), amount: amount(), then: reLevels ? 're-level' : undefined };
    case 'extra-each':
      return {
        type: 'extra-principal',
        every: 'payment',
        from: read.optional(event.from, () => read.day(`${key}.from`, event.from)),
        to: read.optional(event.to, () => read.day(`${key}.to`, event.to)),
        amount: amount(),
        then: reLevels ? 're-level' : undefined,
      };
    case 'draw':
      return { type: 'draw', on: on(), amount: amount(), then: event.then };
    case 'repayment':
      return { type: 'repayment', on: on(), amount: amount() };
    case 'rate-step':
      return { from: on('from'), annual: read.rate(`${key}.annual`, event.rate), payment: event.then };
    case 'fixing':
      return { on: on(), rate: read.signedRate(`${key}.rate`, event.rate) };
    case 'payment-change':
      return { type: 'payment-change', on: on(), payment: amount('payment') };
    case 'presentation':
      return {
        type: 'presentation',
        on: on(),
        to: read.optional(event.to, () => on('to')),
        as: event.as,
        reason: read.text(`${key}.reason`, event.reason),
      };
    case 'interest-added':
      return { type: 'interest-added', on: on() };
    case 'fee':
      return { type: 'fee', on: on(), amount: amount(), treatment: event.treatment };
    case 'overpayment-returned':
      return { type: 'overpayment-returned', on: on(), amount: amount() };
    case 'settled':
      return { type: 'settled', on: on(), amount: read.optional(event.amount, () => amount()) };
    case 'renewal':
      return {
        type: 'renewal',
        on: on(),
        annual: read.rate(`${key}.annual`, event.rate),
        count: read.count(`${key}.count`, event.count),
        amortizeOver: read.optional(event.amortizeOver, () =>
          read.count(`${key}.amortizeOver`, event.amortizeOver),
        ),
        every: event.every === 'same' ? undefined : event.every,
        payment: read.optional(event.amount, () => amount('payment')),
      };
  }
}

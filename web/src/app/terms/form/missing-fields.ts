import { showText, type Fault } from '@coffer/contract';
import { eventNames, fieldNames } from './choices';
import type { TypedDocument } from './typed-document';
import type { TypedEvent } from './event-form';

/** Names of the fields of a stretch or an event by the last word of the document's key. */
const partNames: Readonly<Record<string, string>> = {
  count: 'term',
  months: 'months paid in',
  payment: 'payment',
  payments: 'payments',
  principal: 'principal',
  on: 'day',
  from: 'day',
  amount: 'amount',
  face: 'face',
  price: 'price',
  annual: 'rate',
  amortizeOver: 'payments spread over',
  balloon: 'balloon',
  to: 'last day',
  rate: 'rate',
  reason: 'reason',
};

/** What fields are told apart by: the stretches and events that are typed. */
interface Parts {
  readonly stretches: readonly unknown[];
  readonly events: readonly Pick<TypedEvent, 'type'>[];
}

/** What was found wrong, each with the name of its field, for where the field itself may be out of sight. */
export function faultsInWords(
  faults: readonly Fault[],
  { eventKeys }: Pick<TypedDocument, 'eventKeys'>,
  parts: Parts,
): string[] {
  return faults.map(({ key, message }) => {
    const name = fieldNames[key] ?? nameInPart(key, eventKeys, parts);
    const text = inFieldNames(message, eventKeys, parts);
    return name === '' ? text : `${name.charAt(0).toUpperCase()}${name.slice(1)}: ${text}`;
  });
}

/** A message with the fields in it named as people would, not by the document's keys. */
export function inFieldNames(message: string, eventKeys: readonly string[], parts: Parts): string {
  const named = message.replaceAll(
    /\b(?:amount|(?:[a-z][A-Za-z]*)(?:\.\w+)+)\b/g,
    (key) => fieldNames[key] ?? (nameInPart(key, eventKeys, parts) || key),
  );
  return showText(named);
}

/** The fields that are needed and still empty, each named once as people would, in the order of the page. */
export function missingFields(
  { missing, eventKeys }: Pick<TypedDocument, 'missing' | 'eventKeys'>,
  parts: Parts,
): string[] {
  const ofEvent = (key: string): boolean => eventKeys.some((eventKey) => key.startsWith(`${eventKey}.`));
  const inOrder = [...missing.filter((key) => !ofEvent(key)), ...missing.filter(ofEvent)];
  return [...new Set(inOrder.map((key) => fieldNames[key] ?? nameInPart(key, eventKeys, parts)))];
}

function nameInPart(key: string, eventKeys: readonly string[], { stretches, events }: Parts): string {
  const name = partNames[key.slice(key.lastIndexOf('.') + 1)] ?? '';
  const stretch = /^payments\.phases\.(\d+)(\.|$)/.exec(key);
  if (stretch) return stretches.length > 1 ? joined(name, `stretch ${Number(stretch[1]) + 1}`) : name;
  const at = eventKeys.findIndex((eventKey) => `${key}.`.startsWith(`${eventKey}.`));
  const event = events[at];
  if (!event) return name;
  const alone = events.filter(({ type }) => type === event.type).length === 1;
  return joined(name, `the ${eventNames[event.type].toLowerCase()}${alone ? '' : ` (event ${at + 1})`}`);
}

const joined = (name: string, part: string): string => (name === '' ? part : `${name} of ${part}`);

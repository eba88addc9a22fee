import { eventNames, fieldNames } from './choices';
import type { TypedDocument } from './typed-document';
import type { TypedEvent } from './event-form';

/** Names of the fields of a stretch or an event by the last word of the document's key. */
const partNames: Readonly<Record<string, string>> = {
  count: 'number of payments',
  payment: 'payment',
  payments: 'payments',
  principal: 'principal',
  on: 'day',
  from: 'day',
  amount: 'amount',
  face: 'face',
  price: 'price',
  annual: 'rate',
  rate: 'rate',
  reason: 'reason',
};

/** The fields that are needed and still empty, each named once as people would, in the order of the page. */
export function missingFields(
  { missing, eventKeys }: Pick<TypedDocument, 'missing' | 'eventKeys'>,
  events: readonly Pick<TypedEvent, 'type'>[],
): string[] {
  const ofEvent = (key: string): boolean => eventKeys.some((eventKey) => key.startsWith(`${eventKey}.`));
  const inOrder = [...missing.filter((key) => !ofEvent(key)), ...missing.filter(ofEvent)];
  return [...new Set(inOrder.map((key) => fieldNames[key] ?? nameInPart(key, eventKeys, events)))];
}

function nameInPart(
  key: string,
  eventKeys: readonly string[],
  events: readonly Pick<TypedEvent, 'type'>[],
): string {
  const name = partNames[key.slice(key.lastIndexOf('.') + 1)] ?? 'a field';
  const stretch = /^payments\.phases\.(\d+)\./.exec(key);
  if (stretch) return `${name} of stretch ${Number(stretch[1]) + 1}`;
  const at = eventKeys.findIndex((eventKey) => key.startsWith(`${eventKey}.`));
  const event = events[at];
  if (!event) return name;
  const alone = events.filter(({ type }) => type === event.type).length === 1;
  return `${name} of the ${eventNames[event.type].toLowerCase()}${alone ? '' : ` (event ${at + 1})`}`;
}

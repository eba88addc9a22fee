import * as v from 'valibot';
import { creditLineEvents, eventText, loanEvents, showDay, type ScenarioChange } from '@coffer/contract';
import { changeInWords } from '../try/change-in-words';

/** What a scenario changes of an instrument, in a line of words. */
export function wordsOf({
  change,
  terms,
  events = [],
}: Omit<ScenarioChange, 'instrumentId' | 'version'>): string {
  const parts = [
    ...(change ? [changeInWords(change)] : []),
    ...(terms ? [`other ${Object.keys(terms).join(', ')}`] : []),
    ...(events.length > mostTold ? [wordsOfMany(events)] : events.map(wordsOfEvent)),
  ];
  return parts.filter((part) => part !== '').join('; ');
}

/** Events that are told one by one. */
const mostTold = 4;

/** Many events in a few words: how many, and from when to when. */
function wordsOfMany(events: readonly unknown[]): string {
  const days = events.map((event) => (event as { on?: string }).on ?? '').filter((day) => day !== '');
  days.sort();
  const [first, last] = [days[0], days.at(-1)];
  const span = first === undefined || last === undefined ? '' : `, ${showDay(first)} to ${showDay(last)}`;
  const types = new Set(events.map((event) => (event as { type?: string }).type));
  const what = types.size === 1 && types.has('extra-principal') ? 'extra principal' : 'a change';
  return `${events.length} times ${what}${span}`;
}

function wordsOfEvent(event: unknown): string {
  for (const schema of [loanEvents, creditLineEvents]) {
    const read = v.safeParse(schema, [event]);
    const [known] = read.success ? read.output : [];
    if (!known) continue;
    const on = known.on === undefined || known.type === 'paid' ? '' : ` on ${showDay(known.on)}`;
    return known.type === 'payment-change'
      ? `${eventText(known).replace('the payment becomes ', '')} each time from ${showDay(known.on)}`
      : `${eventText(known)}${on}`;
  }
  return 'an event';
}

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
    ...events.map(wordsOfEvent),
  ];
  return parts.filter((part) => part !== '').join('; ');
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

import { positionJson } from '@coffer/contract';
import { ofDocument } from './document-command.ts';
import { debtOf } from '../documents.ts';
import { positionTable } from '../tables.ts';

/** What is owed, or held by a fund, at the end of a day. */
export const position = ofDocument({
  name: 'position',
  options: [{ name: 'on', takes: 'DATE', needed: true }, { name: 'json' }, { name: 'for', takes: 'FILE' }],
  answer({ schedule }, given) {
    const made = positionJson(schedule, given.day('on'), debtOf(given, schedule));
    return { json: made, text: () => positionTable(made) };
  },
});

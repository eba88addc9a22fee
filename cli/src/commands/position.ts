import { fundPositionJson, positionJson } from '@coffer/contract';
import { fundPosition, position as positionOn } from '@coffer/core';
import type { Command } from '../command.ts';
import { debtOf, refuseDebt } from '../documents.ts';
import { positionTable } from '../tables.ts';

/** What is owed at the end of a day, and what of it is current. */
export const position: Command = {
  name: 'position',
  options: [{ name: 'on', takes: 'DATE', needed: true }, { name: 'json' }, { name: 'for', takes: 'FILE' }],
  answer(opened, given) {
    const on = given.day('on');
    let made: Record<string, unknown>;
    if ('fund' in opened) {
      const fund = opened.fund.schedule;
      made = fundPositionJson(fund, fundPosition(fund, on), debtOf(given, fund));
    } else {
      refuseDebt(given);
      const { schedule } = opened.instrument;
      made = positionJson(positionOn(schedule, on), schedule.terms.digits);
    }
    return { json: made, text: () => positionTable(made) };
  },
};

import { stringify } from 'csv-stringify/sync';
import { csvOfLines } from '../csv-of-lines.ts';
import { entriesJson } from '@coffer/contract';
import { accrualChoices, entries as entriesOf, periodLengths } from '@coffer/core';
import { forms } from '../command.ts';
import { ofDocument } from './document-command.ts';
import { entryTable } from '../tables.ts';
import { UsageFault } from '../usage-fault.ts';

/** The journal entries that fall in some dates, both days included. */
export const entries = ofDocument({
  name: 'entries',
  options: [
    { name: 'from', takes: 'DATE', needed: true },
    { name: 'to', takes: 'DATE', needed: true },
    { name: 'periods', takes: periodLengths.join('|') },
    { name: 'accruals', takes: accrualChoices.join('|') },
    ...forms,
  ],
  answer(opened, given) {
    const [from, to] = [given.day('from'), given.day('to')];
    if (to < from) throw new UsageFault(`--to ${given.text('to')} is before --from ${given.text('from')}.`);
    const choices = [
      from,
      to,
      given.oneOf('periods', periodLengths),
      given.oneOf('accruals', accrualChoices),
    ] as const;
    const { schedule } = opened;
    const found = entriesOf(schedule, ...choices);
    const made = entriesJson(found, schedule.terms.digits);
    const lines = (): object[] =>
      made.flatMap(({ date, memo, lines: each }, at) =>
        each.map((line) => ({ entry: at + 1, date, memo, ...line })),
      );
    return {
      json: made,
      csv: () =>
        stringify(lines(), {
          header: true,
          columns: ['entry', 'date', 'memo', 'account', 'debit', 'credit'],
          ...csvOfLines,
        }),
      text: () => entryTable(made),
    };
  },
});

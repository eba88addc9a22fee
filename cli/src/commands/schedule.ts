import { stringify } from 'csv-stringify/sync';
import { csvOfLines } from '../csv-of-lines.ts';
import { columnTitles, scheduleJson } from '@coffer/contract';
import { forms } from '../command.ts';
import { ofDocument } from './document-command.ts';
import { debtOf } from '../documents.ts';
import { scheduleTable } from '../tables.ts';
import { UsageFault } from '../usage-fault.ts';

/** The schedule of an instrument, or some of its payments. */
export const schedule = ofDocument({
  name: 'schedule',
  options: [...forms, { name: 'rows', takes: 'A-B' }, { name: 'for', takes: 'FILE' }],
  answer(opened, given) {
    const range = given.range('rows');
    const made = scheduleJson(opened.schedule, range, debtOf(given, opened.schedule));
    const { rows } = made;
    if (range && rows.length === 0) {
      throw new UsageFault(`--rows ${given.text('rows')}: the schedule has no such payments.`);
    }
    const columns = (): string[] => [...new Set(rows.flatMap((row) => Object.keys(row)))];
    return {
      json: made,
      csv: () => stringify([...rows], { header: true, columns: columns(), ...csvOfLines }),
      text: () => scheduleTable(made, columnTitles(opened.schedule)),
    };
  },
});

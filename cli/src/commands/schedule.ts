import { stringify } from 'csv-stringify/sync';
import { fundScheduleJson, scheduleJson } from '@coffer/contract';
import { forms, type Command } from '../command.ts';
import { debtOf, refuseDebt } from '../documents.ts';
import { scheduleTable } from '../tables.ts';
import { UsageFault } from '../usage-fault.ts';

/** The schedule of an instrument, or some of its payments. */
export const schedule: Command = {
  name: 'schedule',
  options: [...forms, { name: 'rows', takes: 'A-B' }, { name: 'for', takes: 'FILE' }],
  answer(opened, given) {
    const range = given.range('rows');
    let made: Record<string, unknown>;
    if ('fund' in opened) {
      const fund = opened.fund.schedule;
      made = fundScheduleJson(fund, range, debtOf(given, fund));
    } else {
      refuseDebt(given);
      made = scheduleJson(opened.instrument.schedule, range);
    }
    const rows = made['rows'] as Record<string, unknown>[];
    if (range && rows.length === 0) {
      throw new UsageFault(`--rows ${given.text('rows')}: the schedule has no such payments.`);
    }
    const columns = (): string[] => [...new Set(rows.flatMap((row) => Object.keys(row)))];
    return {
      json: made,
      csv: () => stringify(rows, { header: true, columns: columns() }),
      text: () => scheduleTable(made),
    };
  },
};

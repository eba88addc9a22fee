import {
  formatAmount,
  formatDay,
  netDebt,
  type FundRow,
  type FundSchedule,
  type Schedule,
} from '@coffer/core';
import type { ScheduleColumn } from '../../document/schedule-column.ts';

/**
 * The columns of a fund's schedule.
 *
 * @param debt that the fund repays: then what is owed and the net debt stand beside it
 */
export function fundScheduleColumns(
  schedule: FundSchedule,
  debt?: Schedule,
): readonly ScheduleColumn<FundRow>[] {
  const amount = (key: string, title: string, value: (row: FundRow) => number): ScheduleColumn<FundRow> => ({
    key,
    title,
    type: 'amount',
    value: (row) => formatAmount(value(row), schedule.terms.digits),
    always: true,
  });
  return [
    { key: 'n', title: 'No.', type: 'count', value: ({ n }) => n, always: true },
    { key: 'due', title: 'Date', type: 'day', value: ({ due }) => formatDay(due), always: true },
    amount('opening', 'Opening', ({ opening }) => opening),
    amount('interest', 'Interest', ({ interest }) => interest),
    amount('deposit', 'Deposit', ({ deposit }) => deposit),
    amount('closing', 'Held', ({ closing }) => closing),
    ...(debt
      ? [
          amount('owed', 'Owed', ({ due }) => netDebt(schedule, debt, due).owed),
          amount('netDebt', 'Net debt', ({ due }) => netDebt(schedule, debt, due).net),
        ]
      : []),
  ];
}

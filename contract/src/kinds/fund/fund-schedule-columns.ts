import { netDebt, type FundRow, type FundSchedule, type Schedule } from '@coffer/core';
import { columnsOf } from '../../document/schedule-column.ts';

/** A fund's schedule, and what it repays where that is known. */
export interface FundColumnsOf {
  readonly schedule: FundSchedule;
  readonly debt: Schedule | undefined;
}

const { each, some } = columnsOf<FundRow, FundColumnsOf>();
const always = { always: true } as const;

/** The columns of a fund's schedule: with what it repays, what is owed and the net debt stand beside it. */
export const fundScheduleColumns = [
  each('n', 'No.', 'count', ({ n }) => n, always),
  each('due', 'Date', 'day', ({ due }) => due, always),
  each('opening', 'Opening', 'amount', ({ opening }) => opening, always),
  each('interest', 'Interest', 'amount', ({ interest }) => interest, always),
  each('deposit', 'Deposit', 'amount', ({ deposit }) => deposit, always),
  each('closing', 'Held', 'amount', ({ closing }) => closing, always),
  some('owed', 'Owed', 'amount', ({ due }, { schedule, debt }) => debt && netDebt(schedule, debt, due).owed),
  some(
    'netDebt',
    'Net debt',
    'amount',
    ({ due }, { schedule, debt }) => debt && netDebt(schedule, debt, due).net,
  ),
] as const;

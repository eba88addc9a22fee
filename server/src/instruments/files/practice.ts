import { parseDay, type CalendarDay } from '@coffer/core';
import { readInstrument, usualHabits } from '@coffer/contract';
import type { FileTask } from './file-worker.ts';
import { paperRecord } from './instrument-record.ts';

const loan = {
  document: 'coffer.instrument/1',
  kind: 'loan',
  name: 'Practice',
  currency: 'EUR',
  amount: '300000.00',
  start: '2026-01-15',
  rate: { annual: '6%', dayCount: 'ACT/365F' },
  issueCosts: { amount: '3000.00' },
  payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 360 }] },
};
const context = {
  company: 'Practice',
  fiscalYearEndMonth: 12,
  habits: usualHabits,
  version: 1,
  on: '2027-12-31',
  alone: false,
  signed: undefined,
  madeBy: 'Nobody',
  madeAt: '2027-12-31 00:00 UTC',
};
/** The first files of a process take several times as long as those after them; so many and they do no more. */
const times = 2;

/**
 * Files of a made-up loan that nobody is given: making them readies a thread, so that the first one asked for is quick.
 * None where the made-up loan no longer reads.
 */
export function practice(): readonly FileTask[] {
  const reading = readInstrument(loan);
  if (!reading.ok) return [];
  const record = paperRecord(reading.instrument, parseDay(context.on) as CalendarDay);
  return Array.from({ length: times }, (): FileTask[] => [
    { file: 'working-paper', record, context },
    { file: 'workbook', record: record.instrument, version: 1 },
  ]).flat();
}

import type { LoanSchedule } from '@coffer/core';
import { readInstrument } from '@coffer/contract';

/** A level loan as handbooks have it: 100,000.00 at 6 % in twelve monthly payments. */
export function levelLoan(): LoanSchedule {
  const reading = readInstrument({
    document: 'coffer.instrument/1',
    kind: 'loan',
    name: 'Level loan',
    currency: 'EUR',
    amount: '100000.00',
    start: '2026-01-01',
    rate: { annual: '6%' },
    payments: { every: 'month', first: '2026-02-01', phases: [{ type: 'level', count: 12 }] },
  });
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument.schedule as LoanSchedule;
}

import { describe, expect, it } from 'vitest';
import { parseDay } from '@coffer/core';
import { readInstrument } from '@coffer/contract';
import { figuresOn, type KnownInstrument } from '../instruments/known-instruments.ts';
import { loanDocument } from '../testing/test-server.ts';
import { attentionOn } from './attention.ts';

const day = (text: string): number => parseDay(text) as number;

function known(document: object): KnownInstrument {
  const reading = readInstrument(document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return { id: '00000000-0000-4000-8000-000000000000', version: 1, ...reading.instrument };
}

function told(instrument: KnownInstrument, on: string): string[] {
  return attentionOn(instrument, figuresOn(instrument, day(on)), day(on)).map(
    (attention) => `${attention.kind} ${attention.on}`,
  );
}

// Three months ahead, a month's end being one (common practice for a schedule of maturities).
describe('what somebody should see to', () => {
  const payments = {
    every: 'month',
    first: '2026-11-30',
    monthEnd: true,
    phases: [{ type: 'level', count: 4 }],
  };
  const ends = { start: '2026-10-31', payments };

  it('a last payment from three months before it until the day before', () => {
    const loan = known(loanDocument('Ends in February', ends));
    expect(told(loan, '2026-11-27')).toEqual([]);
    expect(told(loan, '2026-11-28')).toEqual(['matures 2027-02-28']);
    expect(told(loan, '2027-02-27')).toEqual(['matures 2027-02-28']);
    expect(told(loan, '2027-02-28')).toEqual([]);
  });

  it('a balance that is left is to be renewed', () => {
    const phases = [{ type: 'level', count: 4, amortizeOver: 40 }];
    const left = { ...ends, payments: { ...payments, phases, atEnd: 'leave' } };
    expect(told(known(loanDocument('Left', left)), '2026-12-31')).toEqual(['renewal-near 2027-02-28']);
  });

  it('a fixing from the day that it was due', () => {
    const index = {
      name: 'Base rate',
      margin: '1%',
      resetEvery: 'quarter',
      fixings: [{ on: '2026-10-01', rate: '2%' }],
    };
    const floating = known(loanDocument('Floating', { rate: { annual: '3%', index } }));
    expect(told(floating, '2026-12-31')).toEqual([]);
    expect(told(floating, '2027-01-01')).toEqual(['fixing-due 2027-01-01']);
  });
});

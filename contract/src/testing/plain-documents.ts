import type { Schedule } from '@coffer/core';
import { readInstrument } from '../document/read-instrument.ts';

/** A loan of 100,000 at six percent in monthly level payments from 15 February 2026 on. */
export function plainLoanDocument(more: object = {}, payments: object = {}): object {
  return {
    document: 'coffer.instrument/1',
    kind: 'loan',
    name: 'A loan',
    currency: 'EUR',
    amount: '100000.00',
    start: '2026-01-15',
    rate: { annual: '6%' },
    ...more,
    payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 60 }], ...payments },
  };
}

/** A bond of 100,000 sold at par, of five years with half-yearly coupons. */
export function plainBondDocument(more: object = {}): object {
  return {
    document: 'coffer.instrument/1',
    kind: 'bond',
    name: 'A bond',
    currency: 'EUR',
    face: '100000.00',
    issued: '2026-01-15',
    matures: '2031-01-15',
    coupon: { annual: '5%', every: 'half-year' },
    price: '100',
    ...more,
  };
}

/** The schedule of a document that reads. */
export function scheduleOf(document: object): Schedule {
  const reading = readInstrument(document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument.schedule;
}

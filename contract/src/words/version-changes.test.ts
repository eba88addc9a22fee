import { expect, it } from 'vitest';
import { readInstrument } from '../document/read-instrument.ts';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { versionChanges } from './version-changes.ts';

const loan = {
  document: 'coffer.instrument/1',
  kind: 'loan',
  name: 'Kiln loan',
  currency: 'EUR',
  amount: '100000.00',
  start: '2026-01-15',
  rate: { annual: '6%' },
  payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 60 }] },
};
const read = (more: object): InstrumentDocument => {
  const reading = readInstrument({ ...loan, ...more });
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument.document;
};

it('tells what a version changed in the words of the screen, old and new', () => {
  const paid = { type: 'paid', due: '2026-02-15', on: '2026-02-15', amount: '1933.28' };
  const late = { ...paid, on: '2026-02-18' };
  expect(
    versionChanges(read({ events: [paid] }), read({ rate: { annual: '6.5%' }, events: [late] })),
  ).toEqual([
    expect.objectContaining({
      before: expect.stringContaining('6%'),
      after: expect.stringContaining('6.5%'),
    }),
    { name: '15 Feb 2026', before: '1,933.28 paid for the payment due 15 Feb 2026', after: '' },
    { name: '18 Feb 2026', before: '', after: '1,933.28 paid for the payment due 15 Feb 2026' },
  ]);
  expect(versionChanges(read({}), read({ name: 'Kiln loan' }))).toEqual([]);
});

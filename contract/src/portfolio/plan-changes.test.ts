import { planFor, isPlanned, type PlannedMember, type Schedule } from '@coffer/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { readInstrument } from '../document/read-instrument.ts';
import { changedInstrument } from '../scenario/instrument-change.ts';
import { planChanges } from './plan-changes.ts';

const day = (text: string): number => Date.parse(text) / 86_400_000;
const read = (value: object): { document: InstrumentDocument; schedule: Schedule } => {
  const reading = readInstrument(value);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument;
};
const loan = (more: object): object => ({
  document: 'coffer.instrument/1',
  kind: 'loan',
  name: 'Kiln loan',
  currency: 'EUR',
  amount: '100000.00',
  start: '2026-01-15',
  rate: { annual: '6%' },
  payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 120 }] },
  ...more,
});
const on = day('2026-10-31');

/** What the plan of one loan changes of it, and by what it is paid. */
function planned(
  value: object,
  clearBy: string,
): { change: ReturnType<typeof planChanges>[number]; made: PlannedMember; document: InstrumentDocument } {
  const { document, schedule } = read(value);
  const member = { name: document.name, schedule, least: 0, prepay: true };
  const [made] = planFor([member], on, day(clearBy), { annualRate: { num: 0n, den: 1n }, every: 'month' });
  if (!made || !isPlanned(made)) throw new Error('out of reach');
  const [change] = planChanges([{ member, document, rows: made.rows }], on);
  if (!change) throw new Error('no change');
  return { change, made, document };
}

describe('a plan as a scenario', () => {
  it('says a level payment in one event', () => {
    const { change, made } = planned(loan({}), '2030-12-31');
    expect(change.change?.events).toEqual([
      {
        type: 'extra-principal',
        every: 'payment',
        from: '2026-11-15',
        // 1,110.21 is the level payment of 100,000 at 6 % over 120 months; widely printed, from memory.
        amount: (made.payment / 100 - 1110.21).toFixed(2),
      },
    ]);
  });

  it('takes the place of what was meant to be paid besides, and leaves what was paid', () => {
    const extra = (from: string): object => ({ type: 'extra-principal', on: from, amount: '5000.00' });
    const { change } = planned(loan({ events: [extra('2026-05-15'), extra('2027-05-15')] }), '2029-12-31');
    expect(change.change?.terms).toEqual({ events: [extra('2026-05-15')] });
  });

  it('changes nothing of what its contract clears by then', () => {
    expect(planned(loan({}), '2036-01-31').change).toEqual({
      name: 'Kiln loan',
      change: undefined,
      unsaid: false,
    });
  });

  it('pays on the days of the plan what the plan pays, whatever the terms', () => {
    const terms = fc.record({
      annual: fc.integer({ min: 0, max: 1500 }).map((points) => `${points / 100}%`),
      every: fc.constantFrom('month', 'quarter', 'half-year'),
      dayCount: fc.constantFrom('even-periods', '30/360', 'ACT/365F', 'ACT/360'),
      type: fc.constantFrom('level', 'equal-principal'),
      step: fc.option(fc.integer({ min: 0, max: 1500 }), { nil: undefined }),
      clearBy: fc.constantFrom('2028-06-30', '2029-12-31', '2031-03-20'),
    });
    fc.assert(
      fc.property(terms, ({ annual, every, dayCount, type, step, clearBy }) => {
        const steps =
          step === undefined ? [] : [{ from: '2027-09-15', annual: `${step / 100}%`, payment: 're-level' }];
        const value = loan({
          rate: { annual, dayCount, steps },
          payments: {
            every,
            first: '2026-07-15',
            phases: [{ type, count: every === 'half-year' ? 30 : 80 }],
          },
        });
        const { change, made, document } = planned(value, clearBy);
        if (!change.change) return !change.unsaid;
        const changed = changedInstrument(document, change.change);
        if (!changed.ok) throw new Error(JSON.stringify(changed.faults));
        const { schedule } = changed.instrument;
        if (!('interest' in schedule)) throw new Error('no loan');
        const interest = schedule.interest
          .slice(0, schedule.length)
          .reduce((sum, amount, row) => ((schedule.date[row] as number) > on ? sum + amount : sum), 0);
        expect([schedule.date[schedule.length - 1], interest]).toEqual([made.clears, made.interest]);
        return true;
      }),
    );
  });
});

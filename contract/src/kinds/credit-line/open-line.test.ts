import fc from 'fast-check';
import { expect, it } from 'vitest';
import { formatDay, parseDay, position } from '@coffer/core';
import { readInstrument, type ReadInstrument } from '../../document/read-instrument.ts';

const start = parseDay('2026-01-10') as number;

/** A line without a maturity, with what was drawn by some days after its start. */
function line(draws: readonly { after: number; hundreds: number }[]): ReadInstrument {
  const reading = readInstrument({
    document: 'coffer.instrument/1',
    kind: 'credit-line',
    name: 'Open line',
    currency: 'EUR',
    limit: '900000.00',
    start: formatDay(start),
    rate: { annual: '6%', dayCount: 'ACT/360' },
    billing: 'month',
    unusedFee: '0.5%',
    issueCosts: { amount: '1200.00' },
    events: draws.map(({ after, hundreds }) => ({
      type: 'draw',
      on: formatDay(start + after),
      amount: `${hundreds}00.00`,
    })),
  });
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument;
}

// IAS 1.69(d) and 1.76: what is drawn on a line that the lender may end is current, whatever is drawn later.
it('a line without a maturity stands on a day as if nothing came after', () => {
  const draws = fc.uniqueArray(
    fc.record({ after: fc.integer({ min: 0, max: 700 }), hundreds: fc.integer({ min: 1, max: 900 }) }),
    { minLength: 1, maxLength: 5, selector: ({ after }) => after },
  );
  fc.assert(
    fc.property(draws, fc.integer({ min: 0, max: 360 }), (all, days) => {
      const known = all.filter(({ after }) => after <= days);
      const on = start + days;
      const [now, then] = [position(line(all).schedule, on), position(line(known).schedule, on)];
      expect(now).toEqual(then);
      expect(now.current).toBe(now.outstanding);
    }),
    { numRuns: 80 },
  );
});

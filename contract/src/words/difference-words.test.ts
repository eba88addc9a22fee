import { describe, expect, it } from 'vitest';
import type { Difference, DifferenceLine } from '../api/difference-views.ts';
import { differenceCause, daysAgainst, differenceInWords } from './difference-words.ts';

const figure = (...parts: Difference['parts']): Difference => {
  const change = parts.reduce((sum, { amount }) => sum + amount, 0);
  return { now: 100_00 + change, change, parts };
};
const line = (more: Partial<DifferenceLine>): DifferenceLine => ({
  id: 'f3a1c1de-0000-4000-8000-000000000000',
  name: 'Press loan',
  asScheduled: false,
  accrued: figure(),
  expense: figure(),
  carrying: figure(),
  current: figure(),
  ...more,
});

describe('why a line of the month differs, in words', () => {
  it('is told by its first cause: what nothing explains before a catch-up, a catch-up before a rate', () => {
    const rate = { reason: 'rate', amount: -64_24 } as const;
    const over: NonNullable<Difference['over']> = [
      { balance: 800_000_00, rate: 0.0443, days: 30 },
      { balance: 800_000_00, rate: 0.04245, days: 31 },
    ];
    const byRate = line({ expense: { ...figure(rate), over } });
    expect(differenceInWords(byRate, 2)).toEqual({ lead: 'Rate', rest: '4.43% to 4.245%' });
    const caughtUp = line({ expense: { ...figure({ reason: 'catch-up', amount: -472_38 }, rate), over } });
    expect(differenceInWords(caughtUp, 2)).toEqual({
      lead: 'Catch-up',
      rest: 'of closed months −472.38; rate 4.43% to 4.245%',
    });
    const open = line({ expense: figure(rate, { reason: 'unexplained', amount: 1 }) });
    expect(differenceInWords(open, 2)).toEqual({ lead: 'Unexplained', rest: 'expense 0.01' });
  });

  it('tells what came, what went, what was drawn and what only ran on', () => {
    const carried = (part: Difference['parts'][number]): DifferenceLine => line({ carrying: figure(part) });
    expect(differenceInWords(carried({ reason: 'new', amount: 50_00 }), 2)).toEqual({
      lead: 'New',
      rest: '150.00 carried',
    });
    expect(differenceInWords(carried({ reason: 'withdrawn', amount: -50_00 }), 2)).toEqual({
      lead: 'Withdrawn',
      rest: '50.00 went',
    });
    expect(differenceInWords(carried({ reason: 'balance', amount: -50_00 }), 2)).toEqual({
      lead: 'Balance',
      rest: 'down 50.00',
    });
    expect(differenceCause(line({ asScheduled: true, expense: figure({ reason: 'days', amount: 5 }) }))).toBe(
      'Scheduled',
    );
    expect(
      daysAgainst([
        { balance: 1, rate: 0.05, days: 29 },
        { balance: 1, rate: 0.05, days: 31 },
      ]),
    ).toBe('31 against 29');
  });
});

import { describe, expect, it } from 'vitest';
import type { Difference, DifferenceLine } from '../api/difference-views.ts';
import { differenceSentence } from './difference-words.ts';

const figure = (...parts: Difference['parts']): Difference => {
  const change = parts.reduce((sum, { amount }) => sum + amount, 0);
  return { now: 100_00 + change, change, parts };
};
const line = (more: Partial<DifferenceLine>): DifferenceLine => ({
  id: 'f3a1c1de-0000-4000-8000-000000000000',
  name: 'Press loan',
  asScheduled: false,
  happened: [],
  accrued: figure(),
  expense: figure(),
  carrying: figure(),
  current: figure(),
  ...more,
});

describe('why a line of the month differs, in words', () => {
  const said = (more: Partial<DifferenceLine>): string => differenceSentence(line(more), 2);
  const over = (was: number, is: number, days = 30): NonNullable<Difference['over']> => [
    { balance: 800_000_00, rate: was, days: 30 },
    { balance: 800_000_00, rate: is, days },
  ];

  it('is told by its first cause: what nothing explains before a catch-up, a catch-up before a rate', () => {
    const rate = { reason: 'rate', amount: -64_24 } as const;
    // A mean over the month is a rate that nobody agreed to: told are the two that were agreed.
    const expense = { ...figure(rate), over: over(0.0443, 0.04361) };
    expect(said({ expense, rates: [0.0443, 0.04245] })).toBe('Rate: 4.43% to 4.245%');
    expect(said({ expense, rates: [0.0443, 0.04430001] })).toBe('Rate: 4.43% to 4.430001%');
    const caughtUp = {
      ...figure({ reason: 'catch-up', amount: -472_38 }, rate),
      over: over(0.0443, 0.04361),
    };
    expect(said({ expense: caughtUp, rates: [0.0443, 0.04245] })).toBe(
      'Catch-up: of closed months −472.38; rate 4.43% to 4.245%',
    );
    expect(said({ expense: figure(rate, { reason: 'unexplained', amount: 1 }) })).toBe(
      'Unexplained: expense 0.01',
    );
    // Principal that last month reported otherwise is no expense of closed months.
    expect(said({ carrying: figure({ reason: 'put-right', amount: 50_00 }) })).toBe(
      'Last month put right: carrying 50.00',
    );
  });

  it('tells what came, what went and what happened', () => {
    const carried = (part: Difference['parts'][number], more: Partial<DifferenceLine> = {}): string =>
      said({ carrying: figure(part), ...more });
    expect(carried({ reason: 'new', amount: 50_00 })).toBe('New: 150.00 carried');
    expect(carried({ reason: 'withdrawn', amount: -50_00 })).toBe('Withdrawn: 50.00 went');
    expect(carried({ reason: 'drawn', amount: 50_00 })).toBe('Drawdown: 50.00');
    expect(carried({ reason: 'repaid', amount: -50_00 })).toBe('Repayment: 50.00');
    expect(carried({ reason: 'paid-late', amount: -50_00 })).toBe('Paid late: 50.00');
    expect(carried({ reason: 'paid', amount: -50_00 })).toBe('Payment made: 50.00 of principal');
    expect(carried({ reason: 'paid', amount: -50_00 }, { happened: ['renewed', 'paid'] })).toBe('Renewal');
    expect(said({ happened: ['paid'], expense: { ...figure(), over: over(0.05, 0.05, 31) } })).toBe(
      'Payment made: interest; 31 days against 30',
    );
    expect(said({ accrued: figure({ reason: 'left-out', amount: -5_00 }) })).toBe(
      'Too small to book: accrued −5.00',
    );
  });

  it('never tells days that are as many, or a rate that did not change', () => {
    const ran = { ...figure({ reason: 'days', amount: 5 }), over: over(0.02875, 0.02875) };
    expect(said({ accrued: ran, expense: { ...figure(), over: over(0.02875, 0.02875) } })).toBe(
      'Days: accrued 0.05',
    );
    const rounded = figure({ reason: 'rate', amount: 1 }, { reason: 'days', amount: 5 });
    expect(said({ expense: { ...rounded, over: over(0.02875, 0.02875, 31) } })).toBe(
      'Days: 31 days against 30',
    );
    expect(said({ expense: figure({ reason: 'balance', amount: -5_00 }) })).toBe(
      'Balance owed: expense −5.00',
    );
  });
});

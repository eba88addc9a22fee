import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { paid } from '../../testing/loan-events.ts';
import { sumOf } from '../../testing/explained.ts';
import { arbitraryLoanWithEvents, canBeScheduled } from '../../testing/arbitrary-loan.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { loanRows } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanRounding, LoanTerms } from '../terms/loan-terms.ts';
import { explainLoanFigure } from './explain-loan.ts';

const cents: LoanRounding = { interest: 'cent', payment: 'cent', ties: 'away-from-zero' };

describe('what was recorded', () => {
  // What is left over must be somewhere: what went to extra principal is in the row's, two on one day are one each.
  it('names what each record brought and no other, also of several on one day and for days on which nothing is due', () => {
    const terms = arbitraryLoanWithEvents
      .map((each): LoanTerms => ({
        ...each,
        rounding: cents,
        events: each.events.flatMap((event, at): LoanEvent[] => {
          if (event.type !== 'paid' || at % 3 === 0) return [event];
          const half = { ...event, amount: Math.floor(event.amount / 2) };
          return [half, at % 3 === 1 ? half : { ...half, due: event.due + 1 }];
        }),
      }))
      .filter(canBeScheduled);
    fc.assert(
      fc.property(terms, (each) => {
        const schedule = buildLoanSchedule(each);
        for (const row of loanRows(schedule)) {
          const explained = explainLoanFigure(schedule, row.index, 'payment');
          if (explained.unrounded === undefined)
            expect(sumOf(explained), `row ${row.index}`).toBe(row.payment);
          const beyond = explained.steps.find(({ label }) => label.startsWith('− beyond the schedule'));
          expect(beyond?.amount ?? 0, `row ${row.index} (${row.kind})`).toBeLessThanOrEqual(row.extra);
        }
      }),
      { numRuns: 150 },
    );
  });

  // A payment agreed within a stretch without payments goes to what is charged from then on; what was kept apart before is
  // paid with the last of the stretch.
  it('names interest kept apart beside a payment that is agreed later', () => {
    const schedule = buildLoanSchedule(
      thousand([{ type: 'no-payment', count: 4, interest: 'kept-apart', then: 'pay' }, level(8)], {
        events: [{ type: 'payment-change', on: day('2025-03-01'), payment: 5_000 }],
      }),
    );
    const steps = [0, 1, 2, 3].map((row) =>
      explainLoanFigure(schedule, row, 'payment').steps.map(({ label, amount }) => [label, amount]),
    );
    const agreed = ['Payment agreed from 2025-03-01', 5_000];
    // January's interest, 1 % of 1,000.00, waits until 1 May.
    expect(steps).toEqual([
      [['Nothing is paid in this stretch', undefined]],
      [agreed],
      [agreed],
      [agreed, ['+ interest kept apart, paid at the end of the stretch', 1_000]],
    ]);
    expect([...schedule.payment.slice(0, 4)]).toEqual([0, 5_000, 5_000, 6_000]);
  });

  // Each of two on one day has its row, and so has one for a day on which nothing is due.
  it('is told by the row that it made', () => {
    const told = (...events: LoanEvent[]): unknown[] => {
      const schedule = buildLoanSchedule(thousand([level(5)], { events }));
      return loanRows(schedule)
        .filter(({ date }) => date >= day('2025-02-01') && date < day('2025-03-01'))
        .map(({ index, kind, payment }) => [
          kind,
          payment,
          ...explainLoanFigure(schedule, index, 'payment').steps.map(({ label, amount }) => [label, amount]),
        ]);
    };
    const recorded = (on: string, amount: number): unknown[] => [`Recorded: paid on ${on}`, amount];
    expect(told(paid('2025-02-01', '2025-02-10', 20_000), paid('2025-02-01', '2025-02-10', 604))).toEqual([
      ['payment', 0, ['Recorded: nothing paid by this day', undefined]],
      ['late-payment', 20_000, recorded('2025-02-10', 20_000)],
      ['late-payment', 604, recorded('2025-02-10', 604)],
    ]);
    expect(told(paid('2025-02-01', '2025-02-01', 20_000), paid('2025-02-02', '2025-02-01', 604))).toEqual([
      ['late-payment', 0, recorded('2025-02-01', 604), ['− beyond the schedule, to extra principal', 604]],
      ['payment', 20_000, recorded('2025-02-01', 20_000)],
    ]);
  });
});

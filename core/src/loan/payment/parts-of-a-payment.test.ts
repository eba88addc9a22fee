import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths } from '../../calendar/calendar-day.ts';
import { position } from '../../position/position.ts';
import { day, failing, level, rowsOf, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { RecordedPayment } from '../terms/loan-events.ts';

const paid = (due: number, on: number, amount: number): RecordedPayment => ({
  type: 'paid',
  due,
  on,
  amount,
});
const [first, april] = [day('2025-02-01'), day('2025-04-01')];
const on = (events: readonly RecordedPayment[]): ReturnType<typeof position> =>
  position(buildLoanSchedule(thousand([level(36)], { events })), day('2025-04-15'));

// Money goes to interest first, then to principal, the oldest first (common practice); a part counts once, on its day.
describe('a payment in parts', () => {
  it('makes up for what was missed once: the current portion is that of a payment in one piece', () => {
    const missed = paid(first, first, 0);
    const whole = on([missed, paid(april, april, 6000)]);
    const parts = on([missed, paid(april, april - 7, 3000), paid(april, april, 3000)]);
    expect([whole.current, parts.current]).toEqual([30_881, 30_881]);
  });

  it('leaves the interest of its early part unpaid where it does not cover it, and asks for no principal in its place', () => {
    const { unpaidInterest, current } = on([paid(april, april - 7, 500), paid(april, april, 1)]);
    expect([unpaidInterest, current]).toEqual([452, 32_346]);
  });

  it('is the next one until its due date with what is left of it', () => {
    const events = [paid(april, april - 7, 500)];
    const next = (to: number, more: RecordedPayment[] = []): unknown =>
      position(buildLoanSchedule(thousand([level(36)], { events: [...events, ...more] })), to).next;
    expect(next(april - 8)).toEqual({ due: april, payment: 3321 });
    const rest = { due: april, payment: 3321 - 500 };
    expect(next(april - 7)).toEqual(rest);
    expect(next(april - 1)).toEqual(rest);
    // What comes in later is not known yet.
    expect(next(april - 1, [paid(april, april, 2821)])).toEqual(rest);
    expect(next(april, [paid(april, april, 2821)])).toMatchObject({ due: day('2025-05-01') });
    expect(next(april - 1, [paid(april, april - 3, 2821)])).toMatchObject({ due: day('2025-05-01') });
    // Paid before the payment due before it, it is still the next after that one.
    const ahead = [paid(april, day('2025-02-25'), 1000)];
    const then = position(
      buildLoanSchedule(thousand([level(36)], { events: ahead })),
      day('2025-03-10'),
    ).next;
    expect(then).toEqual({ due: april, payment: 3321 - 1000 });
  });

  // Of each 33.21 what is not interest is principal (common practice); what of it was not repaid is in arrears.
  it('leaves in arrears what was agreed less interest and what was repaid, whatever came when', () => {
    const part = fc.record({
      before: fc.integer({ min: 0, max: 27 }),
      amount: fc.integer({ min: 0, max: 4000 }),
    });
    const due = fc.option(fc.array(part, { minLength: 1, maxLength: 3 }), { nil: undefined });
    let looked = 0;
    fc.assert(
      fc.property(fc.array(due, { minLength: 2, maxLength: 8 }), (dues) => {
        const events = dues.flatMap((parts, at) => {
          const to = addMonths(first, at, false);
          return (parts ?? []).map(({ before, amount }) => paid(to, to - before, amount));
        });
        const terms = thousand([level(36)], { events });
        expect(failing(terms)).toEqual([]);
        const { principalInArrears } = buildLoanSchedule(terms);
        let [arrears, moved] = [0, 0];
        for (const [at, { n, interest, principal, extra }] of rowsOf(terms).entries()) {
          if (extra > 0 || (n ?? 0) > dues.length) break;
          moved += interest + principal;
          if (n === null) continue;
          // What was repaid early beyond what is then asked for makes up for nothing later.
          arrears = Math.max(0, arrears + 3321 - moved);
          moved = 0;
          looked += 1;
          expect(principalInArrears[at]).toBe(arrears);
        }
      }),
      { numRuns: 300 },
    );
    expect(looked).toBeGreaterThan(300);
  });
});

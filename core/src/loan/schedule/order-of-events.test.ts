import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths } from '../../calendar/calendar-day.ts';
import { ratio } from '../../money/ratio.ts';
import { balancesOf } from '../../entries/balances.ts';
import { entriesOnDay } from '../../entries/entries.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanRow } from './loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { extra, paid } from '../../testing/loan-events.ts';
import { day, failing, level, percent, plainLoan, rowsOf, thousand } from '../../testing/plain-loan.ts';

const step = (from: string, payment: 're-level' | 'keep'): LoanTerms['rateSteps'][number] => ({
  from: day(from),
  annualRate: percent('24'),
  payment,
});
const payments = (terms: LoanTerms): number[] =>
  rowsOf(terms).flatMap(({ n, payment }) => (n === null ? [] : [payment]));

describe('several events in one period', () => {
  it('apply in the order of their days: a step levels what stood then, an extra after it shortens', () => {
    const stepped = thousand([level(5)], {
      rateSteps: [step('2025-02-10', 're-level')],
      events: [extra('2025-02-20', 10_000)],
    });
    // (803.96 × (1 + 1 % × 9/28 + 2 % × 19/28)) over the annuity due of 4 at 2 %.
    expect(payments(stepped)[1]).toBe(21_047);
  });

  it('a draw that levels, then a step that keeps: the payment is that of the draw', () => {
    const drawn = thousand([level(5)], {
      rateSteps: [step('2025-02-15', 'keep')],
      events: [{ type: 'draw', on: day('2025-02-01'), amount: 10_000, then: 're-level' }],
    });
    // 903.96 over the annuity of 4 at 1 %.
    expect(payments(drawn)[1]).toBe(23_167);
  });

  it('a payment made early leaves one set before it, and what is set after it has all the interest since', () => {
    const before = thousand([level(5)], {
      rateSteps: [step('2025-02-01', 're-level')],
      events: [paid('2025-03-01', '2025-02-02', 20_604)],
    });
    expect(payments(before)[2]).toBe(21_114);
    const after = thousand([{ type: 'interest-only', count: 2 }, level(3)], {
      events: [paid('2025-03-01', '2025-02-02', 10_000)],
    });
    expect(payments(after)[2]).toBe(30_907);
  });

  /**
   * The rule once more in doubles: on each day of a period a changed balance or rate takes effect; whoever levels the
   * payment solves it from that day's balance, the interest of the period as far as is known, and whole periods after.
   */
  it('whatever they are, the next payment is the one that the last to level it made', () => {
    const kinds = ['extra', 'draw', 'step'] as const;
    const drawn = fc.uniqueArray(
      fc.record({
        day: fc.integer({ min: 1, max: 29 }),
        kind: fc.constantFrom(...kinds),
        levels: fc.boolean(),
        size: fc.integer({ min: 1, max: 40 }),
      }),
      { minLength: 1, maxLength: 4, selector: ({ day: on }) => on },
    );
    fc.assert(
      fc.property(drawn, (events) => {
        const [count, start, basis] = [12, day('2025-01-01'), 36_500];
        const terms = plainLoan([level(count)], {
          amount: 10_000_000,
          start,
          first: addMonths(start, 1),
          dayCount: 'ACT/365F',
          rateSteps: events
            .filter(({ kind }) => kind === 'step')
            .map(({ day: on, levels, size }) => ({
              from: start + on,
              annualRate: ratio(BigInt(size), 100n),
              payment: levels ? 're-level' : 'keep',
            })),
          events: events.flatMap(({ kind, day: on, levels, size }): LoanEvent[] => {
            const amount = size * 10_000;
            if (kind === 'draw')
              return [{ type: 'draw', on: start + on, amount, then: levels ? 're-level' : 'keep' }];
            if (kind === 'step') return [];
            return [
              { type: 'extra-principal', on: start + on, amount, then: levels ? 're-level' : 'shorten' },
            ];
          }),
        });
        const dues = Array.from({ length: count + 1 }, (_, month) => addMonths(start, month));
        const levelled = (balance: number, rate: number, first: number): number => {
          let [discount, annuity] = [1 / (1 + first), 1 / (1 + first)];
          for (let at = 1; at < count; at += 1) {
            discount /= 1 + (rate * ((dues[at + 1] as number) - (dues[at] as number))) / basis;
            annuity += discount;
          }
          return balance / annuity;
        };
        let [balance, rate, accrued, since] = [10_000_000, 6, 0, 0];
        let payment = levelled(balance, rate, (rate * 31) / basis);
        for (const { day: on, kind, levels, size } of [...events].sort((a, b) => a.day - b.day)) {
          accrued += (balance * rate * (on - since)) / basis;
          since = on;
          if (kind === 'step') rate = size;
          else balance += (kind === 'draw' ? 1 : -1) * size * 10_000;
          const first = accrued / balance + (rate * (31 - on)) / basis;
          if (levels) payment = levelled(balance, rate, first);
        }
        const made = rowsOf(terms).find(({ n }) => n === 1)?.payment ?? 0;
        expect(Math.abs(made - payment)).toBeLessThanOrEqual(0.5000001);
      }),
      { numRuns: 300 },
    );
  });
});

describe('what happens later', () => {
  it('a renewal changes no payment set before it', () => {
    const terms = plainLoan([level(3)], {
      annualRate: percent('12'),
      dayCount: '30E/360-ISDA',
      start: day('2024-11-28'),
      first: day('2024-12-28'),
    });
    const renewal: LoanEvent = {
      type: 'renewal',
      on: day('2025-01-28'),
      annualRate: percent('7'),
      count: 6,
      amortizeOver: 6,
    };
    expect(payments(terms)[0]).toBe(3_400_221);
    expect(payments({ ...terms, events: [renewal] })[0]).toBe(3_400_221);
  });

  it('a renewal before a first payment leaves the days until then in the period that they were counted in', () => {
    const terms = plainLoan([level(4)], {
      amount: 90_000_000,
      annualRate: percent('1.58'),
      dayCount: 'even-periods',
      every: 'quarter',
      start: day('2024-01-31'),
      first: day('2024-02-06'),
    });
    const listed: LoanTerms = {
      ...terms,
      first: day('2024-04-30'),
      phases: [
        { type: 'interest-only', count: 1 },
        {
          type: 'custom',
          payments: [
            { on: day('2024-09-17'), amount: 100_000 },
            { on: day('2024-12-20'), amount: 100_000 },
          ],
        },
      ],
      atEnd: 'leave',
    };
    const added = (each: LoanTerms, on: string, renewed?: string): unknown => {
      const renewal: LoanEvent[] = renewed
        ? [{ type: 'renewal', on: day(renewed), annualRate: percent('7'), count: 6, amortizeOver: 6 }]
        : [];
      const rows = rowsOf({ ...each, events: [{ type: 'interest-added', on: day(on) }, ...renewal] });
      return rows.find(({ date }) => date === day(on))?.added;
    };
    // 900,000.00 × 1.58 % / 4 × 4 days of the 92 from 6 November to 6 February: 154.565, by hand.
    expect(added(terms, '2024-02-04', '2024-02-05')).toBe(15_457);
    expect(added(terms, '2024-02-04')).toBe(15_457);
    for (const on of ['2024-05-20', '2024-06-30', '2024-08-01'])
      expect(added(listed, on, '2024-08-02')).toBe(added(listed, on));
  });
});

describe('what is paid', () => {
  it('goes to interest first, also where the agreement asks for less', () => {
    const terms = thousand([{ type: 'fixed', payment: 500, count: 3 }, level(2)], {
      events: [paid('2025-02-01', '2025-02-01', 10_000)],
    });
    const [first] = rowsOf(terms);
    expect(first).toMatchObject({ interest: 1_000, added: 0, closing: 91_000, unpaid: 0 });
    expect((first?.principal ?? 0) + (first?.extra ?? 0)).toBe(9_000);
    const deferred = thousand(
      [{ type: 'no-payment', count: 2, interest: 'added-each-period', then: 'pay' }, level(3)],
      { events: [paid('2025-02-01', '2025-02-01', 10_000)] },
    );
    expect(rowsOf(deferred)[0]).toMatchObject({ added: 0, closing: 91_000 });
  });

  const cash = (rows: readonly LoanRow[]): number =>
    rows.reduce((sum, { payment, extra: more }) => sum + payment + more, 0);

  it('counts once, named by the agreed or the moved day', () => {
    const moving = (rule: 'following' | 'preceding', accrual: 'moved' | 'unmoved'): Partial<LoanTerms> => ({
      start: day('2025-04-30'),
      first: day('2025-05-31'),
      businessDays: { rule, calendar: 'TARGET', accrual },
    });
    for (const accrual of ['moved', 'unmoved'] as const) {
      for (const named of ['2025-05-31', '2025-06-02']) {
        const terms = thousand([level(5)], {
          ...moving('following', accrual),
          events: [paid(named, '2025-06-02', 10_000)],
        });
        expect(cash(rowsOf(terms).filter(({ date }) => date < day('2025-06-30')))).toBe(10_000);
      }
      const before = thousand([level(5)], {
        ...moving('preceding', accrual),
        events: [paid('2025-05-31', '2025-05-31', 10_000)],
      });
      expect(cash(rowsOf(before).filter(({ date }) => date < day('2025-06-30')))).toBe(10_000);
    }
  });

  it('for a due in parts, or before the due before it, stands on its own days', () => {
    const terms = thousand([level(5)], {
      events: [
        paid('2025-03-01', '2025-02-20', 10_000),
        paid('2025-03-01', '2025-03-01', 10_604),
        paid('2025-04-01', '2025-04-01', 10_000),
        paid('2025-04-01', '2025-04-10', 10_604),
        paid('2025-05-01', '2025-03-15', 20_604),
      ],
    });
    const on = (text: string): number => cash(rowsOf(terms).filter(({ date }) => date === day(text)));
    expect(
      ['2025-02-20', '2025-03-01', '2025-03-15', '2025-04-01', '2025-04-10', '2025-05-01'].map(on),
    ).toEqual([10_000, 10_604, 20_604, 10_000, 10_604, 0]);
    expect(failing(terms)).toEqual([]);
  });

  it('leaves out regular extra principal where no payment is asked for', () => {
    const each: LoanEvent = {
      type: 'extra-each-payment',
      from: day('2025-01-01'),
      to: day('2026-01-01'),
      amount: 1_000,
      then: 'shorten',
    };
    const terms = thousand(
      [{ type: 'no-payment', count: 2, interest: 'added-each-period', then: 'pay' }, level(5)],
      { events: [each] },
    );
    expect(rowsOf(terms).map(({ extra: more }) => more)).toEqual([0, 0, 1_000, 1_000, 1_000, 1_000, 0]);
  });
});

describe('a bill of a credit line', () => {
  const line = thousand([{ type: 'interest-only', count: 3 }], {
    amount: 0,
    dayCount: 'ACT/360',
    keepMonthEnd: true,
    start: day('2024-12-31'),
    first: day('2025-01-31'),
    annualRate: percent('6'),
    creditLine: { limit: 200_000, unusedFee: percent('5') },
    events: [{ type: 'draw', on: day('2025-01-01'), amount: 60_000, then: 'keep' }],
  });

  // Cash is what was paid, always (common practice of double entry): what nobody is owed stands apart.
  it('that is repaid beyond what is owed keeps the rest apart, and the next bills take it', () => {
    const repaid = (on: string): LoanTerms => ({ ...line, events: [...line.events, extra(on, 150_000)] });
    const onDay = (terms: LoanTerms, on: string): (number | undefined)[] => {
      const booked = balancesOf(
        entriesOnDay(buildLoanSchedule(terms), day(on)).filter(({ kind }) => kind === 'payment'),
      );
      return [booked.get('cash'), booked.get('overpayment')];
    };
    const bill = rowsOf(repaid('2025-02-10')).find(({ due }) => due === day('2025-02-28'));
    const between = repaid('2025-02-10');
    expect(onDay(between, '2025-02-10')).toEqual([-150_000, 90_000]);
    expect(bill?.payment).toBeGreaterThan(0);
    expect(onDay(between, '2025-02-28')).toEqual([undefined, 0 - (bill?.payment ?? 0)]);
    const february = rowsOf(line).find(({ due }) => due === day('2025-02-28'))?.payment ?? 0;
    expect(onDay(repaid('2025-02-28'), '2025-02-28')).toEqual([-150_000 - february, 90_000]);
    for (const on of ['2025-02-10', '2025-02-28', '2025-05-10']) expect(failing(repaid(on))).toEqual([]);
  });

  // 31 May 2025 is a Saturday: who pays on Friday pays the bill that was sent, for all of May (common practice).
  it('is paid where it is paid the business day before, and the next is no larger for it', () => {
    const terms = { ...line, phases: [{ type: 'interest-only', count: 7 } as const] };
    const byDue = (each: LoanTerms): LoanRow[] => rowsOf(each).filter(({ n }) => n !== null);
    const may = byDue(terms)[4] as LoanRow;
    const bill = paid('2025-05-31', '2025-05-30', may.payment);
    const early = { ...terms, events: [...terms.events, bill] };
    expect(byDue(early)[4]).toMatchObject({ ...may, date: day('2025-05-30') });
    expect(byDue(early).slice(5)).toEqual(byDue(terms).slice(5));
    expect(failing(early)).toEqual([]);
    // What is less than the bill, or comes before a draw that the bill still has to count, is charged to its own day.
    const less = { ...bill, amount: may.payment - 1 };
    const draw: LoanEvent = { type: 'draw', on: day('2025-05-31'), amount: 1_000, then: 'keep' };
    for (const events of [[less], [bill, draw]]) {
      const short = { ...terms, events: [...terms.events, ...events] };
      expect(byDue(short)[4]?.interest).toBeLessThan(may.interest);
      expect(failing(short)).toEqual([]);
    }
  });

  it('is interest and fee: what is recorded is what is paid, and the rest is asked with the next', () => {
    const [, bill] = rowsOf(line);
    const asked = (bill?.interest ?? 0) + (bill?.fee ?? 0);
    expect(bill?.payment).toBe(asked);
    for (const amount of [0, 500, asked]) {
      const terms = { ...line, events: [...line.events, paid('2025-01-31', '2025-01-31', amount)] };
      const [, first, second] = rowsOf(terms);
      expect(first).toMatchObject({ payment: amount, principal: 0, extra: 0, unpaid: asked - amount });
      expect(second?.payment).toBe((second?.interest ?? 0) + (second?.fee ?? 0) + asked - amount);
      expect(failing(terms)).toEqual([]);
    }
  });
});

it('a half cent of the solved payment goes as the terms say', () => {
  const even = { interest: 'cent', payment: 'cent', ties: 'even' } as const;
  const terms = thousand([level(2)], { amount: 25, annualRate: percent('0'), rounding: even });
  expect(buildLoanSchedule(terms).payment[0]).toBe(12);
});

// The compound amount of 1,061.52 over six months at 1 % a month less the 1,000.00.
it('interest brought in under a compounding frequency grows with what follows', () => {
  const takenOn = thousand([level(3)], {
    compounding: 'monthly',
    dayCount: '30/360',
    every: 'year',
    start: day('2025-07-01'),
    first: day('2026-01-01'),
    takenOn: { accruedInterest: 6_152 },
  });
  expect(rowsOf(takenOn)[0]?.interest).toBe(12_682);
  const [first, second, third] = payments(takenOn);
  expect([second, Math.abs((third ?? 0) - (first ?? 0)) <= 2]).toEqual([first, true]);
  expect(failing(takenOn)).toEqual([]);
});

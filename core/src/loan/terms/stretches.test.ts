import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { day, level, percent, rowsOf, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import { asKnownOn } from './as-known-on.ts';
import type { LoanEvent, Renewal } from './loan-events.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';
import { interestDay, loanStretches, stretchPeriod, type Stretch } from './stretch.ts';

const renewal = (on: string, more: Partial<Renewal> = {}): LoanEvent => ({
  type: 'renewal',
  on: day(on),
  annualRate: percent('6'),
  count: 3,
  amortizeOver: 12,
  ...more,
});
const duesOf = ({ dues, count }: Stretch): string[] => [...dues.subarray(0, count)].map(formatDay);
const stretches = (phases: readonly Phase[], more: Partial<LoanTerms> = {}): Stretch[] =>
  loanStretches(thousand(phases, more));
/** Due days, interest and closing of each row: 1,000.00 at 12 %, one percent a month, due on the first. */
const rows = (phases: readonly Phase[], more: Partial<LoanTerms> = {}): unknown[] =>
  rowsOf(thousand(phases, more)).map(({ due, interest, closing }) => [formatDay(due), interest, closing]);
const waiting: Phase = { type: 'interest-only', count: 4 };

describe('a renewal', () => {
  // Loan agreements, common practice: what ran ends on the day, and what is agreed counts from it.
  it('on a due date goes on from it, in the same cycle or another', () => {
    const on = (every?: 'quarter'): unknown =>
      stretches([waiting], { events: [renewal('2025-03-01', every && { every })] }).map((each) => [
        ...[formatDay(each.opens), duesOf(each), each.offCycle ?? false, each.cutShort, each.clears],
      ]);
    const before = ['2025-01-01', ['2025-02-01', '2025-03-01'], false, true, false];
    expect(on()).toEqual([
      before,
      ['2025-03-01', ['2025-04-01', '2025-05-01', '2025-06-01'], false, false, true],
    ]);
    expect(on('quarter')).toEqual([
      before,
      ['2025-03-01', ['2025-06-01', '2025-09-01', '2025-12-01'], false, false, true],
    ]);
    // Due on the 31st, on the 28th of February: the cycle goes on from the 31st; another begins with the 28th.
    const ends = { start: day('2024-12-31'), first: day('2025-01-31') };
    const [, next] = stretches([waiting], { ...ends, events: [renewal('2025-02-28')] });
    expect(next && duesOf(next)).toEqual(['2025-03-31', '2025-04-30', '2025-05-31']);
    const [, other] = stretches([waiting], {
      ...ends,
      events: [renewal('2025-02-28', { every: 'quarter' })],
    });
    expect(other && duesOf(other)).toEqual(['2025-05-28', '2025-08-28', '2025-11-28']);
    // Half the rate from its day on.
    expect(rows([waiting], { events: [renewal('2025-03-01', { payment: 2_000 })] }).slice(1, 4)).toEqual([
      ['2025-03-01', 1_000, 100_000],
      ['2025-04-01', 500, 98_500],
      ['2025-05-01', 493, 96_993],
    ]);
  });

  it('between due dates begins its own on its day, with the days until then at the rate that was', () => {
    const events = [renewal('2025-03-16', { payment: 2_000 })];
    const [first, second] = stretches([waiting], { events });
    expect([first && duesOf(first), second && duesOf(second), second?.offCycle]).toEqual([
      ['2025-02-01', '2025-03-01'],
      ['2025-04-16', '2025-05-16', '2025-06-16'],
      true,
    ]);
    // Fifteen of 31 days at 1 %, and a month at half of it.
    const made = rows([waiting], { events });
    expect(made[2]).toEqual([
      '2025-04-16',
      Math.round((1_000 * 15) / 31) + 500,
      100_000 + Math.round((1_000 * 15) / 31) + 500 - 2_000,
    ]);
  });

  it('before anything is paid takes the place of all that was agreed, and keeps the days until then', () => {
    const events = [renewal('2025-01-16', { payment: 2_000 })];
    const made = stretches([waiting, level(5)], { events });
    expect(made.map((each) => [duesOf(each), each.cutShort])).toEqual([
      [[], true],
      [['2025-02-16', '2025-03-16', '2025-04-16'], false],
    ]);
    expect(rows([waiting, level(5)], { events })[0]).toEqual([
      '2025-02-16',
      Math.round((1_000 * 15) / 31) + 500,
      98_984,
    ]);
  });

  it('takes away the stretches that have not begun by then, and one after it those after its own', () => {
    const phases: Phase[] = [{ type: 'interest-only', count: 2 }, level(3), level(3)];
    const left = (...events: LoanEvent[]): string[][] => stretches(phases, { events }).map(duesOf);
    expect(left(renewal('2025-02-15')).map((each) => each.length)).toEqual([1, 3]);
    // On the last due date of the first, the second has not begun.
    expect(left(renewal('2025-03-01')).map((each) => each.length)).toEqual([2, 3]);
    expect(left(renewal('2025-03-02')).map((each) => each.length)).toEqual([2, 0, 3]);
    expect(left(renewal('2025-04-01')).map((each) => each.length)).toEqual([2, 1, 3]);
    // Told in another order they come in theirs.
    const both = left(renewal('2025-05-01', { count: 2 }), renewal('2025-03-01', { count: 9 }));
    expect(both).toEqual([
      ['2025-02-01', '2025-03-01'],
      ['2025-04-01', '2025-05-01'],
      ['2025-06-01', '2025-07-01'],
    ]);
  });

  it('on the day of the last payment renews what it would have cleared, and after it nothing', () => {
    const closing = (on: string): unknown[] =>
      rows([{ type: 'interest-only', count: 2 }], { events: [renewal(on, { payment: 2_000 })] });
    expect(closing('2025-03-01')).toHaveLength(5);
    expect(closing('2025-03-02')).toHaveLength(2);
    const left = rows([level(2, 24)], {
      atEnd: 'leave',
      events: [renewal('2025-03-16', { payment: 2_000 })],
    });
    expect(left.slice(2).map((row) => (row as [string])[0])).toEqual([
      '2025-04-16',
      '2025-05-16',
      '2025-06-16',
    ]);
  });
});

describe('the periods of a stretch', () => {
  const period = (stretch: Stretch | undefined, at: number): unknown[] => {
    if (!stretch) throw new Error('There is such a stretch.');
    const { from, to, evenYears, termination } = stretchPeriod(stretch, at);
    return [
      formatDay(from),
      formatDay(to),
      evenYears.num / evenYears.den,
      termination && formatDay(termination),
    ];
  };

  it('go on as the cycle does past the last payment, in a cycle or from a list', () => {
    const [first, second] = stretches([{ type: 'interest-only', count: 1 }, level(2)]);
    expect(period(first, 0)).toEqual(['2025-01-01', '2025-02-01', 1 / 12, undefined]);
    expect(period(second, 0)).toEqual(['2025-02-01', '2025-03-01', 1 / 12, undefined]);
    expect(period(second, 1)).toEqual(['2025-03-01', '2025-04-01', 1 / 12, '2025-04-01']);
    expect(period(second, 2)).toEqual(['2025-04-01', '2025-05-01', 1 / 12, undefined]);
    const days = ['2025-02-10', '2025-04-20'];
    const [listed] = stretches([
      { type: 'custom', payments: days.map((on) => ({ on: day(on), amount: 1 })) },
    ]);
    expect(listed && [1, 2, 3].map((at) => formatDay(interestDay(listed, at)))).toEqual([
      '2025-04-20',
      '2025-05-20',
      '2025-06-20',
    ]);
    expect(listed?.cycleFrom).toBeNull();
  });

  it('are odd where a first or last payment is on a day of its own', () => {
    const [long] = stretches([level(3)], { start: day('2024-12-15') });
    expect(period(long, 0)).toEqual(['2024-12-15', '2025-02-01', (1 + 17 / 31) / 12, undefined]);
    const [odd] = stretches([level(3)], { last: day('2025-04-20') });
    expect(odd && duesOf(odd)).toEqual(['2025-02-01', '2025-03-01', '2025-04-20']);
    expect(period(odd, 2)).toEqual(['2025-03-01', '2025-04-20', (1 + 19 / 30) / 12, '2025-04-20']);
    // A last day belongs to the last stretch alone, and to none that is listed or has no end.
    const [first, last] = stretches([{ type: 'interest-only', count: 2 }, level(2)], {
      last: day('2025-05-20'),
    });
    expect([first?.oddLast, last?.oddLast]).toEqual([false, true]);
    const [open] = stretches([{ type: 'fixed', payment: 30_000 }], { last: day('2025-05-20') });
    expect([open?.oddLast, open?.openEnded, open?.clears, open?.count, open?.termination]).toEqual([
      false,
      true,
      false,
      1_200,
      undefined,
    ]);
  });

  it('run to the day that was agreed where only payments move', () => {
    const moved = (accrual: 'moved' | 'unmoved'): Stretch | undefined =>
      stretches([level(2)], { businessDays: { rule: 'following', calendar: 'weekends', accrual } })[0];
    // The 1st of February and of March 2025 are Saturdays.
    for (const accrual of ['moved', 'unmoved'] as const) {
      const stretch = moved(accrual);
      expect(stretch && duesOf(stretch)).toEqual(['2025-02-03', '2025-03-03']);
      expect(stretch && [...stretch.agreedDays].map(formatDay)).toEqual(['2025-02-01', '2025-03-01']);
      expect(stretch && formatDay(interestDay(stretch, 0))).toBe(
        accrual === 'moved' ? '2025-02-03' : '2025-02-01',
      );
    }
  });

  it('are counted after a list from the first due date of the cycle after its last day', () => {
    const list: Phase = { type: 'custom', payments: [{ on: day('2025-02-01'), amount: 1_000 }] };
    const [, after] = stretches([list, level(2)], { first: day('2025-02-01') });
    expect(after && duesOf(after)).toEqual(['2025-03-01', '2025-04-01']);
    expect(period(after, 0)).toEqual(['2025-02-01', '2025-03-01', 1 / 12, undefined]);
    // 14 of the 28 days of February are left after a list that ends within it.
    const within: Phase = { type: 'custom', payments: [{ on: day('2025-02-15'), amount: 1_000 }] };
    expect(period(stretches([within, level(2)])[1], 0)).toEqual([
      '2025-02-15',
      '2025-03-01',
      0.5 / 12,
      undefined,
    ]);
  });

  // Common practice: a whole period stays one where its days move, whichever stretch they belong to.
  it('are whole ones in every stretch where due dates move and interest with them', () => {
    const moves = { businessDays: { rule: 'following', calendar: 'weekends', accrual: 'moved' } } as const;
    const [first, second] = stretches([{ type: 'interest-only', count: 1 }, level(2)], moves);
    expect(period(second, 0)).toEqual(['2025-02-03', '2025-03-03', 1 / 12, undefined]);
    expect(period(second, 1)).toEqual(['2025-03-03', '2025-04-01', 1 / 12, '2025-04-01']);
    // The first of a loan is what the agreed days make it, and is counted to the day that it moved to.
    const of = first && stretchPeriod(first, 0);
    expect(of && [formatDay(of.to), of.boundaries.map(formatDay)]).toEqual([
      '2025-02-03',
      ['2025-01-01', '2025-02-03'],
    ]);
  });
});

describe('a loan as it is known on a day', () => {
  const events: LoanEvent[] = [
    { type: 'fee', on: day('2025-04-05'), amount: 5, treatment: 'expense' },
    { type: 'extra-principal', on: day('2025-02-10'), amount: 10_000, then: 'shorten' },
    {
      type: 'extra-each-payment',
      from: day('2025-03-01'),
      to: day('2025-06-01'),
      amount: 1_000,
      then: 'shorten',
    },
    { type: 'paid', due: day('2025-02-01'), on: day('2025-02-05'), amount: 20_603 },
  ];
  const whole = buildLoanSchedule(thousand([level(5)], { events }));
  const known = (on: string, more?: 'going-on'): LoanEvent[] => [
    ...asKnownOn(whole, day(on), more).terms.events,
  ];

  // IAS 1.76: what happens after the day does not change how a debt is presented on it.
  it('is without what happened later, and owes what was due by then and paid later', () => {
    const [fee, extra, each, paid] = events as [LoanEvent, LoanEvent, LoanEvent, LoanEvent];
    const missed = { type: 'paid', due: day('2025-02-01'), on: day('2025-02-01'), amount: 0 };
    expect(known('2025-01-31')).toEqual([fee]);
    expect(known('2025-02-04')).toEqual([fee, missed]);
    expect(known('2025-02-05')).toEqual([fee, paid]);
    expect(known('2025-02-09')).toEqual([fee, paid]);
    expect(known('2025-02-10')).toEqual([fee, extra, paid]);
    expect(known('2025-03-01')).toEqual([fee, extra, { ...each, to: day('2025-03-01') }, paid]);
    expect(known('2025-03-01', 'going-on')).toEqual([fee, extra, each, paid]);
    expect(known('2025-02-28', 'going-on')).toEqual([fee, extra, paid]);
  });

  it('is itself once all has happened, whatever fee or presentation is still to come', () => {
    const same = (on: string, more?: 'going-on'): boolean => asKnownOn(whole, day(on), more) === whole;
    expect([same('2025-05-31'), same('2025-05-31', 'going-on'), same('2025-06-01')]).toEqual([
      false,
      true,
      true,
    ]);
    const fees: LoanSchedule = buildLoanSchedule(thousand([level(5)], { events: events.slice(0, 1) }));
    expect(asKnownOn(fees, day('2025-01-01'))).toBe(fees);
    // Asked again between days on which nothing happens, it is the same one.
    expect(asKnownOn(whole, day('2025-02-06'))).toBe(asKnownOn(whole, day('2025-02-09')));
    expect(asKnownOn(whole, day('2025-02-06'))).not.toBe(asKnownOn(whole, day('2025-02-10')));
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, monthEnd, parseDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { buildSchedule, firstDay } from '../instrument/instrument.ts';
import { isDebt } from '../kinds/kinds.ts';
import type { AnySchedule } from '../kinds/schedules.ts';
import { fundPosition } from '../fund/fund-position.ts';
import { fundEnd } from '../fund/fund-schedule.ts';
import { arbitraryFundAsMade } from '../testing/arbitrary-fund.ts';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { arbitraryLoanWithEvents, canBeScheduled } from '../testing/arbitrary-loan.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { position } from '../position/position.ts';
import { accrualChoices, type AccrualChoice } from './accruals.ts';
import { balancesOf } from './balances.ts';
import { closeEntries, type Books } from './close-entries.ts';
import { accrualEntry, entries } from './entries.ts';
import { reversalOf, type Entry } from './entry.ts';
import { standingBalances, type Balances } from './standing-balances.ts';

const day = (text: string): CalendarDay => parseDay(text) as CalendarDay;
const anySchedule: fc.Arbitrary<AnySchedule> = fc
  .oneof(
    { weight: 3, arbitrary: arbitraryLoanWithEvents },
    { weight: 1, arbitrary: arbitraryBondWithEvents },
    { weight: 1, arbitrary: arbitraryFundAsMade },
  )
  .map((terms): AnySchedule => buildSchedule(terms));
const nonZero = (balances: Balances): [string, number][] =>
  [...balances].filter(([, amount]) => amount !== 0).sort();
const monthEnds = (first: CalendarDay, months: number): CalendarDay[] =>
  Array.from({ length: months }, (_, at) => addMonths(first, at, true));

describe('standing balances', () => {
  it('are the sum of all entries to a period end, its accrual reversed', () => {
    fc.assert(
      fc.property(anySchedule, fc.integer({ min: 0, max: 60 }), (schedule, months) => {
        const end = addMonths(day('2024-01-31'), months, true);
        const made: Entry[] = entries(schedule, firstDay(schedule), end, 'month');
        const accrual = accrualEntry(schedule, end);
        if (accrual) made.push(reversalOf(accrual, end + 1));
        expect(nonZero(standingBalances(schedule, end))).toEqual(nonZero(balancesOf(made)));
      }),
      { numRuns: 150 },
    );
  });
});

/** What the company chose for the accruals of each month. */
const anyChoices = fc.array(fc.constantFrom(...accrualChoices), { minLength: 7, maxLength: 7 });
/** Whether the accrual of each month is left out. */
const anyLeftOut = fc.array(fc.boolean(), { minLength: 7, maxLength: 7 });

/** What the entries of the months before an open one made of the accounts, each by the month it belongs to. */
function booksOf(
  entries: readonly Entry[],
  openEnd: CalendarDay,
  leftOut: ReadonlySet<CalendarDay>,
  known: boolean,
): Books {
  const belongs = ({ date, belongsTo }: Entry): CalendarDay => belongsTo ?? monthEnd(date);
  const closed = [...new Set(entries.map(belongs))].filter((end) => end < openEnd).sort((a, b) => a - b);
  const of = (end: CalendarDay): Balances => balancesOf(entries.filter((entry) => belongs(entry) === end));
  const openedAt = entries.find(({ kind }) => kind === 'opening')?.belongsTo;
  const months = closed.map((end) => ({ end, moved: of(end) }));
  return { closed: months, open: of(openEnd), known, openedAt, leftOut };
}

/** The books of one instrument, closed month after month; `versions` gives its schedule at each close. */
function close(
  ends: readonly CalendarDay[],
  booksFrom: CalendarDay,
  at: (month: number) => AnySchedule,
  choices: readonly AccrualChoice[],
  leaveOut: readonly boolean[] = [],
): Entry[] {
  const books: Entry[] = [];
  const leftOut = new Set<CalendarDay>();
  ends.forEach((end, month) => {
    const [before = 'reversed', now = 'reversed'] = [choices[month - 1], choices[month]];
    const held = booksOf(books, end, leftOut, month > 0);
    const accruing = { before, now, leaveOut: leaveOut[month] ?? false };
    const { inPeriod, opening } = closeEntries(at(month), end, booksFrom, held, accruing);
    if (accruing.leaveOut) leftOut.add(end);
    books.push(...inPeriod, ...(opening ? [opening] : []));
  });
  return books;
}

/** Seven months about a day of an instrument's life, from as many months before it as asked on, and where the books begin. */
function monthsAbout(
  on: CalendarDay,
  back: number,
): { readonly ends: CalendarDay[]; readonly booksFrom: CalendarDay; readonly last: CalendarDay } {
  const first = addMonths(monthEnd(on), -back, true);
  return {
    ends: monthEnds(first, 7),
    booksFrom: addMonths(first, -1, true) + 1,
    last: addMonths(first, 6, true),
  };
}
const anyBack = fc.integer({ min: -24, max: 6 });

describe('closing month after month', () => {
  it('leaves the books at the position, and in the income statement the expense since they began', () => {
    fc.assert(
      fc.property(anySchedule, anyChoices, anyBack, (schedule, choices, back) => {
        const { ends, booksFrom, last } = monthsAbout(firstDay(schedule), back);
        const made = close(ends, booksFrom, () => schedule, choices);
        const books = balancesOf(made.filter((entry) => entry.date <= last));
        expect(made.some(({ kind }) => kind === 'correction')).toBe(false);
        if (!isDebt(schedule)) {
          const { balance, accruedInterest } = fundPosition(schedule, last);
          expect(books.get('sinking-fund') ?? 0).toBe(balance + accruedInterest);
          // Paid out, it is gone from the books whatever came before them.
          if (last >= fundEnd(schedule)) expect(books.get('sinking-fund') ?? 0).toBe(0);
          return;
        }
        const at = position(schedule, last);
        expect(books.get('interest-payable') ?? 0).toBe(0 - at.accruedInterest - at.unpaidInterest);
        expect(books.get('current-portion') ?? 0).toBe(0 - at.current);
        const since = Math.max(booksFrom, firstDay(schedule)) - 1;
        expect(books.get('interest-expense') ?? 0).toBe(interestExpense(schedule, since, last));
      }),
      { numRuns: 120 },
    );
  });

  it('with accruals left out, expense over any span still adds up: the next payment charges the whole interest', () => {
    // Rule: a span books its expense, less what its last month left out, and what the month before it left out.
    const span = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }));
    const drawn = fc.tuple(anySchedule, anyBack);
    fc.assert(
      fc.property(drawn, anyChoices, anyLeftOut, span, ([schedule, back], choices, left, [one, other]) => {
        fc.pre(isDebt(schedule));
        const { ends, booksFrom, last } = monthsAbout(firstDay(schedule), back);
        const made = close(ends, booksFrom, () => schedule, choices, left);
        const [a, b] = [Math.min(one, other), Math.max(one, other)];
        const [from, to] = [addMonths(ends[a] as number, -1, true), ends[b] as number];
        const notBooked = (at: number): Balances =>
          balancesOf(left[at] ? [accrualEntry(schedule, ends[at] as number)].filter((entry) => !!entry) : []);
        const inSpan = made.filter(({ date, belongsTo }) => {
          const month = belongsTo ?? date;
          return month > from && month <= to;
        });
        const expense = (of: Balances): number => of.get('interest-expense') ?? 0;
        const should =
          interestExpense(schedule, Math.max(from, firstDay(schedule) - 1, booksFrom - 1), to) -
          expense(notBooked(b)) +
          (a > 0 ? expense(notBooked(a - 1)) : 0);
        expect(expense(balancesOf(inSpan))).toBe(to < firstDay(schedule) ? 0 : should);
        // Every account stands where it would, but for what the last month left out.
        const through = balancesOf(made.filter(({ date }) => date <= last));
        const straight = balancesOf(
          close(ends, booksFrom, () => schedule, choices).filter(({ date }) => date <= last),
        );
        for (const [role, amount] of notBooked(6)) through.set(role, (through.get(role) ?? 0) + amount);
        expect(nonZero(through)).toEqual(nonZero(straight));
      }),
      { numRuns: 150 },
    );
  });

  /** A loan with payments or extra principal that are heard of late, and the day of the first. */
  const loanOfLateNews = arbitraryLoanWithEvents
    .map((terms) => {
      const heard = terms.events.flatMap((event) =>
        event.type === 'paid' || event.type === 'extra-principal' ? [event.on] : [],
      );
      return [terms, Math.min(...heard)] as const;
    })
    .filter(([, heard]) => Number.isFinite(heard));

  it('a late change is made good in the open month, and the books end where they would have', () => {
    fc.assert(
      fc.property(
        loanOfLateNews,
        fc.tuple(fc.integer({ min: 1, max: 6 }), fc.nat(6)),
        anyChoices,
        anyLeftOut,
        ([terms, heard], [change, back], choices, left) => {
          const events = terms.events.filter(({ type }) => type !== 'paid' && type !== 'extra-principal');
          fc.pre(canBeScheduled({ ...terms, events }));
          const { ends, booksFrom, last } = monthsAbout(heard, back);
          const [before, after] = [buildSchedule({ ...terms, events }), buildSchedule(terms)];
          const changed = close(ends, booksFrom, (month) => (month < change ? before : after), choices, left);
          const straight = close(ends, booksFrom, () => after, choices, left);
          const balances = (books: Entry[]): [string, number][] =>
            nonZero(balancesOf(books.filter((entry) => entry.date <= last)));
          expect(balances(changed)).toEqual(balances(straight));
          const kept = (books: Entry[]): Entry[] =>
            books.filter((entry) => entry.date <= (ends[change - 1] as number));
          expect(kept(changed)).toEqual(kept(close(ends, booksFrom, () => before, choices, left)));
          // Each correction says the month it is for: taken there, every closed month is as it should have been. What has
          // evened out by the last of them is left as it is.
          const through = (books: Entry[], end: CalendarDay): [string, number][] =>
            nonZero(balancesOf(books.filter(({ date, belongsTo }) => (belongsTo ?? monthEnd(date)) <= end)));
          const corrected = changed.some(({ kind }) => kind === 'correction');
          for (const end of ends.slice(corrected ? 0 : change - 1, change)) {
            expect(through(changed, end)).toEqual(through(straight, end));
          }
        },
      ),
      { numRuns: 100 },
    );
  });
});

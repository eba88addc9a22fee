import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import { formatDay } from '../calendar/calendar-day.ts';
import { billsThrough, openLineEnds } from '../credit-line/credit-line-bills.ts';
import { entries } from '../entries/entries.ts';
import { balancesOf } from '../entries/balances.ts';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { arbitraryLoanWithEvents, canBeScheduled } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { amortizedCosts, costAmortization } from '../loan/costs/issue-costs.ts';
import { asKnownOn } from '../loan/terms/as-known-on.ts';
import { eventDay, type LoanEvent } from '../loan/terms/loan-events.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { dueNamed } from '../loan/payment/receipts.ts';
import { day, level, thousand } from '../testing/plain-loan.ts';
import { ratio } from '../money/ratio.ts';
import { interestExpense } from './interest-expense.ts';
import { position } from './position.ts';

const fivePayments = (more: Partial<LoanTerms> = {}, phases = [level(5)]): LoanTerms =>
  thousand(phases, more);
const at = (terms: LoanTerms, on: string): ReturnType<typeof position> =>
  position(buildLoanSchedule(terms), day(on));

describe('what is known on a day', () => {
  // IAS 1.69 and 1.76: a payment that is overdue at the end of the period is current, whenever it is made.
  it('a payment made later was not made: the figures are those of a missed one', () => {
    const yearly = { every: 'year', first: day('2026-01-01') } as const;
    const paid = (on: string, amount: number): LoanEvent => ({
      type: 'paid',
      due: day('2026-01-01'),
      on: day(on),
      amount,
    });
    const late = at(fivePayments({ ...yearly, events: [paid('2026-06-01', 27_741)] }), '2026-03-31');
    expect(late.current).toBe(31_482);
    expect(late).toEqual(at(fivePayments({ ...yearly, events: [paid('2026-01-01', 0)] }), '2026-03-31'));
  });

  it('a payment changed later is not in the current portion before', () => {
    const change: LoanEvent = { type: 'payment-change', on: day('2025-06-01'), payment: 5_000 };
    const long = [level(36)];
    expect(at(fivePayments({ events: [change] }, long), '2025-03-31')).toEqual(
      at(fivePayments({}, long), '2025-03-31'),
    );
  });

  /** The terms as they stood on a day: what happens later taken out, what was due by it and paid later as missed. */
  function without(terms: LoanTerms, on: number): LoanTerms {
    const { stretches } = buildLoanSchedule(terms);
    const dueOf = ({ due }: { due: number }): number => dueNamed(stretches, due) ?? Infinity;
    const known = terms.events.filter((event) => eventDay(event) <= on);
    const paid = new Set(known.flatMap((event) => (event.type === 'paid' ? [dueOf(event)] : [])));
    const missed = terms.events.flatMap((event): LoanEvent[] => {
      if (event.type !== 'paid' || event.on <= on || dueOf(event) > on || paid.has(dueOf(event))) return [];
      return [{ type: 'paid', due: dueOf(event), on: dueOf(event), amount: 0 }];
    });
    return { ...terms, events: [...known, ...missed] };
  }

  it('is all that a position of it shows: what happens later changes no figure', () => {
    const costs = fc.option(
      fc.record({
        amount: fc.integer({ min: 0, max: 90_000 }),
        method: fc.constantFrom('effective' as const, 'straight-line' as const),
      }),
      { freq: 2 },
    );
    fc.assert(
      fc.property(
        arbitraryLoanWithEvents,
        costs,
        fc.integer({ min: 0, max: 1500 }),
        (drawn, issueCosts, after) => {
          const terms = { ...drawn, ...(issueCosts && { issueCosts }) };
          const on = terms.start + after;
          const then = without(terms, on);
          fc.pre(canBeScheduled(then));
          const [now, before] = [buildLoanSchedule(terms), buildLoanSchedule(then)];
          expect(position(now, on), formatDay(on)).toEqual(position(before, on));
          expect(interestExpense(now, terms.start - 1, on)).toBe(
            interestExpense(before, terms.start - 1, on),
          );
        },
      ),
      { numRuns: 400 },
    );
  });

  // The index is fixed each quarter, and the payment levelled with it: what it will be nobody knows before.
  it('has the index as it was fixed by the day: what it is fixed at later changes no figure', () => {
    const fixings = ['2025-01-01', '2025-04-01', '2025-07-01', '2025-10-01'].map((on, place) => ({
      on: day(on),
      rate: ratio(BigInt(3 + 2 * place), 100n),
    }));
    const indexed = (until: number): ReturnType<typeof buildLoanSchedule> =>
      buildLoanSchedule(
        thousand([level(24)], {
          index: {
            name: 'Any index',
            margin: ratio(1n, 100n),
            payment: 're-level',
            fixings: fixings.filter(({ on }) => on <= until),
          },
        }),
      );
    const now = indexed(Infinity);
    for (let on = day('2025-01-01'); on <= day('2026-02-01'); on += 1) {
      expect(position(now, on), formatDay(on)).toEqual(position(indexed(on), on));
    }
  });

  it('has bills of an open line for a year after what is known of it', () => {
    const first = day('2025-02-15');
    const open = (...draws: string[]): ReturnType<typeof buildLoanSchedule> => {
      const days = draws.map(day);
      const { count } = billsThrough(first, openLineEnds(day('2025-01-15'), days));
      return buildLoanSchedule(
        thousand([{ type: 'interest-only', count }], {
          ...{ kind: 'credit-line', amount: 0, start: day('2025-01-15'), first, atEnd: 'leave' },
          creditLine: { limit: 900_000, unusedFee: ratio(1n, 100n) },
          events: days.map((on) => ({ type: 'draw', on, amount: 100_000, then: 'keep' })),
        }),
      );
    };
    const now = open('2025-03-01', '2026-06-10');
    const days = (schedule: ReturnType<typeof buildLoanSchedule>): string[] =>
      [...schedule.date.subarray(0, schedule.length)].map(formatDay);
    expect(days(asKnownOn(now, day('2025-02-28')))).toEqual(days(open()));
    expect(days(asKnownOn(now, day('2025-03-01')))).toEqual(days(open('2025-03-01')));
    expect(days(asKnownOn(now, day('2026-06-09')))).toEqual(days(open('2025-03-01')));
    expect(asKnownOn(now, day('2026-06-10'))).toBe(now);
    for (const on of ['2025-02-28', '2025-12-31', '2026-02-28']) {
      const known = on < '2025-03-01' ? open() : open('2025-03-01');
      expect(position(now, day(on))).toEqual(position(known, day(on)));
    }
    // With a maturity all of its bills are agreed.
    const lasts = buildLoanSchedule({ ...now.terms, atEnd: 'pay' });
    expect(asKnownOn(lasts, day('2025-02-28')).terms.phases).toEqual(now.terms.phases);
  });

  it('does not depend on what it was asked for before', () => {
    const days = fc.array(fc.integer({ min: -10, max: 900 }), { minLength: 2, maxLength: 12 });
    const extras = fc.constantFrom('paid' as const, 'going-on' as const);
    fc.assert(
      fc.property(arbitraryLoanWithEvents, days, extras, extras, (terms, after, one, other) => {
        const asked = buildLoanSchedule(terms);
        after.forEach((each, at) => {
          const [on, extra] = [terms.start + each, at % 2 === 0 ? one : other];
          const [shared, fresh] = [asked, buildLoanSchedule(terms)].map((of) => asKnownOn(of, on, extra));
          expect(shared?.terms).toEqual(fresh?.terms);
        });
      }),
      { numRuns: 200 },
    );
  });

  it('has regular extra principal as far as it was paid, or going on as is expected', () => {
    const each = { type: 'extra-each-payment', amount: 1_000, then: 'shorten' } as const;
    const known = (from: string, to: string, extra?: 'going-on'): unknown =>
      asKnownOn(
        buildLoanSchedule(fivePayments({ events: [{ ...each, from: day(from), to: day(to) }] })),
        day('2025-03-01'),
        extra,
      ).terms.events.map((event) => (event.type === 'extra-each-payment' ? formatDay(event.to) : ''));
    expect(known('2025-02-01', '2025-05-01')).toEqual(['2025-03-01']);
    expect(known('2025-02-01', '2025-05-01', 'going-on')).toEqual(['2025-05-01']);
    expect(known('2025-02-01', '2025-02-20')).toEqual(['2025-02-20']);
    expect(known('2025-03-01', '2025-05-01')).toEqual(['2025-03-01']);
    expect(known('2025-03-02', '2025-05-01', 'going-on')).toEqual([]);
  });

  it('is all that a position of a bond shows: what is redeemed later changes no figure', () => {
    fc.assert(
      fc.property(arbitraryBondWithEvents, fc.integer({ min: -10, max: 3000 }), (terms, after) => {
        const on = terms.issued + after;
        const redemptions = terms.redemptions.filter((each) => each.on <= on);
        const [now, before] = [buildBondSchedule(terms), buildBondSchedule({ ...terms, redemptions })];
        expect(position(now, on), formatDay(on)).toEqual(position(before, on));
      }),
      { numRuns: 150 },
    );
  });
});

describe('costs of a loan', () => {
  const costs = (method: 'effective' | 'straight-line'): Partial<LoanTerms> => ({
    issueCosts: { amount: 3_000, method },
  });
  const changed: LoanEvent = { type: 'payment-change', on: day('2025-05-01'), payment: 40_000 };
  const six = [level(6)];

  it.each([
    ['straight-line', 1_516],
    ['effective', 901],
  ] as const)('by the %s method do not move for what happens later', (method, left) => {
    expect(at(fivePayments(costs(method), six), '2025-03-31').unamortizedIssueCosts).toBe(left);
    const terms = fivePayments({ ...costs(method), events: [changed] }, six);
    expect(at(terms, '2025-03-31').unamortizedIssueCosts).toBe(left);
    const { amortized } = costAmortization(buildLoanSchedule(terms));
    const plain = costAmortization(buildLoanSchedule(fivePayments(costs(method), six))).amortized;
    expect([...amortized.subarray(0, 4)]).toEqual([...plain.subarray(0, 4)]);
    expect(amortized.reduce((sum, each) => sum + each, 0)).toBe(3_000);
  });

  it('do not move for what happens later, also where a first agreement could not stand by itself', () => {
    // The balloon is more than was lent: only with the payment that was agreed a day later does the loan end.
    const agreed: LoanEvent = { type: 'payment-change', on: day('2024-02-01'), payment: 10_000 };
    const short: LoanEvent = { type: 'paid', due: day('2025-11-30'), on: day('2025-11-30'), amount: 1_200 };
    const terms = (...events: LoanEvent[]): LoanTerms =>
      thousand(
        [
          { type: 'no-payment', count: 11, interest: 'added-each-period', then: 'add-to-balance' },
          { type: 'level', count: 1, amortizeOver: 1, balloon: 100_001 },
        ],
        {
          annualRate: ratio(0n),
          every: 'two-months',
          start: day('2024-01-31'),
          first: day('2024-01-31'),
          due: 'start',
          issueCosts: { amount: 13_245, method: 'effective' },
          events: [agreed, ...events],
        },
      );
    expect(at(terms(short), '2024-04-17')).toEqual(at(terms(), '2024-04-17'));
  });

  it('are amortized with the last payment, also where a balance is left', () => {
    const terms = fivePayments({ issueCosts: { amount: 1_000, method: 'straight-line' }, atEnd: 'leave' }, [
      level(3, 60),
    ]);
    const schedule = buildLoanSchedule(terms);
    expect([...costAmortization(schedule).amortized.subarray(0, 3)]).toEqual([333, 333, 334]);
    expect(position(schedule, day('2025-04-01')).unamortizedIssueCosts).toBe(0);
  });

  // An event on 15 March: 14 of the 31 days of the third period have passed, the rest goes by what then remains.
  it('are spread anew from the day of an event, by what is left of the running period', () => {
    const fee: LoanEvent = { type: 'fee', on: day('2025-03-15'), amount: 620, treatment: 'defer' };
    const terms = fivePayments({ ...costs('straight-line'), events: [fee] }, six);
    const before = 1_000 + Math.round((500 * 14) / 31);
    const each = (3_620 - before) / (17 / 31 + 3);
    const { amortized } = costAmortization(buildLoanSchedule(terms));
    expect(amortized[2]).toBe(before - 1_000 + Math.round((each * 17) / 31));
    expect(amortized[3]).toBe(Math.round(each));
  });

  it('never exceed what was paid, nor fall, over any life', () => {
    fc.assert(
      fc.property(arbitraryLoanWithEvents, fc.integer({ min: 1, max: 90_000 }), (drawn, amount) => {
        const schedule = buildLoanSchedule({ ...drawn, issueCosts: { amount, method: 'straight-line' } });
        let before = 0;
        for (let row = 0; row < schedule.length; row += 1) {
          const through = amortizedCosts(schedule, schedule.date[row] as number);
          expect(through).toBeGreaterThanOrEqual(before);
          before = through;
        }
        const sum = costAmortization(schedule).amortized.reduce((total, each) => total + each, 0);
        expect(sum).toBe(before);
      }),
      { numRuns: 100 },
    );
  });
});

describe('a credit line', () => {
  const line = fivePayments(
    {
      amount: 0,
      start: day('2025-01-10'),
      first: day('2025-02-10'),
      dayCount: 'ACT/360',
      creditLine: { limit: 10_000_000, unusedFee: ratio(1n, 200n) },
    },
    [{ type: 'interest-only', count: 6 } as never],
  );

  it('shows the fee accrued, as the entries hold it', () => {
    const schedule = buildLoanSchedule(line);
    const end = day('2025-01-31');
    // 100,000.00 × 0.5 % × 21/360.
    expect(position(schedule, end).accruedFee).toBe(2_917);
    const payable = balancesOf(entries(schedule, line.start, end, 'month')).get('interest-payable');
    expect(payable).toBe(-2_917);
  });

  // ASC 835-30-S45-1: an asset, amortized ratably over the term of the arrangement: 122 of its 181 days are left.
  it('keeps its costs as an asset of their own, in equal parts over its days', () => {
    const withCosts: LoanTerms = { ...line, issueCosts: { amount: 6_000, method: 'straight-line' } };
    const schedule = buildLoanSchedule(withCosts);
    const held = position(schedule, day('2025-03-10'));
    expect(held).toMatchObject({ deferredCosts: 4_044, unamortizedIssueCosts: 0, carrying: 0 });
    const balances = balancesOf(entries(schedule, line.start, day('2025-03-10'), 'none'));
    expect([balances.get('deferred-costs'), balances.get('issue-costs')]).toEqual([4_044, undefined]);
    const effective: LoanTerms = { ...line, issueCosts: { amount: 6_000, method: 'effective' } };
    expect(() => buildLoanSchedule(effective)).toThrow('equal parts over its term');
  });

  it('taken on with costs not yet amortized brings them in against opening balances, not cash', () => {
    const takenOn = fivePayments({
      takenOn: { accruedInterest: 0 },
      issueCosts: { amount: 500, method: 'straight-line' },
    });
    const [issue] = entries(buildLoanSchedule(takenOn), takenOn.start, takenOn.start, 'none');
    expect(issue?.lines.map(({ account, debit, credit }) => [account, debit - credit])).toEqual([
      ['opening-balances', 99_500],
      ['issue-costs', 500],
      ['loan-payable', -100_000],
    ]);
  });
});

import fc from 'fast-check';
import { BeyondExact } from '../faults/beyond-exact.ts';
import { businessCalendars, businessDayRules } from '../calendar/business-days/business-days.ts';
import { parseDay } from '../calendar/calendar-day.ts';
import { dayCountNames } from '../calendar/day-counts/day-counts.ts';
import { frequencies } from '../calendar/frequency.ts';
import { cycleDate } from '../calendar/payment-dates.ts';
import { ratio } from '../money/ratio.ts';
import { compoundings } from '../rates/compounding.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { Rise } from '../loan/payment/rise.ts';
import type { LoanEvent } from '../loan/terms/loan-events.ts';
import type { LoanTerms, Phase } from '../loan/terms/loan-terms.ts';

const start = parseDay('2024-01-31') as number;

const phaseCounts = fc.integer({ min: 1, max: 24 });
const earlierPhase: fc.Arbitrary<Phase> = fc.oneof(
  phaseCounts.map((count): Phase => ({ type: 'interest-only', count })),
  fc.record({
    type: fc.constant('no-payment' as const),
    count: phaseCounts,
    interest: fc.constantFrom('added-each-period' as const, 'kept-apart' as const),
    then: fc.constantFrom('add-to-balance' as const, 'pay' as const),
  }),
  fc.record({
    type: fc.constant('fixed' as const),
    payment: fc.integer({ min: 1, max: 900_000 }),
    count: phaseCounts,
  }),
  fc.record({
    type: fc.constant('equal-principal' as const),
    count: phaseCounts,
    principal: fc.integer({ min: 1, max: 900_000 }),
  }),
);
const lastPhase: fc.Arbitrary<Phase> = fc.oneof(
  fc
    .tuple(fc.integer({ min: 1, max: 120 }), fc.constantFrom(0, 0, 0, 24))
    .map(([count, longer]): Phase => ({ type: 'level', count, amortizeOver: count + longer })),
  fc
    .tuple(phaseCounts, fc.integer({ min: 1, max: 90_000_000 }))
    .map(([count, balloon]): Phase => ({ type: 'level', count, amortizeOver: count, balloon })),
  phaseCounts.map((count): Phase => ({ type: 'equal-principal', count })),
  phaseCounts.map((count): Phase => ({ type: 'interest-only', count })),
);

const anyTerms: fc.Arbitrary<LoanTerms> = fc
  .record({
    amount: fc.integer({ min: 100_000, max: 900_000_000_00 }),
    start: fc.integer({ min: start, max: start + 800 }),
    firstAfter: fc.integer({ min: 0, max: 120 }),
    rate: fc.integer({ min: 0, max: 3000 }),
    compounding: fc.constantFrom(...compoundings),
    dayCount: fc.constantFrom(...dayCountNames),
    every: fc.constantFrom(...frequencies),
    keepMonthEnd: fc.boolean(),
    moving: fc.option(
      fc.record({
        rule: fc.constantFrom(...businessDayRules),
        calendar: fc.constantFrom(...businessCalendars),
        accrual: fc.constantFrom('moved' as const, 'unmoved' as const),
        closed: fc.uniqueArray(fc.integer({ min: 0, max: 1500 }), { maxLength: 20 }),
      }),
      { freq: 3 },
    ),
    phases: fc.tuple(fc.array(earlierPhase, { maxLength: 2 }), lastPhase),
    atEnd: fc.constantFrom('pay' as const, 'pay' as const, 'leave' as const),
    interest: fc.constantFrom('cent' as const, 'cent' as const, 'unit' as const, 'none' as const),
    payment: fc.constantFrom('cent' as const, 'cent-up' as const, 'unit' as const, 'none' as const),
    ties: fc.constantFrom('away-from-zero' as const, 'even' as const),
    takenOn: fc.option(fc.integer({ min: 0, max: 50_000 }), { freq: 4 }),
  })
  .map((drawn): LoanTerms => {
    const first = drawn.start + drawn.firstAfter;
    // Weekly and two-weekly dates moved over a long holiday could meet.
    const often = drawn.every === 'week' || drawn.every === 'two-weeks';
    return {
      kind: 'loan',
      currency: 'EUR',
      digits: 2,
      amount: drawn.amount,
      start: drawn.start,
      annualRate: ratio(BigInt(drawn.rate), 10_000n),
      rateSteps: [],
      compounding: drawn.compounding,
      dayCount: drawn.dayCount,
      every: drawn.every,
      first,
      due: drawn.firstAfter === 0 ? 'start' : 'end',
      keepMonthEnd: drawn.keepMonthEnd,
      phases: [...drawn.phases[0], drawn.phases[1]],
      atEnd: drawn.atEnd,
      rounding: { interest: drawn.interest, payment: drawn.payment, ties: drawn.ties },
      events: [],
      ...(drawn.moving &&
        !often &&
        drawn.firstAfter > 20 && {
          businessDays: {
            ...drawn.moving,
            closed: new Set(drawn.moving.closed.map((after) => drawn.start + after)),
          },
        }),
      ...(drawn.takenOn !== null && { takenOn: { accruedInterest: drawn.takenOn } }),
    };
  });

// A thousandth of what can be kept exactly: a balance that grows beyond it leaves exact numbers soon after.
const withinReach = Number.MAX_SAFE_INTEGER / 1000;

/** Whether a schedule can be made and lived with: terms that never repay or outgrow exact numbers are refused. */
export function canBeScheduled(terms: LoanTerms): boolean {
  try {
    return buildLoanSchedule(terms).closing.every((balance) => balance < withinReach);
  } catch (error) {
    if (error instanceof TermsFault || error instanceof BeyondExact) return false;
    throw error;
  }
}

/** Loan terms without events, over every convention that is computed. For property tests. */
export const arbitraryLoan = anyTerms.filter(canBeScheduled);

const anyEvent = fc.record({
  kind: fc.constantFrom(
    'extra',
    'draw',
    'interest-added',
    'payment-change',
    'renewal',
    'settled',
    'step',
    'step',
    'each',
    'fee',
    'presentation',
  ),
  after: fc.integer({ min: 0, max: 3000 }),
  share: fc.integer({ min: 1, max: 40 }),
  anew: fc.boolean(),
});

/** By how much an amount rises each year, in half of all cases. */
const rising = (rises: boolean, share: number): { rises?: Rise } =>
  rises ? { rises: { by: 'share', share: ratio(BigInt(share), 200n) } } : {};

/** The same with events of every type, and payments recorded late, early, short and over. */
export const arbitraryLoanWithEvents: fc.Arbitrary<LoanTerms> = fc
  .tuple(
    anyTerms,
    fc.array(anyEvent, { maxLength: 4 }),
    fc.uniqueArray(
      fc.record({
        index: fc.integer({ min: 0, max: 30 }),
        days: fc.integer({ min: -6, max: 20 }),
        share: fc.constantFrom(0, 30, 99, 100, 130),
      }),
      { maxLength: 4, selector: (payment) => payment.index },
    ),
  )
  .map(([terms, drawn, payments]): LoanTerms => {
    const part = (share: number): number => Math.max(1, Math.floor((terms.amount * share) / 100));
    const cycle = { anchor: terms.first, every: terms.every, keepMonthEnd: terms.keepMonthEnd };
    const settled = Math.min(
      ...drawn.filter(({ kind }) => kind === 'settled').map(({ after }) => after),
      1e6,
    );
    const events = drawn
      .filter(({ after }) => after <= settled)
      .flatMap(({ kind, after, share, anew }): LoanEvent[] => {
        const on = terms.start + after;
        const amount = part(share);
        switch (kind) {
          case 'extra':
            return [{ type: 'extra-principal', on, amount, then: anew ? 're-level' : 'shorten' }];
          case 'draw':
            return [{ type: 'draw', on, amount, then: anew ? 're-level' : 'keep' }];
          case 'interest-added':
            return [{ type: 'interest-added', on }];
          case 'payment-change':
            return [
              { type: 'payment-change', on, payment: part(Math.ceil(share / 4)), ...rising(anew, share) },
            ];
          case 'renewal':
            return [
              { type: 'renewal', on, annualRate: ratio(BigInt(share), 400n), count: 12, amortizeOver: 24 },
            ];
          case 'settled':
            return after === settled ? [{ type: 'settled', on }] : [];
          case 'fee':
            return [{ type: 'fee', on, amount: 100, treatment: anew ? 'defer' : 'expense' }];
          case 'presentation': {
            const as = anew ? 'current' : 'non-current';
            return [{ type: 'presentation', on, to: on + 400, as, reason: 'Any' }];
          }
          case 'each':
            return [
              {
                type: 'extra-each-payment',
                from: on,
                to: on + 400,
                amount: part(1),
                ...rising(anew, share),
                then: 'shorten',
              },
            ];
          default:
            return [];
        }
      });
    const steps = drawn.filter(({ kind }) => kind === 'step');
    const recorded = payments
      .map(({ index, days, share }): LoanEvent => {
        const due = cycleDate(cycle, index);
        const amount = Math.floor((part(4) * share) / 100);
        return { type: 'paid', due, on: Math.max(terms.start, due + days), amount };
      })
      .filter((event) => event.type === 'paid' && event.on <= terms.start + settled);
    return {
      ...terms,
      rateSteps: steps.map(({ after, share, anew }) => ({
        from: terms.start + after,
        annualRate: ratio(BigInt(share), 300n),
        payment: anew ? 're-level' : 'keep',
      })),
      events: [
        ...events.filter(
          (event, at) =>
            event.type !== 'settled' || at === events.findIndex(({ type }) => type === 'settled'),
        ),
        ...recorded,
      ],
    };
  })
  .filter(canBeScheduled);

import { describe, expect, it } from 'vitest';
import type { PublishedHorizon, PublishedPlannedLoan, RegisterRow } from '@coffer/contract';
import { cashTop, nearestHorizon, offPicture } from './frontier-chart';
import {
  emptyPlan,
  fieldOf,
  firstChoices,
  planOf,
  type PlanCandidate,
  type PlanChoices,
} from './plan-inputs';
import { planWork, type BudgetWay, type PlanAnswer, type PlanQuestion } from './plan-work';
import { clearedBy, refusalOfWay, waySentence, worthSentence, yearSteps } from './plan-words';

const loan = (name: string, amount: string, annual: string): object => ({
  document: 'coffer.instrument/1',
  kind: 'loan',
  name,
  currency: 'EUR',
  amount,
  start: '2026-01-15',
  rate: { annual },
  payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 120 }] },
});
const candidate = (id: string, name: string, amount: string, annual: string): PlanCandidate => ({
  row: { id, name, matures: '2036-01-15' } as RegisterRow,
  document: loan(name, amount, annual),
});
const three = [
  candidate('a', 'A', '5600.00', '7.9%'),
  candidate('b', 'B', '8500.00', '6.8%'),
  candidate('c', 'C', '2300.00', '2.875%'),
];
const choices: PlanChoices = { ...firstChoices, chosen: ['a', 'b', 'c'] };
const typed = { ...emptyPlan, clearBy: '31 dec 30', hurdle: '6' };
const answers = (more: Partial<PlanQuestion> = {}): PlanAnswer[] => [
  ...planWork({
    number: 7,
    document: planOf(typed, choices, '2026-10-31', three).document,
    ways: [],
    changes: false,
    ...more,
  }),
];
const horizon = (clearBy: string, interest: string, monthlyCash: string): PublishedHorizon => ({
  clearBy,
  interest,
  monthlyCash,
  addedInterest: null,
  freedCash: null,
  priceOfWaiting: null,
});

describe('a plan that is typed', () => {
  // A worked plan of three loans of 120 level monthly payments.
  it('comes to what was worked by hand, then horizon by horizon', () => {
    const all = answers();
    const [first] = all;
    if (first?.kind !== 'planned') throw new Error('not planned');
    expect(
      (first.plan.loans as PublishedPlannedLoan[]).map(({ payment, finalPayment }) => [
        payment,
        finalPayment,
      ]),
    ).toEqual([
      ['125.12', '124.69'],
      ['185.18', '184.73'],
      ['45.67', '45.49'],
    ]);
    expect(all.filter(({ kind }) => kind === 'progress')).toHaveLength(132);
    const last = all.at(-1);
    if (last?.kind !== 'horizons') throw new Error('no horizons');
    expect([last.months.horizons.length, last.years.horizons.length]).toEqual([132, 11]);
    // What a year adds is the difference of the years themselves, not of the months before them.
    const [one, two] = last.years.horizons;
    expect(two?.addedInterest).toBe((Number(two?.interest) - Number(one?.interest)).toFixed(2));
  });

  it('is told what cannot be read, and of what loan a fault is', () => {
    const { faults } = planOf(
      { ...typed, clearBy: 'soon', taxRate: 'much' },
      { ...choices, least: { b: 'x' } },
      '2026-10-31',
      three,
    );
    expect(faults.map(({ key }) => key).sort()).toEqual(['clearBy', 'least.b', 'taxRate']);
    const { document } = planOf(
      typed,
      { ...choices, chosen: ['b', 'c'], least: { c: '99999' } },
      '2026-10-31',
      three,
    );
    const [refused] = [...planWork({ number: 1, document, ways: [], changes: false })];
    if (refused?.kind !== 'faults') throw new Error('not refused');
    const [fault] = refused.faults;
    expect(fieldOf(fault?.key ?? '', three, ['b', 'c'])).toBe('least.c');
  });

  it('uses a budget in each way, whose months hold what each loan is paid', () => {
    const { document } = planOf(
      { ...emptyPlan, monthly: '600' },
      { ...choices, mode: 'budget' },
      '2026-10-31',
      three,
    );
    const ways = ['same-day', 'highest-rate', 'smallest-balance', ['C', 'A', 'B']] as const;
    const last = [...planWork({ number: 1, document, ways, changes: false })].at(-1);
    if (last?.kind !== 'budgets') throw new Error('no budgets');
    expect(last.ways).toHaveLength(4);
    for (const way of last.ways) {
      way.byMonth.forEach(({ members }, at) => {
        const paid = members.reduce((sum, { asked, extra }) => sum + asked + extra, 0);
        expect((paid / 100).toFixed(2)).toBe(clearedBy(way)?.months[at]?.paid);
      });
    }
    // Common practice: paying the dearest first costs least interest of the orders that take turns.
    const [, dearest, smallest, own] = last.ways.map((way) => Number(clearedBy(way)?.interest));
    expect(dearest).toBeLessThanOrEqual(Math.min(smallest ?? 0, own ?? 0));
  });

  it('says what is left and what is missing, and sums nothing up that is not so', () => {
    const waysOf = (monthly: string, candidates: readonly PlanCandidate[]): readonly BudgetWay[] => {
      const chosen = candidates.map(({ row }) => row.id);
      const { document } = planOf(
        { ...emptyPlan, monthly },
        { ...choices, mode: 'budget', chosen },
        '2026-10-31',
        candidates,
      );
      const last = [
        ...planWork({ number: 1, document, ways: ['same-day', 'highest-rate'], changes: false }),
      ].at(-1);
      if (last?.kind !== 'budgets') throw new Error(JSON.stringify(last));
      return last.ways;
    };
    const left = candidate('m', 'Mould shop mortgage', '1000000.00', '5%');
    const payments = {
      every: 'month',
      first: '2026-02-20',
      phases: [{ type: 'level', count: 60, amortizeOver: 300 }],
      atEnd: 'leave',
    };
    const mould = { ...left, document: { ...(left.document as object), start: '2026-01-20', payments } };
    const [day, rate] = waysOf('5846', [mould]) as [BudgetWay, BudgetWay];
    // Figures of the loan: 984,632.55 owed, 51 payments of 5,846.00 leave 885,796.26; 21,470.48 would leave nothing.
    expect(waySentence(day)).toBe(
      'no common day is within this budget; the least that has one is 21,470.48 a month.',
    );
    expect(waySentence(rate)).toBe(
      'Mould shop mortgage is not cleared, 885,796.26 is left; the last payment is in January 2031, at 199,309.71 of interest.',
    );
    expect(clearedBy(rate)).toBeUndefined();
    const [, short] = waysOf('100', three) as [BudgetWay, BudgetWay];
    expect(refusalOfWay(short)).toBe('87.55 is missing in November 2026');
  });

  it('changes each loan that it pays faster, and no other', () => {
    const [made] = answers({ changes: true });
    if (made?.kind !== 'changes') throw new Error('no changes');
    expect(made.changes.map(({ name, change, unsaid }) => [name, change?.events?.length, unsaid])).toEqual([
      ['A', 1, false],
      ['B', 1, false],
      ['C', 1, false],
    ]);
  });
});

describe('the curve of horizons', () => {
  const months = [
    horizon('2027-10-31', '100', '9000'),
    horizon('2028-10-31', '200', '3000'),
    horizon('2029-10-31', '300', '2500'),
    horizon('2030-10-31', '400', '2300'),
  ];

  it('leaves out of the picture what asks for far more than the rest, and names it', () => {
    const top = cashTop(months, 2500);
    expect(top).toBeLessThan(9000);
    expect(offPicture(months, top)).toBe('31 Oct 2027 at 9,000');
    expect(nearestHorizon(months, [290, 2450], top)?.clearBy).toBe('2029-10-31');
  });

  it('says what a day means, and whether it is worth it', () => {
    const years = [
      months[0] as PublishedHorizon,
      {
        ...(months[1] as PublishedHorizon),
        addedInterest: '100.00',
        freedCash: '72000.00',
        priceOfWaiting: '4.10%',
      },
      {
        ...(months[2] as PublishedHorizon),
        addedInterest: '7000.00',
        freedCash: '6000.00',
        priceOfWaiting: '5.00%',
      },
    ];
    expect(yearSteps(years).map(({ addsMore }) => addsMore)).toEqual([false, true]);
    const said = worthSentence({
      day: '2027-10-31',
      monthlyCash: '9000.00',
      interest: '100.00',
      contractual: 2000,
      years,
      hurdle: '4.5%',
      cheapest: '2028-10-31',
      first: '2026-11-30',
      last: '2036-10-31',
      crossing: { years: '2.40', monthlyCash: '2700.00', income: { needed: '48000.00' } },
      income: { needed: '90000.00' },
      without: ['Mould shop mortgage'],
    });
    expect(said).toContain('All but Mould shop mortgage is cleared by 31 Oct 2027');
    expect(said).toContain('it frees cash, which needs 48,000.00 of income a year.');
    expect(said).toContain('9,000.00 a month, 7,000.00 more than the contracts ask now');
    expect(said).toContain(
      'The year to 31 Oct 2028 adds 100.00 of interest; the cash it frees costs 4.10% a year.',
    );
    expect(said).toContain(
      '31 Oct 2028 is cheapest, which needs 90,000.00 of income a year: paying faster than that is not worth it.',
    );
    expect(said).toContain('After 2.40 years, at 2,700.00 a month');
  });
});

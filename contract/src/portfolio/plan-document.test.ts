import { describe, expect, it } from 'vitest';
import { budgetFaults } from './budget-json.ts';
import { planJson } from './plan-json.ts';
import { readPlan } from './read-plan.ts';

const loan = (name: string, amount: string, annual: string, more: object = {}): object => ({
  document: 'coffer.instrument/1',
  kind: 'loan',
  name,
  currency: 'EUR',
  amount,
  start: '2026-01-15',
  rate: { annual },
  payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 120 }] },
  ...more,
});
const bond = {
  document: 'coffer.instrument/1',
  kind: 'bond',
  name: 'Bonds',
  currency: 'EUR',
  face: '100000.00',
  issued: '2024-12-31',
  matures: '2034-12-31',
  coupon: { annual: '5%', every: 'half-year', dayCount: '30/360' },
  price: '100',
};
const three = [
  { instrument: loan('A', '5600.00', '7.9%') },
  { instrument: loan('B', '8500.00', '6.8%') },
  { instrument: loan('C', '2300.00', '2.875%') },
];
const plan = (more: object): object => ({
  document: 'coffer.plan/1',
  on: '2026-10-31',
  clearBy: '2030-12-31',
  instruments: three,
  ...more,
});
const answer = (more: object): ReturnType<typeof planJson> => {
  const reading = readPlan(plan(more));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return planJson(reading.plan);
};
const faults = (more: object): string[] => {
  const reading = readPlan(plan(more));
  return reading.ok ? [] : reading.faults.map(({ key, message }) => `${key}: ${message}`);
};

/** Interest of the year from November 2026 where 400.00 go to A first: loan by loan and month by month, in doubles. */
function interestOfYear(monthly: number): number {
  const loans = [
    { owed: 5315.54, rate: 0.079, asked: 67.65 },
    { owed: 8042.85, rate: 0.068, asked: 97.82 },
    { owed: 2149.43, rate: 0.02875, asked: 22.08 },
  ];
  let interest = 0;
  for (let month = 0; month < 12; month += 1) {
    let rest = monthly - loans.reduce((sum, { asked }) => sum + asked, 0);
    for (const each of loans) {
      const charged = (each.owed * each.rate) / 12;
      interest += charged;
      each.owed += charged - each.asked - rest;
      rest = 0;
    }
  }
  return interest;
}

describe('a plan document', () => {
  // A worked plan of three loans of 120 level monthly payments.
  it('is answered with what was worked by hand', () => {
    const { loans, totals, proofs } = answer({});
    expect(
      loans?.map((each) =>
        'outOfReach' in each
          ? each.earliest
          : [each.payment, each.finalPayment, each.interest, each.clears, each.bound],
      ),
    ).toEqual([
      ['125.12', '124.69', '940.03', '2030-12-15', 'plan'],
      ['185.18', '184.73', '1215.70', '2030-12-15', 'plan'],
      ['45.67', '45.49', '133.89', '2030-12-15', 'plan'],
    ]);
    expect(totals).toMatchObject({ interest: '2289.62', balance: '15507.82', monthlyCash: '355.97' });
    expect(proofs.every(({ holds }) => holds)).toBe(true);
  });

  it('compares horizons, and tells what faster is worth', () => {
    const { horizons, worthIt, loans } = answer({
      clearBy: undefined,
      horizons: { every: 'year', count: 9 },
      hurdle: '6%',
      freedCash: 'year',
    });
    expect(loans).toBeUndefined();
    expect(horizons).toHaveLength(9);
    expect(horizons?.[0]).toMatchObject({ clearBy: '2027-10-31', addedInterest: null, priceOfWaiting: null });
    // At five years 567.91 is added and 771.48 freed, at six 579.98 and 512.52: 203.57 ÷ 271.03 of the way.
    expect(worthIt).toMatchObject({ crossing: { years: '5.75' }, hurdle: { clearBy: '2027-10-31' } });
  });

  it('provides for bonds by a fund, and counts their coupons to their own end', () => {
    const { loans, totals, proofs } = answer({ instruments: [{ instrument: bond }], fund: { rate: '2.4%' } });
    // 100,000 × 0.002 ÷ (1.002^50 − 1), sinking-fund tables; 17 coupons of 2,500 from 2026-12-31 on.
    expect(loans?.[0]).toMatchObject({
      bound: 'fund',
      interest: '42500.00',
      fund: { deposit: '1903.66', deposits: 50, holds: '100000.00' },
    });
    expect(totals).toMatchObject({ interest: '42500.00', paid: '142500.00' });
    expect(proofs.every(({ holds }) => holds)).toBe(true);
  });

  it('never adds two currencies', () => {
    const { totals } = answer({
      instruments: [...three, { instrument: loan('D', '1000.00', '5%', { currency: 'USD' }) }],
    });
    expect(Object.keys(totals ?? {})).toEqual(['EUR', 'USD']);
    expect(totals).toMatchObject({ EUR: { balance: '15507.82' } });
  });

  it('says of what is out of reach when it could be', () => {
    const { loans, totals } = answer({ clearBy: '2026-11-14' });
    expect(loans?.[0]).toEqual({ name: 'A', outOfReach: true, earliest: '2026-11-15' });
    expect(totals).toMatchObject({ without: 3, balance: '0.00' });
  });

  it('tells income needed and coverage', () => {
    const { income } = answer({ income: { outlays: '1000.00', taxRate: '25%', operatingCash: '12814.92' } });
    // (12 × (355.97 + 1,000.00)) ÷ 0.75; operating cash of three times the debt service.
    expect(income).toEqual({ needed: '21695.52', coverage: '3.00' });
  });

  it('tells income of a budget, of the crossing and of what is worth least with the interest of their own first year', () => {
    const income = { taxRate: '25%', interestDeductible: true, operatingCash: '48000.00' };
    // 187.55 a month by contract; of one year's interest a quarter of what tax takes is saved: from 2026-11 to 2027-10.
    const made = answer({
      clearBy: undefined,
      horizons: { every: 'year', count: 9 },
      hurdle: '6%',
      freedCash: 'year',
      budget: { monthly: '400.00', use: 'highest-rate' },
      income,
    });
    const first = interestOfYear(400);
    expect(Number(made.income?.needed)).toBeCloseTo((12 * 400 - first) / 0.75 + first, 1);
    expect(made.income?.coverage).toBe('10.00');
    const of = (clearBy: string): number => {
      const [loans, needed] = [answer({ clearBy }).loans ?? [], answer({ clearBy, income }).income?.needed];
      expect(loans).toHaveLength(3);
      return Number(needed);
    };
    expect(Number(made.worthIt?.hurdle?.income?.needed)).toBe(of('2027-10-31'));
    const crossing = Number(made.worthIt?.crossing?.income?.needed);
    const [early, late] = [of('2031-10-31'), of('2032-10-31')];
    expect(crossing).toBeLessThan(early);
    expect(crossing).toBeGreaterThan(late);
  });

  it('refuses a budget that has no common day, or a month that asks for more than is there', () => {
    const refused = (monthly: string, use: unknown): string | undefined =>
      budgetFaults(monthly, answer({ clearBy: undefined, budget: { monthly, use } }).budget)[0]?.message;
    // 67.65, 97.82 and 22.08 are asked for each month.
    expect(refused('100.00', 'highest-rate')).toBe(
      'In 2026-11 more is asked for than is there by then: 87.55 is missing. 187.55 a month covers all that the agreements ask for.',
    );
    expect(refused('187.54', 'same-day')).toBe(
      'No common day is within 187.54 a month; the least that has one is 187.55.',
    );
    expect(refused('187.55', 'same-day')).toBeUndefined();
    expect(answer({ budget: { monthly: '400.00', use: ['B'] } }).budget).toMatchObject({
      unordered: ['A', 'C'],
    });
  });

  it('tells what an agreement leaves, and that not all is cleared', () => {
    const left = loan('Mould shop mortgage', '1000000.00', '5%', {
      start: '2026-01-20',
      payments: {
        every: 'month',
        first: '2026-02-20',
        phases: [{ type: 'level', count: 60, amortizeOver: 300 }],
        atEnd: 'leave',
      },
    });
    const { budget, proofs } = answer({
      clearBy: undefined,
      instruments: [{ instrument: left }],
      budget: { monthly: '5846.00', use: 'highest-rate' },
    });
    expect(budget).toMatchObject({
      clears: null,
      left: '885796.26',
      loans: [{ clears: null, left: '885796.26' }],
    });
    expect(proofs.map(({ holds }) => holds)).toEqual([true, true, true]);
  });

  it.each([
    [{ clearBy: '2026-10-31' }, /^clearBy: Found 2026-10-31; the wished day must come after 2026-10-31/],
    [{ clearBy: undefined }, /^clearBy: Say what is wished/],
    [
      { instruments: [{ instrument: loan('A', '5600.00', '7.9%'), least: '6000.00' }] },
      /^instruments\.0\.least: .*above the 5315\.54 owed/,
    ],
    [{ budget: { monthly: '400.00', use: ['A', 'A'] } }, /^budget\.use: A stands twice in the order/],
    [{ budget: { monthly: '400.00', use: ['A', 'X'] } }, /^budget\.use: There is no X/],
    [
      { instruments: [{ instrument: bond }] },
      /^fund: Bonds cannot be repaid early; give the rate of the fund/,
    ],
    [
      { instruments: [{ instrument: bond, prepay: true }], fund: { rate: '2%' } },
      /^instruments\.0\.prepay: Bonds has no payments that could be raised/,
    ],
    [{ instruments: [three[0], three[0]] }, /^instruments\.1\.instrument\.name: Two instruments are named A/],
    [{ on: '2036-12-31', clearBy: '2037-12-31' }, /^instruments\.0\.instrument: Nothing is owed on A/],
    [
      {
        instruments: [...three, { instrument: loan('D', '1000.00', '5%', { currency: 'USD' }) }],
        budget: { monthly: '900.00', use: 'same-day' },
      },
      /^budget: Instruments in EUR and USD are never added/,
    ],
    [{ income: { taxRate: '100%' } }, /^income\.taxRate: .*less than all/],
    [
      { instruments: [{ instrument: loan('A', '-1', '5%') }] },
      /^instruments\.0\.instrument\.amount: Found "-1"/,
    ],
    [{ horizons: { every: 'week', count: 3 } }, /^horizons\.every: /],
  ])('is refused where it does not fit: %j', (more, fault) => {
    expect(faults(more).join('\n')).toMatch(fault);
  });
});

import { portfolioMeasures, type Schedule } from '@coffer/core';
import { describe, expect, it } from 'vitest';
import { readInstrument, type ReadInstrument } from '../document/read-instrument.ts';
import { portfolioJson } from '../portfolio/portfolio-json.ts';
import { readScenario, scenarioSchedules } from './scenario-document.ts';

const read = (value: object): ReadInstrument => {
  const reading = readInstrument(value);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument;
};
const loan = (name: string, more: object = {}): ReadInstrument =>
  read({
    document: 'coffer.instrument/1',
    kind: 'loan',
    name,
    currency: 'EUR',
    amount: '100000.00',
    start: '2026-01-15',
    rate: { annual: '6%' },
    payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 60 }] },
    ...more,
  });
const debts = [
  loan('Kiln loan', { events: [{ type: 'fee', on: '2026-03-01', amount: '10.00' }] }),
  loan('Lehr loan'),
];
const scenario = (...changes: object[]): object => ({
  document: 'coffer.scenario/1',
  name: 'Pay more',
  changes,
});
const extra = { type: 'extra-principal', on: '2026-12-01', amount: '20000.00' };
const made = (...changes: object[]): readonly Schedule[] => {
  const reading = readScenario(scenario(...changes));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  const schedules = scenarioSchedules(reading.scenario, debts);
  if (!schedules.ok) throw new Error(JSON.stringify(schedules.faults));
  return schedules.schedules;
};
const faults = (...changes: object[]): string[] => {
  const reading = readScenario(scenario(...changes));
  const all = reading.ok ? scenarioSchedules(reading.scenario, debts) : reading;
  return all.ok ? [] : all.faults.map(({ key }) => key);
};
const day = (text: string): number => Date.parse(text) / 86_400_000;

describe('a scenario', () => {
  it('changes what it names, besides what happened already, and nothing else', () => {
    const [kiln, lehr] = made({ instrument: 'Kiln loan', events: [extra] });
    expect(kiln?.terms.events).toHaveLength(2);
    expect(lehr).toBe(debts[1]?.schedule);
  });

  it('puts other terms in place of those it had', () => {
    const [, lehr] = made({ instrument: 'Lehr loan', terms: { rate: { annual: '3%' } } });
    expect(lehr?.kind === 'loan' && lehr.terms.annualRate).toEqual({ num: 3n, den: 100n });
  });

  it('makes a change as it is typed first, then other terms, then events', () => {
    const change = { from: '2027-01-15', annual: '5%' };
    const [, lehr] = made({ instrument: 'Lehr loan', change, terms: { lender: 'Osier' }, events: [extra] });
    expect(lehr?.terms).toMatchObject({
      rateSteps: [{ from: day('2027-01-15'), annualRate: { num: 1n, den: 20n } }],
      events: [{ type: 'extra-principal', on: day('2026-12-01'), amount: 2_000_000 }],
    });
    const rising = { payment: '2500.00', paymentRises: '3%', from: '2027-01-15' };
    const [, rises] = made({ instrument: 'Lehr loan', change: rising });
    expect(rises?.terms.events).toMatchObject([
      { type: 'payment-change', payment: 250_000, rises: { by: 'share', share: { num: 3n, den: 100n } } },
    ]);
  });

  it('moves no figure of any measure before its first change', () => {
    const schedules = made({ instrument: 'Kiln loan', events: [extra] });
    for (const show of portfolioMeasures.filter((measure) => measure !== 'current')) {
      const question = {
        from: day('2026-01-01'),
        to: day('2026-11-30'),
        by: 'month',
        show,
        fiscalYearEndMonth: 12,
      } as const;
      const under = (of: readonly Schedule[]): unknown =>
        portfolioJson(
          of.map((schedule, at) => ({ name: String(at), schedule })),
          question,
        );
      expect(under(schedules)).toEqual(under(debts.map(({ schedule }) => schedule)));
    }
  });

  it.each([
    [[{ instrument: 'No loan', events: [extra] }], ['changes.0.instrument']],
    [[{ instrument: 'Kiln loan' }], ['changes.0']],
    [[{ instrument: 'Kiln loan', change: {} }], ['changes.0']],
    [[{ instrument: 'Kiln loan', change: { annual: 'low' } }], ['changes.0.change.annual']],
    [[{ instrument: 'Kiln loan', change: { extraRises: '3%' } }], ['changes.0.change.extraEach']],
    [
      [{ instrument: 'Kiln loan', change: { annual: '5%' }, terms: {}, events: [{}] }],
      ['changes.0.events.0.type'],
    ],
    [
      [
        { instrument: 'Kiln loan', events: [extra] },
        { instrument: 'Kiln loan', terms: {} },
      ],
      ['changes.1.instrument'],
    ],
    [[{ instrument: 'Kiln loan', events: [{ ...extra, amount: 'much' }] }], ['changes.0.events.0.amount']],
    [[{ instrument: 'Lehr loan', terms: { rate: { annual: 'low' } } }], ['changes.0.terms.rate.annual']],
  ])('is refused where it does not fit, naming the change: %j', (changes, keys) => {
    expect(faults(...changes)).toEqual(keys);
  });
});

describe('a portfolio', () => {
  it('totals currencies apart, and cross-foots each', () => {
    const dollars = read({ ...loan('D').document, currency: 'USD' });
    const members = [...debts, dollars].map(({ document, schedule }) => ({ name: document.name, schedule }));
    const question = {
      from: day('2026-01-01'),
      to: day('2026-12-31'),
      by: 'quarter',
      show: 'closing',
      fiscalYearEndMonth: 12,
    } as const;
    const { totals, proofs, periods, rows } = portfolioJson(members, question);
    expect(periods).toEqual(['2026-03-31', '2026-06-30', '2026-09-30', '2026-12-31']);
    expect(Object.keys(totals)).toEqual(['EUR', 'USD']);
    expect((totals as Record<string, string[]>)['USD']).toEqual(rows[2]?.values);
    expect(proofs).toHaveLength(5);
    expect(proofs.every(({ holds }) => holds)).toBe(true);
  });
});

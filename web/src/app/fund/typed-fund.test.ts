import '@angular/compiler';
import { readdirSync, readFileSync } from 'node:fs';
import { fundHeld, fundProofs, fundTotal, lastDay, netDebt, type FundSchedule } from '@coffer/core';
import { readDocument, readInstrument, type FundDocument, type ReadInstrument } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { fundCurves, fundLines, fundNotices } from './fund-figures';
import { fundForm, readTypedFund, suggestedFund, typedFundOf, type TypedFund } from './typed-fund';

const folder = new URL('../../../../demo/instruments/', import.meta.url);
const demo = readdirSync(folder).map((file): ReadInstrument => {
  const reading = readInstrument(JSON.parse(readFileSync(new URL(file, folder), 'utf8')));
  if (!reading.ok) throw new Error(`${file}: ${JSON.stringify(reading.faults)}`);
  return reading.instrument;
});
const named = (part: string): ReadInstrument =>
  demo.find(({ document }) => document.name.includes(part)) as ReadInstrument;
const typedFor = (debt: ReadInstrument, more: Partial<TypedFund> = {}): TypedFund => ({
  ...fundForm().getRawValue(),
  ...suggestedFund(debt.schedule, 20_757),
  ...more,
});
const fundOf = (debt: ReadInstrument, more: Partial<TypedFund>): FundSchedule => {
  const reading = readTypedFund(typedFor(debt, more), debt.document);
  if (!reading.ok) throw new Error(JSON.stringify(reading));
  return reading.schedule;
};
const faultsOf = (more: Partial<TypedFund>): readonly string[] => {
  const debt = named('bonds due 2034');
  const reading = readTypedFund(typedFor(debt, more), debt.document);
  return reading.ok ? [] : [...reading.missing, ...reading.faults.map(({ key }) => key)];
};

describe('the fund suggested for a debt', () => {
  it.each(
    demo.filter(({ document }) => document.kind !== 'credit-line').map((each) => [each.document.name, each]),
  )('%s: ends with it and leaves no net debt', (_, debt) => {
    const fund = fundOf(debt as ReadInstrument, { rate: '2.5' });
    const { schedule } = debt as ReadInstrument;
    expect(fundProofs(fund).every(({ holds }) => holds)).toBe(true);
    expect(fund.rows.at(-1)?.due).toBe(lastDay(schedule));
    expect(netDebt(fund, schedule, lastDay(schedule)).net).toBe(
      netDebt(fund, schedule, lastDay(schedule)).owed,
    );
    expect(fundNotices(fund, schedule)).toEqual([]);
  });
});

describe('a fund document', () => {
  it('is typed again as it was written, rounded or not', () => {
    const bonds = named('bonds due 2034');
    const listed = '31 Oct 2026 40,000.00\n30 Nov 2026 50,000.00';
    for (const more of [
      { rate: '2.375', deposit: '?', rounding: 'none' },
      {
        rate: '2.375',
        deposits: 'listed',
        listed,
        first: '',
        count: '',
        held: '1.00',
        heldOn: '15 Oct 2026',
      },
    ] as const) {
      const reading = readTypedFund(typedFor(bonds, more), bonds.document);
      if (!reading.ok) throw new Error(JSON.stringify(reading));
      const again = readTypedFund(typedFundOf(reading.document as FundDocument), bonds.document);
      expect(again.ok && again.document).toEqual(reading.document);
    }
  });
});

describe('a typed fund', () => {
  const bonds = named('bonds due 2034');

  it('is read as people type it, and is a document that says the same', () => {
    const typed = typedFor(bonds, {
      goal: '3m',
      rate: '2 3/8',
      deposit: '40k',
      count: '',
      held: '100,000',
      heldOn: '15 oct 26',
    });
    const reading = readTypedFund(typed, bonds.document);
    expect(reading).toMatchObject({
      ok: true,
      document: {
        goal: '3000000',
        rate: { annual: '2.375%' },
        deposit: '40000',
        opening: { on: '2026-10-15' },
      },
    });
    const again = reading.ok ? readDocument(reading.document) : undefined;
    expect(again?.ok && again.schedule).toEqual(reading.ok && reading.schedule);
  });

  it('may list its deposits', () => {
    const listed = '31 Mar 2030  1.2m\n31 Mar 2032, 1,000,000\n31 Mar 2034\t900,000';
    const fund = fundOf(bonds, { rate: '0', deposits: 'listed', listed });
    expect(fund.rows.map(({ deposit }) => deposit)).toEqual([120_000_000, 100_000_000, 80_000_000]);
    expect(fundHeld(fund)).toBe(fund.terms.goal);
  });

  it('names what is missing and what cannot be', () => {
    expect(faultsOf({})).toEqual(['rate.annual']);
    expect(faultsOf({ rate: 'low', first: '31 feb 27' })).toEqual(['rate.annual', 'first']);
    expect(faultsOf({ rate: '2', count: '' })).toEqual(['deposit']);
    expect(faultsOf({ rate: '2', goal: '' })).toEqual(['goal']);
    expect(faultsOf({ rate: '2', held: '5' })).toEqual(['opening.on']);
    expect(faultsOf({ rate: '2', held: '4m', heldOn: '1 oct 26' })).toEqual(['opening.amount']);
    expect(faultsOf({ rate: '2', deposits: 'listed', listed: 'soon' })).toContain('deposits.0');
  });
});

describe('what is told of a fund', () => {
  const bonds = named('bonds due 2034');

  it('sums to the total outlay, and its parts say how they are made', () => {
    const fund = fundOf(bonds, { rate: '2' });
    const lines = new Map(fundLines(fund, bonds.schedule).map((line) => [line.name, line]));
    const outlay = lines.get('Total outlay')?.how?.();
    const [paid = 0, into = 0, out = 0] = (outlay?.steps ?? []).map(({ amount }) => amount ?? 0);
    expect(outlay?.amount).toBe(paid + into - out);
    expect(into).toBe(fundTotal(fund, 'deposit'));
    const net = lines.get('Net interest')?.how?.();
    expect(net?.steps[1]?.amount).toBe(fundTotal(fund, 'interest'));
  });

  it('says when it does not end with the debt, or not on its goal', () => {
    const late = fundOf(bonds, { rate: '2', first: '1 jan 27' });
    expect(fundNotices(late, bonds.schedule).join(' ')).toContain('The fund ends 2 months after the debt');
    const short = fundOf(bonds, { rate: '0', deposit: '10,000' });
    expect(fundNotices(short, bonds.schedule).join(' ')).toContain('2,100,000.00 short of its goal');
  });

  it('is drawn as owed less held', () => {
    const [owed, held, net] = fundCurves(fundOf(bonds, { rate: '2' }), bonds.schedule);
    net?.points.forEach(({ balance }, at) => {
      expect(balance).toBe((owed?.points[at]?.balance ?? 0) - (held?.points[at]?.balance ?? 0));
    });
  });
});

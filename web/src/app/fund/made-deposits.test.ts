import { describe, expect, it } from 'vitest';
import { isDebt, type FundSchedule } from '@coffer/core';
import { readDocument, type FundDocument } from '@coffer/contract';
import { depositChoices, likelyDeposit, withDeposit, withoutDeposit } from './made-deposits';

const document: FundDocument = {
  document: 'coffer.instrument/1',
  kind: 'fund',
  name: 'Redemption fund',
  currency: 'EUR',
  goal: '1000000.00',
  rate: { annual: '2.4%' },
  every: 'quarter',
  first: '2026-01-01',
  count: 40,
  for: 'Bonds',
};
const scheduleOf = (of: FundDocument): FundSchedule => {
  const reading = readDocument(of);
  if (!reading.ok || isDebt(reading.schedule)) throw new Error('no fund');
  return reading.schedule;
};
const paid = (due: string, amount: string): { due: string; on: string; amount: string } => ({
  due,
  on: due,
  amount,
});

describe('deposits as they were made', () => {
  it('take the place of what was recorded for the same, in the order of the days they were due', () => {
    const twice = withDeposit(withDeposit(document, paid('2026-07-01', '5.00')), paid('2026-04-01', '6.00'));
    const again = withDeposit(twice, paid('2026-07-01', '7.00'));
    expect(again.events?.map(({ due, amount }) => [due, amount])).toEqual([
      ['2026-04-01', '6.00'],
      ['2026-07-01', '7.00'],
    ]);
    expect(withoutDeposit(withoutDeposit(again, '2026-07-01'), '2026-04-01')).toEqual(document);
  });

  it('are suggested for the last that fell due and is not recorded, among those of the year', () => {
    expect(likelyDeposit(scheduleOf(document), '2026-10-31')).toBe('2026-10-01');
    const made = scheduleOf(withDeposit(document, paid('2026-10-01', '20000.00')));
    expect(likelyDeposit(made, '2026-10-31')).toBe('2026-07-01');
    const choices = depositChoices(made, '2026-10-31');
    expect(choices.map(([due]) => due)).toEqual([
      '2026-01-01',
      '2026-04-01',
      '2026-07-01',
      '2026-10-01',
      '2027-01-01',
    ]);
    expect(choices[3]?.[1]).toBe('4, 1 Oct 2026: 20,000.00, recorded');
  });
});

import { usualClassNames, usualHabits, type CompanyView } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { railYears } from './fiscal-periods';

const closed = (endsOn: string): CompanyView['periods'][number] => ({
  endsOn,
  state: 'closed',
  closedAt: 'then',
  closedBy: 'Ilka Varga',
  closedAs: 'reviewed',
});
const company: CompanyView = {
  habits: usualHabits,
  classNames: usualClassNames,
  accounts: [],
  id: 1,
  name: 'Ostrel Glassworks',
  currency: 'EUR',
  digits: 2,
  fiscalYearEndMonth: 6,
  booksFrom: '2026-08-01',
  periods: [
    closed('2026-08-31'),
    closed('2026-09-30'),
    { endsOn: '2026-10-31', state: 'open', closedAt: null, closedBy: null, closedAs: null },
  ],
};

describe('the period rail', () => {
  // Common practice: a fiscal year is named by the calendar year in which it ends.
  it('shows the fiscal year of the date and the one before, each of twelve months to its end', () => {
    const years = railYears(company, '2026-10-31');
    expect(
      years.map(({ name, periods }) => [name, periods.length, periods[0]?.endsOn, periods.at(-1)?.endsOn]),
    ).toEqual([
      ['Fiscal 2026', 12, '2025-07-31', '2026-06-30'],
      ['Fiscal 2027', 12, '2026-07-31', '2027-06-30'],
    ]);
  });

  it('tells closed, open, future and before the books apart', () => {
    const states = railYears(company, '2026-10-31').flatMap((year) =>
      year.periods.map(({ endsOn, state }) => [endsOn, state]),
    );
    expect(Object.fromEntries(states)).toMatchObject({
      '2026-07-31': 'before',
      '2026-08-31': 'closed',
      '2026-10-31': 'open',
      '2026-11-30': 'future',
    });
  });

  it('turns to the next fiscal year on the day after one ends, in leap years too', () => {
    expect(railYears(company, '2027-06-30')[1]?.name).toBe('Fiscal 2027');
    expect(railYears(company, '2027-07-31')[1]?.name).toBe('Fiscal 2028');
    const leap = railYears({ ...company, fiscalYearEndMonth: 2 }, '2028-02-29');
    expect(leap.map(({ periods }) => periods.at(-1)?.endsOn)).toEqual(['2027-02-28', '2028-02-29']);
  });
});

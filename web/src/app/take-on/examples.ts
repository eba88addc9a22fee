import type { RowCells } from './sheet-row';

/** Rows that show how a sheet is filled in, one of each kind. */
export function examplesIn(currency: string): RowCells[] {
  return [
    {
      kind: 'loan',
      name: 'Press loan',
      lender: 'Quillhaven Bank',
      agreement: 'QB-114',
      amount: '100000.00',
      start: '2026-01-15',
      rate: '5.25%',
      count: '60',
      every: 'monthly',
      first: '2026-02-15',
      repaid: 'level',
      dayCount: '30/360',
      currency,
    },
    {
      kind: 'bond',
      name: '4% notes due 2031',
      amount: '250000.00',
      start: '2026-01-15',
      rate: '4%',
      every: 'half-yearly',
      currency,
      last: '2031-01-15',
      price: '98.75',
    },
    {
      kind: 'credit line',
      name: 'Working capital line',
      lender: 'Quillhaven Bank',
      amount: '150000.00',
      start: '2026-01-15',
      rate: '6.5%',
      dayCount: 'ACT/360',
      currency,
      last: '2029-01-15',
      drawn: '40000.00',
    },
  ];
}

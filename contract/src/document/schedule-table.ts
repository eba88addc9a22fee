import type { RowKind, Schedule } from '@coffer/core';
import { scheduleJson } from './schedule-json.ts';

/** A column of a schedule on paper or in a workbook. */
export interface TableColumn {
  readonly key: string;
  readonly title: string;
  readonly kind: 'count' | 'day' | 'text' | 'amount';
}

/** A row in the published form: amounts as plain decimals, days as `YYYY-MM-DD`. */
export type TableRow = Readonly<Record<string, string | number | null | undefined>>;

/** A schedule as a table: the columns that say something, the rows, the totals of those columns that have one. */
export interface ScheduleTable {
  readonly columns: readonly TableColumn[];
  readonly rows: readonly TableRow[];
  readonly totals: Readonly<Record<string, string>>;
}

const amount = (key: string, title: string): TableColumn => ({ key, title, kind: 'amount' });

/** Every column there can be, in its order. */
const all: readonly TableColumn[] = [
  { key: 'n', title: 'No.', kind: 'count' },
  { key: 'due', title: 'Due', kind: 'day' },
  { key: 'paid', title: 'Paid on', kind: 'day' },
  { key: 'event', title: 'Event', kind: 'text' },
  amount('opening', 'Opening'),
  amount('coupon', 'Coupon'),
  amount('accruedReceived', 'Of it received'),
  amount('expense', 'Expense'),
  amount('payment', 'Payment'),
  amount('interest', 'Interest'),
  amount('principal', 'Principal'),
  amount('extra', 'Extra'),
  amount('drawn', 'Drawn'),
  amount('addedInterest', 'Added'),
  amount('fee', 'Unused fee'),
  amount('amortization', 'Amortized'),
  amount('unamortized', 'Unamortized'),
  amount('issueCosts', 'Costs'),
  amount('redeemed', 'Face redeemed'),
  amount('redemptionPaid', 'Paid for it'),
  amount('gain', 'Gain'),
  amount('closing', 'Closing'),
  amount('unpaidInterest', 'Unpaid'),
  amount('overpaid', 'Overpaid'),
];

/** Columns that stay even when nothing is in them. */
const always: readonly string[] = ['n', 'due', 'opening', 'payment', 'interest', 'principal', 'closing'];

/** What a row between payments is, in words. */
export const rowWords: Readonly<Record<RowKind, string>> = {
  payment: '',
  extra: 'extra',
  'late-payment': 'late payment',
  'early-payment': 'paid early',
  'overdue-payment': 'late, with interest',
  draw: 'drawn',
  'interest-added': 'interest added',
  settlement: 'settled',
  'overpayment-returned': 'overpayment back',
};

/** A schedule as a table for paper and workbooks. */
export function scheduleTable(schedule: Schedule): ScheduleTable {
  const published = scheduleJson(schedule) as { rows: TableRow[]; totals: Record<string, string> };
  const rows = published.rows.map((row) =>
    typeof row['event'] === 'string'
      ? { ...row, event: rowWords[row['event'] as RowKind] ?? row['event'] }
      : row,
  );
  const says = ({ key, kind }: TableColumn): boolean =>
    rows.some((row) => row[key] !== undefined && (kind !== 'amount' || Number(row[key]) !== 0));
  const columns = all.filter(
    (column) => says(column) || (always.includes(column.key) && rows.some((row) => column.key in row)),
  );
  return { columns, rows, totals: published.totals };
}

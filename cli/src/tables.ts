import { positionFigures } from '@coffer/core';
import type { PublishedPosition, PublishedSchedule } from '@coffer/contract';

type Cells = Readonly<Record<string, unknown>>;

/** What columns are called, by their keys. */
type Titles = Readonly<Record<string, string>>;

function titleOf(titles: Titles, column: string): string {
  return titles[column] ?? column.charAt(0).toUpperCase() + column.slice(1);
}

const isFigure = (text: string): boolean => /^-?\d+(\.\d+)?$/.test(text);

/** An amount with its thousands separated, anything else as it is. */
function shown(value: unknown): string {
  if (value === null || value === undefined) return '';
  const text = String(value);
  if (!isFigure(text)) return text;
  const [whole = '', decimals] = text.split('.');
  // Years and counts are read as they are.
  if (decimals === undefined && whole.replace('-', '').length < 5) return text;
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return decimals === undefined ? grouped : `${grouped}.${decimals}`;
}

/** Rows under their headings, figures to the right. */
export function table(rows: readonly Cells[], columns: readonly string[], titles: Titles = {}): string {
  const cells = rows.map((row) => columns.map((column) => shown(row[column])));
  const heads = columns.map((column) => titleOf(titles, column));
  const widths = heads.map((head, at) => Math.max(head.length, ...cells.map((row) => row[at]?.length ?? 0)));
  const right = columns.map(
    (column, at) =>
      column !== 'due' &&
      column !== 'paid' &&
      cells.some((row) => isFigure((row[at] ?? '').replaceAll(',', ''))),
  );
  const line = (row: readonly string[]): string =>
    row
      .map((cell, at) => (right[at] ? cell.padStart(widths[at] ?? 0) : cell.padEnd(widths[at] ?? 0)))
      .join('  ')
      .trimEnd();
  return [line(heads), widths.map((width) => '─'.repeat(width)).join('  '), ...cells.map(line)].join('\n');
}

function facts(of: Cells, names: Readonly<Record<string, string>>): string {
  const width = Math.max(...Object.values(names).map((name) => name.length));
  return Object.entries(names)
    .filter(([key]) => of[key] !== undefined && of[key] !== null)
    .map(([key, name]) => `${name.padEnd(width)}  ${shown(of[key])}`)
    .join('\n');
}

/** A schedule as a table for people, with its totals and proofs. */
export function scheduleTable(made: PublishedSchedule, titles: Titles): string {
  const { rows, notices = [], proofs } = made;
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  const head = facts(
    { ...made },
    {
      regularPayment: 'Payment',
      paymentCount: 'Payments',
      finalPayment: 'Last payment',
      clears: 'Clears',
      left: 'Left at the end',
      proceeds: 'Proceeds',
      accruedReceived: 'of it accrued coupon',
      issueCosts: 'Issue costs',
      price: 'Price, percent of face',
      yield: 'Yield of the price',
      effectiveRate: 'Effective rate',
      goal: 'Goal',
      for: 'Repays',
      regularDeposit: 'Deposit',
      depositCount: 'Deposits',
      finalDeposit: 'Last deposit',
      reached: 'Reached',
    },
  );
  const solved = facts(made.solved ?? {}, {
    annual: 'Rate worked out',
    residual: 'which leaves',
    amount: 'Amount worked out',
    count: 'Payments worked out',
  });
  const totals = (title: string, of: Cells): string =>
    `${title}\n${Object.entries(of)
      .map(([key, value]) => `  ${titleOf(titles, key).padEnd(12)}  ${shown(value)}`)
      .join('\n')}`;
  return `${[
    ...[head, solved].filter((text) => text !== ''),
    table(rows, columns, titles),
    ...(made.range ? [totals('These rows', made.range)] : []),
    totals('Whole schedule', made.totals),
    ...(made.together ? [togetherTable(made.together)] : []),
    ...(notices.length > 0 ? [`Notices\n${notices.map(({ message }) => `  ${message}`).join('\n')}`] : []),
    proofLines(proofs),
  ].join('\n\n')}\n`;
}

/** Proofs, a line each. */
export function proofLines(proofs: PublishedSchedule['proofs']): string {
  const lines = proofs.map(({ holds, name, difference }) => {
    const off = /[1-9]/.test(difference) ? `, difference ${shown(difference)}` : '';
    return `  ${holds ? 'holds' : 'FAILS'}  ${name}${off}`;
  });
  return `Proofs\n${lines.join('\n')}`;
}

function togetherTable(together: Cells): string {
  const told = facts(together, {
    debtInterest: 'Interest on the debt',
    earned: 'Earned by the fund',
    netInterest: 'Net interest',
    paidOnDebt: 'Paid on the debt',
    deposits: 'Deposits',
    released: 'Paid out by the fund',
    outlay: 'Total outlay',
    debtEnds: 'The debt ends',
    fundEnds: 'The fund ends',
  });
  return `With the debt it repays\n${told.replaceAll(/^/gm, '  ')}`;
}

/** A position as a list for people. */
export function positionTable(position: PublishedPosition): string {
  const { next } = position;
  const asked = next && ('payment' in next ? next.payment : next.deposit);
  return `${facts(
    { ...position, ...(next && { next: `${next.due}, ${shown(asked)}` }) },
    {
      on: 'On',
      balance: 'Held by the fund',
      deposited: 'of it deposited',
      earned: 'of it earned',
      toGoal: 'To the goal',
      owed: 'Owed',
      netDebt: 'Net debt',
      ...positionFigures,
      next: 'Next due',
    },
  )}\n`;
}

/** Entries as a journal for people. */
export function entryTable(
  found: readonly {
    date: string;
    memo: string;
    lines: readonly { account: string; debit: string; credit: string }[];
  }[],
): string {
  if (found.length === 0) return 'No entries in these dates.\n';
  const rows = found.flatMap((entry) => [
    { date: entry.date, account: entry.memo, debit: '', credit: '' },
    ...entry.lines.map((line) => ({
      date: '',
      account: `${line.credit.match(/[1-9]/) ? '    ' : '  '}${line.account}`,
      debit: line.debit.match(/[1-9]/) ? line.debit : '',
      credit: line.credit.match(/[1-9]/) ? line.credit : '',
    })),
  ]);
  return `${table(rows, ['date', 'account', 'debit', 'credit'])}\n`;
}

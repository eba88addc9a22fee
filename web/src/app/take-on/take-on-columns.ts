import { formatDay, parseDay } from '@coffer/core';
import { showAmount, showDay } from '@coffer/contract';
import type { GridCell, GridColumn, GridRow } from '../figures/grid-model';
import { meanings, meaningNames, type Meaning, type Pointing } from './meanings';
import { stateOf, type DeskRow } from './sheet-desk';
import type { RowFigures } from './sheet-row';

const marks = { waiting: '', agrees: '✓', differs: '!', faulty: '!', 'left-out': '–' } as const;
const wide: Readonly<Partial<Record<Meaning, string>>> = {
  name: 'minmax(150px, 2fr)',
  lender: 'minmax(110px, 1fr)',
  start: 'minmax(104px, 1fr)',
  first: 'minmax(104px, 1fr)',
  last: 'minmax(104px, 1fr)',
  amount: 'minmax(122px, 1fr)',
  dayCount: 'minmax(112px, 1fr)',
  count: '54px',
  rate: '66px',
  currency: '62px',
};
const short: Readonly<Partial<Record<Meaning, string>>> = {
  agreement: 'Agreement',
  count: 'No.',
  payment: 'Payment',
  balance: 'Balance',
  last: 'Last due',
  dayCount: 'Days',
};
const right: ReadonlySet<Meaning> = new Set(['amount', 'rate', 'count', 'payment', 'balance']);

/** What Coffer makes of a figure that the sheet says, beside it. */
const beside: Readonly<Partial<Record<Meaning, keyof RowFigures>>> = {
  payment: 'payment',
  balance: 'balance',
  last: 'last',
};

function figureText(figure: number | string | undefined, digits: number): string {
  if (figure === undefined) return '';
  return typeof figure === 'number' ? showAmount(figure, digits) : showDay(figure);
}

/** The columns of the desk: the sheet's, each that means something, and Coffer's figure beside what is compared. */
export function deskColumns(pointing: Pointing, digits: number): GridColumn<DeskRow>[] {
  const shown = new Set(pointing.values());
  const columns: GridColumn<DeskRow>[] = [
    {
      key: 'state',
      title: '',
      align: 'left',
      track: '30px',
      cell: (row) => {
        const state = stateOf(row);
        if (state === 'faulty' || state === 'differs') {
          return { text: '', chip: { text: marks[state], tone: 'wrong' } };
        }
        return marks[state];
      },
    },
    { key: 'line', title: 'Line', align: 'right', track: '44px', cell: ({ line }) => String(line) },
  ];
  for (const meaning of meaningNames.filter((each) => shown.has(each))) {
    columns.push({
      key: meaning,
      title: short[meaning] ?? meanings[meaning].title,
      align: right.has(meaning) ? 'right' : 'left',
      track: wide[meaning] ?? 'minmax(92px, 1fr)',
      plain: true,
      typed: (row) => (row.leftOut ? undefined : (row.cells[meaning] ?? '')),
      cell: (row): GridCell => {
        const text = row.cells[meaning] ?? '';
        const fault = row.leftOut ? undefined : row.outcome?.faults[meaning];
        if (fault !== undefined)
          return { text: '', chip: { text: text || 'empty', tone: 'wrong' }, tip: fault };
        return { text };
      },
    });
    const key = beside[meaning];
    if (key === undefined) continue;
    columns.push({
      key: `${key}-worked`,
      title: 'Coffer',
      align: meaning === 'last' ? 'left' : 'right',
      track: 'minmax(92px, 1fr)',
      tone: 'principal',
      cell: ({ outcome, leftOut }): GridCell | string => {
        const text = leftOut ? '' : figureText(outcome?.worked?.[key], digits);
        if (!outcome?.differs.includes(key) || leftOut) return text;
        return { text: '', chip: { text, tone: 'wrong' } };
      },
    });
  }
  return columns;
}

const names: Readonly<Record<keyof RowFigures, string>> = {
  payment: 'payment',
  balance: 'balance',
  last: 'last due date',
};

/** What is said beneath a row that is faulty or differs. */
function remark(row: DeskRow, digits: number): string {
  const { outcome } = row;
  const faults = Object.values(outcome?.faults ?? {});
  if (faults.length > 0) return faults.join(' ');
  const said = (outcome?.differs ?? []).map((key) => {
    const [sheet, own] = [outcome?.says[key], outcome?.worked?.[key]];
    if (typeof sheet !== 'number' || typeof own !== 'number') return `${names[key]} is another`;
    const off = showAmount(Math.abs(own - sheet), digits);
    return `${names[key]} ${off} ${own < sheet ? 'less' : 'more'} than the sheet’s`;
  });
  const mend = outcome?.mend;
  const cure =
    mend === undefined
      ? ''
      : mend.meaning === 'dayCount'
        ? ` With ${mend.value} all comes out as the sheet has it.`
        : ` With ${mend.value} as the payment that was agreed all comes out as the sheet has it.`;
  const text = said.join(', ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.${cure}`;
}

/** The rows of the desk, each that needs it with its remark beneath. */
export function deskRows(rows: readonly DeskRow[], digits: number): GridRow<DeskRow>[] {
  return rows.flatMap((row): GridRow<DeskRow>[] => {
    const state = stateOf(row);
    const id = String(row.at);
    const item: GridRow<DeskRow> = { type: 'item', id, item: row, quiet: state === 'left-out' };
    if (state !== 'faulty' && state !== 'differs') return [item];
    const mend = row.outcome?.mend;
    const acts = [
      ...(mend ? [{ key: 'mend', text: `Take ${mend.value}` }] : []),
      { key: 'leave-out', text: 'Leave the row out' },
    ];
    return [item, { type: 'note', id: `${id} note`, text: remark(row, digits), acts }];
  });
}

/** Sums of the rows that are kept, as the sheet says them and as they come out. */
export function deskTotals(rows: readonly DeskRow[], digits: number): Record<string, string> {
  const sum = (of: (row: DeskRow) => number | undefined): string => {
    const figures = rows.map(of).filter((figure) => figure !== undefined);
    return figures.length === 0
      ? ''
      : showAmount(
          figures.reduce((total, figure) => total + figure, 0),
          digits,
        );
  };
  return {
    name: `${rows.length} ${rows.length === 1 ? 'row' : 'rows'} kept`,
    payment: sum(({ outcome }) => outcome?.says.payment),
    'payment-worked': sum(({ outcome }) => outcome?.worked?.payment),
    balance: sum(({ outcome }) => outcome?.says.balance),
    'balance-worked': sum(({ outcome }) => outcome?.worked?.balance),
  };
}

/** The day before the books, as people read it. */
export function eveningText(booksFrom: string): string {
  const day = parseDay(booksFrom);
  return day === undefined ? '' : showDay(formatDay(day - 1));
}

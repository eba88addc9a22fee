import {
  type FiguresView,
  type ClassNames,
  type InstrumentClass,
  type RegisterRow,
  showAmount,
  showDay,
  showRate,
  usualClassNames,
  showText,
} from '@coffer/contract';
import type { GridColumn, GridRow } from '../figures/grid-model';

/** The figures of the register, added up. */
export type Sums = Pick<
  FiguresView,
  'outstanding' | 'accruedInterest' | 'carrying' | 'current' | 'nonCurrent'
>;

/** Adds up the figures of rows. */
export function sumsOf(rows: readonly RegisterRow[]): Sums {
  const sums = { outstanding: 0, accruedInterest: 0, carrying: 0, current: 0, nonCurrent: 0 };
  for (const { figures } of rows) {
    for (const key of Object.keys(sums) as (keyof Sums)[]) sums[key] += figures[key];
    sums.accruedInterest += figures.accruedFee + figures.unpaidInterest;
  }
  return sums;
}

/** Sums as the cells of a heading or total. */
export function sumCells(name: string, sums: Sums, digits: number): Record<string, string> {
  return {
    name,
    outstanding: showAmount(sums.outstanding, digits),
    accruedInterest: showAmount(sums.accruedInterest, digits),
    carrying: showAmount(sums.carrying, digits),
    current: showAmount(sums.current, digits),
    nonCurrent: showAmount(sums.nonCurrent, digits),
  };
}

/** Instruments under a heading for each class, with its subtotals. */
export function registerRows(
  rows: readonly RegisterRow[],
  digits: number,
  names: ClassNames = usualClassNames,
): GridRow<RegisterRow>[] {
  return (Object.keys(usualClassNames) as InstrumentClass[]).flatMap((name): GridRow<RegisterRow>[] => {
    const ofClass = rows.filter((row) => row.class === name);
    if (ofClass.length === 0) return [];
    return [
      { type: 'group', id: name, cells: sumCells(names[name], sumsOf(ofClass), digits) },
      ...ofClass.map((item) => ({ type: 'item' as const, id: item.id, item })),
    ];
  });
}

/** The columns of the register. */
export function registerColumns(digits: number): GridColumn<RegisterRow>[] {
  const figure = (
    key: keyof FiguresView,
    title: string,
    more: Partial<GridColumn<RegisterRow>> = {},
  ): GridColumn<RegisterRow> => ({
    key,
    title,
    align: 'right',
    track: 'minmax(110px, 1fr)',
    explains: true,
    cell: ({ figures }) => showAmount(figures[key], digits),
    ...more,
  });
  return [
    {
      key: 'name',
      title: 'Instrument',
      align: 'left',
      track: 'minmax(280px, 2.6fr)',
      explains: true,
      cell: (row) => ({
        text: row.name,
        sub: [row.lender, showText(row.pattern)].filter(Boolean).join(' · '),
      }),
    },
    {
      key: 'rate',
      title: 'Rate',
      align: 'right',
      track: 'minmax(92px, 0.7fr)',
      cell: (row) => ({ text: showRate(row.rate), sub: row.rateNote ?? undefined }),
    },
    {
      key: 'matures',
      title: 'Matures',
      align: 'left',
      track: '112px',
      cell: (row) => (row.matures === null ? 'open' : showDay(row.matures)),
    },
    figure('outstanding', 'Outstanding', {
      cell: ({ figures, borrowed }) => ({
        text: showAmount(figures.outstanding, digits),
        bar: borrowed === 0 ? 0 : figures.outstanding / borrowed,
      }),
    }),
    figure('accruedInterest', 'Accrued', {
      tone: 'interest',
      cell: (row) => ({
        text: showAmount(row.figures.accruedInterest + row.figures.accruedFee, digits),
        sub: unpaidText(row.figures, digits),
      }),
    }),
    figure('current', 'Current'),
    figure('nonCurrent', 'Non-current', {
      cell: ({ figures }) => ({
        text: showAmount(figures.nonCurrent, digits),
        sub: figures.carrying === figures.outstanding ? undefined : differenceText(figures, digits),
      }),
    }),
  ];
}

/** What was billed and not paid, and what was kept apart by agreement. */
function unpaidText({ unpaidInterest, deferredInterest }: FiguresView, digits: number): string | undefined {
  const parts = [
    [unpaidInterest - deferredInterest, 'unpaid'],
    [deferredInterest, 'deferred'],
  ] as const;
  const told = parts.filter(([amount]) => amount > 0);
  if (told.length === 0) return undefined;
  return `+ ${told.map(([amount, word]) => `${showAmount(amount, digits)} ${word}`).join(', ')}`;
}

/** Why the current and non-current parts do not sum to what is outstanding. */
function differenceText(figures: FiguresView, digits: number): string {
  const premium = figures.carrying - figures.outstanding;
  const name = premium > 0 ? 'premium' : figures.unamortizedDiscount > 0 ? 'discount' : 'costs';
  return `${showAmount(Math.abs(premium), digits)} ${name}`;
}

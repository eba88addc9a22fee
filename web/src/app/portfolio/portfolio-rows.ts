import {
  showAmount,
  showMovement,
  showShortMonth,
  usualClassNames,
  type ClassNames,
  type InstrumentClass,
  type PortfolioRow,
  type PortfolioView,
} from '@coffer/contract';
import type { PortfolioStep } from '@coffer/core';
import { noteActs, type TriedChanges } from './portfolio-tried';
import type { GridColumn, GridRow } from '../figures/grid-model';

/** What instruments are subtotalled by. */
export const groupings = {
  class: { name: 'class', of: (row: PortfolioRow, names: ClassNames): string => names[row.class] },
  lender: { name: 'lender', of: (row: PortfolioRow): string => row.lender ?? 'No lender named' },
  rate: { name: 'rate', of: (row: PortfolioRow): string => (row.floating ? 'Floating rate' : 'Fixed rate') },
} as const;
export type Grouping = keyof typeof groupings;
export const groupingChoices = Object.entries(groupings).map(([key, { name }]) => [key, name] as const);

/** Instruments that are subtotalled together, in the order of the register. */
export interface PortfolioGroup {
  readonly name: string;
  readonly rows: readonly PortfolioRow[];
  /** Minor units, by period. */
  readonly sums: readonly number[];
}

/** An instrument as a line: as it is, as a scenario changes it, or as it was before that. */
export interface PortfolioLine {
  readonly row: PortfolioRow;
  readonly as: 'agreed' | 'draft' | 'before';
  /** The same without the draft. */
  readonly was?: PortfolioRow | undefined;
}

/** The sums of rows by period, minor units. */
export function sumsOf(rows: readonly PortfolioRow[], periods: number): number[] {
  const sums = new Array<number>(periods).fill(0);
  for (const { values } of rows) values.forEach((value, at) => (sums[at] = (sums[at] ?? 0) + value));
  return sums;
}

/** Instruments by what they are subtotalled by; classes in the order of the register, all else by name. */
export function portfolioGroups(
  { rows, periods }: PortfolioView,
  by: Grouping,
  classNames = usualClassNames,
): PortfolioGroup[] {
  const of = (row: PortfolioRow): string => groupings[by].of(row, classNames);
  const names = [...new Set(rows.map(of))];
  const order = (Object.keys(usualClassNames) as InstrumentClass[]).map((each) => classNames[each]);
  names.sort((a, b) => (by === 'class' ? order.indexOf(a) - order.indexOf(b) : a.localeCompare(b)));
  return names.map((name) => {
    const ofGroup = rows.filter((row) => of(row) === name);
    return { name, rows: ofGroup, sums: sumsOf(ofGroup, periods.length) };
  });
}

/** What a period is called: its month, the month it ends with, or the fiscal year it ends in. */
export function periodName(to: string, step: PortfolioStep): string {
  const month = showShortMonth(to);
  if (step === 'month') return month;
  return step === 'quarter' ? `to ${month}` : `FY ${to.slice(0, 4)}`;
}

/** A column a period. */
export function portfolioColumns(
  { periods }: PortfolioView,
  step: PortfolioStep,
  digits: number,
  typable: (line: PortfolioLine, at: number) => boolean = () => false,
): GridColumn<PortfolioLine>[] {
  const textAt = (row: PortfolioRow, at: number): string => showMovement(row.values[at] ?? 0, digits);
  return [
    {
      key: 'name',
      title: 'Instrument',
      align: 'left',
      track: 'minmax(228px, 1.4fr)',
      explains: true,
      cell: ({ row, as }) =>
        as === 'before'
          ? { text: '', sub: 'as it is' }
          : as === 'draft'
            ? { text: row.name, draft: true }
            : row.name,
    },
    ...periods.map(({ to }, at): GridColumn<PortfolioLine> => ({
      key: to,
      title: periodName(to, step),
      align: 'right',
      track: 'minmax(84px, 1fr)',
      explains: true,
      plain: true,
      typed: (line) => (typable(line, at) ? showAmount(line.row.values[at] ?? 0, digits) : undefined),
      cell: ({ row, as, was }) => {
        const text = textAt(row, at);
        return as === 'draft' && was && was.values[at] !== row.values[at] ? { text, draft: true } : text;
      },
    })),
  ];
}

/** Sums as the cells of a heading or total. */
export function portfolioCells(
  name: string,
  sums: readonly number[],
  { periods }: PortfolioView,
  digits: number,
): Record<string, string> {
  return {
    name,
    ...Object.fromEntries(periods.map(({ to }, at) => [to, showMovement(sums[at] ?? 0, digits)])),
  };
}

/**
 * Groups with their instruments, changed ones with how they were and what comes of it; of a folded group its heading and
 * what is changed in it.
 */
export function portfolioRows(
  groups: readonly PortfolioGroup[],
  view: PortfolioView,
  folded: ReadonlySet<string>,
  digits: number,
  changes?: TriedChanges,
): GridRow<PortfolioLine>[] {
  const before = new Map(changes?.before.rows.map((row) => [row.id, row]));
  const linesOf = (row: PortfolioRow): GridRow<PortfolioLine>[] => {
    const tried = changes?.tried.get(row.id);
    if (!tried || !changes) return [{ type: 'item', id: row.id, item: { row, as: 'agreed' } }];
    const was = before.get(row.id) ?? { ...row, values: row.values.map(() => 0) };
    return [
      { type: 'item', id: row.id, item: { row, as: 'draft', was } },
      { type: 'item', id: `${row.id}:before`, quiet: true, item: { row: was, as: 'before' } },
      { type: 'note', id: `${row.id}:note`, text: changes.note(tried), acts: noteActs },
    ];
  };
  return groups.flatMap(({ name, rows, sums }): GridRow<PortfolioLine>[] => {
    const shut = folded.has(name);
    const title = `${shut ? '▸' : '▾'} ${name}${shut ? ` ${rows.length}` : ''}`;
    const head = {
      type: 'group',
      id: name,
      cells: portfolioCells(title, sums, view, digits),
    } as const;
    const shown = shut ? rows.filter(({ id }) => changes?.tried.has(id)) : rows;
    return [head, ...shown.flatMap(linesOf)];
  });
}

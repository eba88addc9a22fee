import {
  balanceDays,
  explainFundAndDebt,
  explainFundFigure,
  type Explanation,
  fundAndDebt,
  type FundFigure,
  type FundRow,
  type FundSchedule,
  fundTotal,
  type MinorUnits,
  monthsBetween,
  netDebt,
  type Schedule,
} from '@coffer/core';
import { columnTitles, fundNoticeText, showAmount, showDay, showMovement, showText } from '@coffer/contract';
import type { GridColumn } from '../figures/grid-model';
import type { Curve } from '../try/curves-chart';

/** A figure of the fund and the debt together. */
export interface FundLine {
  readonly name: string;
  readonly text: string;
  readonly strong?: boolean;
  /** How it is made, where it is not a count or a sum of a column. */
  readonly how?: () => Explanation;
}

/** What a fund and the debt it repays come to. */
export function fundLines(fund: FundSchedule, debt: Schedule): FundLine[] {
  const { terms, rows, deposit } = fund;
  const sums = fundAndDebt(fund, debt);
  const money = (minor: MinorUnits): string => showAmount(minor, terms.digits);
  const of = (figure: FundFigure, row: number) => (): Explanation => explainFundFigure(fund, row, figure);
  return [
    ...(deposit === null
      ? []
      : [{ name: 'Deposit', text: money(deposit), strong: true, how: of('deposit', 0) }]),
    { name: 'Deposits', text: String(rows.length) },
    { name: 'Last deposit', text: money(rows.at(-1)?.deposit ?? 0), how: of('deposit', rows.length - 1) },
    {
      name: terms.goal === undefined ? 'Ends' : 'Reaches its goal',
      text: fund.reached === undefined ? 'not reached' : showDay(fund.reached),
      strong: true,
    },
    { name: 'Paid in', text: money(sums.deposits) },
    { name: 'Interest on debt', text: money(sums.debtInterest) },
    { name: 'Earned', text: money(sums.earned) },
    {
      name: 'Net interest',
      text: money(sums.netInterest),
      strong: true,
      how: () => explainFundAndDebt(fund, debt, 'netInterest'),
    },
    { name: 'Paid on debt', text: money(sums.paidOnDebt) },
    { name: 'Paid out', text: money(sums.released), how: of('closing', rows.length - 1) },
    {
      name: 'Total outlay',
      text: money(sums.outlay),
      strong: true,
      how: () => explainFundAndDebt(fund, debt, 'outlay'),
    },
  ];
}

/** What should be known of a fund: what did not go as stated, and that it does not end with the debt. */
export function fundNotices(fund: FundSchedule, debt: Schedule): string[] {
  const { debtEnds, fundEnds } = fundAndDebt(fund, debt);
  const months = Math.abs(monthsBetween(debtEnds, fundEnds));
  const apart = months === 0 ? 'days' : `${months} month${months === 1 ? '' : 's'}`;
  return [
    ...fund.notices.map((notice) => showText(fundNoticeText(fund, notice))),
    ...(fundEnds === debtEnds
      ? []
      : [
          `The fund ends ${apart} ${fundEnds > debtEnds ? 'after' : 'before'} the debt, which is repaid on ${showDay(debtEnds)}.`,
        ]),
  ];
}

/** What is owed, what the fund holds, and the difference, over the life of both. */
export function fundCurves(fund: FundSchedule, debt: Schedule): Curve[] {
  const days = [...new Set([...balanceDays(debt), ...fund.rows.map(({ due }) => due)])].sort((a, b) => a - b);
  const points = (of: 'owed' | 'held' | 'net'): { on: number; balance: number }[] =>
    days.map((on) => ({ on, balance: netDebt(fund, debt, on)[of] }));
  return [
    { letter: '', name: 'owed', points: points('owed'), chosen: false },
    { letter: 'F', name: 'held by the fund', points: points('held'), chosen: false },
    { letter: 'N', name: 'net debt', points: points('net'), chosen: true },
  ];
}

/** The columns of a fund's schedule, beside the debt where that is known. */
export function fundColumns(fund: FundSchedule, debt: Schedule | undefined): GridColumn<FundRow>[] {
  const { digits } = fund.terms;
  const made = new Set(fund.terms.made?.map(({ due }) => due));
  const titles = columnTitles(fund);
  const titled = (key: string): string => titles[key] ?? '';
  const figure = (
    key: 'opening' | 'interest' | 'deposit' | 'closing',
    tone?: 'principal' | 'interest',
  ): GridColumn<FundRow> => ({
    key,
    title: titled(key),
    align: 'right',
    track: 'minmax(84px, 1fr)',
    explains: true,
    ...(tone && { tone }),
    cell: (row) =>
      key === 'interest' || key === 'deposit' ? showMovement(row[key], digits) : showAmount(row[key], digits),
  });
  return [
    { key: 'n', title: titled('n'), align: 'right', track: '44px', cell: ({ n }) => String(n) },
    {
      key: 'due',
      title: titled('due'),
      align: 'left',
      track: made.size > 0 ? '178px' : '108px',
      cell: ({ due, agreed }) =>
        made.has(agreed) ? { text: showDay(due), chip: { text: 'recorded', tone: 'agreed' } } : showDay(due),
    },
    figure('opening'),
    figure('interest', 'interest'),
    figure('deposit', 'principal'),
    figure('closing'),
    ...(debt ? [netColumn(fund, debt)] : []),
  ];
}

function netColumn(fund: FundSchedule, debt: Schedule): GridColumn<FundRow> {
  return {
    key: 'net',
    title: 'Net debt',
    align: 'right',
    track: 'minmax(96px, 1fr)',
    explains: true,
    cell: ({ due }) => showAmount(netDebt(fund, debt, due).net, fund.terms.digits),
  };
}

/** The totals under the columns. */
export function fundTotals(fund: FundSchedule): Record<string, string> {
  const { digits } = fund.terms;
  return {
    due: 'In all',
    interest: showAmount(fundTotal(fund, 'interest'), digits),
    deposit: showAmount(fundTotal(fund, 'deposit'), digits),
  };
}

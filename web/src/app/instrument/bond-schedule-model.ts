import {
  explainBondFigure,
  explainPosition,
  formatPercent,
  position,
  type BondFigure,
  type BondRow,
  type BondSchedule,
} from '@coffer/core';
import { showAmount, showDay, showMovement } from '@coffer/contract';
import { splitChart } from '../charts/split-chart';
import type { GridColumn, GridRow } from '../figures/grid-model';
import { asOfBand, rowId, type Moment, type ScheduleModel, type ScheduleRow } from './schedule-model';

/** A bond's schedule as the page draws it. */
export function bondScheduleModel(schedule: BondSchedule, at: Moment): ScheduleModel {
  const { terms, rows } = schedule;
  const coupons = rows.filter((row) => row.n > 0);
  const paid = coupons.filter((row) => row.due <= at.on).length;
  const premium = schedule.proceeds > terms.face;
  const amortization = premium ? 'premium amortized' : 'discount amortized';
  return {
    columns: columns(schedule),
    rows: gridRows(schedule, at),
    pictures: [
      {
        name: 'Expense of each coupon period',
        hint: 'solid up to the as-of date, pale after it',
        legend: [
          { text: premium ? 'expense' : 'coupon', tone: 'principal' },
          { text: amortization, tone: 'interest' },
          { text: 'carrying amount', tone: 'flag' },
        ],
        words: `Interest expense of ${coupons.length} coupon periods, and the carrying amount from ${showAmount(schedule.proceeds, terms.digits)} to ${showAmount(terms.face, terms.digits)}.`,
        option: splitChart(
          coupons.map((row) => ({
            label: `${row.n} · ${showDay(row.due)}`,
            lower: premium ? row.expense : row.coupon,
            upper: Math.abs(row.amortization),
            line: row.closing,
          })),
          paid,
          [premium ? 'expense' : 'coupon', amortization],
          terms.digits,
        ),
        rows: coupons.map((row) => row.n),
      },
    ],
    life: life(schedule),
    notices: [],
    explain: (index, column) =>
      index < 0
        ? explainPosition(schedule, at.on, 'accruedInterest')
        : explainBondFigure(schedule, index, column as BondFigure),
  };
}

function life(schedule: BondSchedule): (readonly [string, string])[] {
  const { terms, rows, proceeds } = schedule;
  const sum = (of: (row: BondRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  const money = (minor: number): string => showAmount(minor, terms.digits);
  const apart = terms.face - proceeds;
  return [
    ['Price, percent of face', schedule.price.times(100).toDecimalPlaces(6).toFixed()],
    ['Proceeds', money(proceeds)],
    [apart >= 0 ? 'Discount' : 'Premium', money(Math.abs(apart))],
    ['Coupon rate', formatPercent(terms.couponRate)],
    ['Effective rate', `${schedule.effectiveRate.times(100).toDecimalPlaces(6).toFixed()}%`],
    ['Coupons in all', money(sum((row) => row.coupon))],
    ['Expense in all', money(sum((row) => row.expense))],
    ['Matures', showDay(terms.matures)],
  ];
}

function columns(schedule: BondSchedule): GridColumn<ScheduleRow>[] {
  const { digits } = schedule.terms;
  const rowOf = ({ index }: ScheduleRow): BondRow => schedule.rows[index] as BondRow;
  const figure = (
    key: BondFigure,
    title: string,
    more: Partial<GridColumn<ScheduleRow>> = {},
  ): GridColumn<ScheduleRow> => ({
    key,
    title,
    align: 'right',
    track: 'minmax(96px, 1fr)',
    explains: true,
    cell: (row) => showAmount(rowOf(row)[key], digits),
    ...more,
  });
  const movement = (
    key: BondFigure,
    title: string,
    more: Partial<GridColumn<ScheduleRow>> = {},
  ): GridColumn<ScheduleRow> =>
    figure(key, title, { cell: (row) => showMovement(rowOf(row)[key], digits), ...more });
  return [
    {
      key: 'n',
      title: 'No.',
      align: 'right',
      track: '52px',
      cell: (row) => (rowOf(row).n === 0 ? 'issue' : String(rowOf(row).n)),
    },
    { key: 'due', title: 'Date', align: 'left', track: '106px', cell: (row) => showDay(rowOf(row).due) },
    figure('opening', 'Opening', { track: 'minmax(114px, 1.15fr)' }),
    movement('coupon', 'Coupon', { tone: 'principal' }),
    movement('expense', 'Expense', { tone: 'interest' }),
    movement('amortization', 'Amortization'),
    figure('unamortized', schedule.proceeds > schedule.terms.face ? 'Premium left' : 'Discount left', {
      cell: (row) => showAmount(Math.abs(rowOf(row).unamortized), digits),
    }),
    figure('closing', 'Carrying', { track: 'minmax(114px, 1.15fr)' }),
  ];
}

function gridRows(schedule: BondSchedule, at: Moment): GridRow<ScheduleRow>[] {
  const { terms } = schedule;
  const before = schedule.rows.filter((row) => row.due <= at.on).length;
  const rows: GridRow<ScheduleRow>[] = schedule.rows.map((row, index) => ({
    type: 'item',
    id: rowId(index),
    item: { index },
    quiet: row.due <= at.on,
  }));
  const { accruedInterest, carrying } = position(schedule, at.on);
  if (carrying > 0) {
    rows.splice(before, 0, {
      type: 'band',
      id: asOfBand,
      text: `${showDay(at.on)} · period end: coupon of ${showAmount(accruedInterest, terms.digits)} accrued, carrying amount ${showAmount(carrying, terms.digits)}`,
    });
  }
  return rows;
}

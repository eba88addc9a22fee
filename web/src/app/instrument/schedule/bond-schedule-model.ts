import {
  type BondFigure,
  type BondRow,
  type BondSchedule,
  bondTotalOf,
  discountAtIssue,
  discountShare,
  explainBondFigure,
  explainBondTotal,
  explainDiscountAtIssue,
  explainPosition,
  formatPercent,
  type MinorUnits,
  position,
} from '@coffer/core';
import { columnTitles, showAmount, showDay, showMovement, showRate } from '@coffer/contract';
import type { GridColumn, GridRow } from '../../figures/grid-model';
import { bondPictures } from './bond-pictures';
import {
  asOfBand,
  rowId,
  reportedText,
  type LifeFact,
  type Moment,
  type ScheduleModel,
  type ScheduleRow,
} from './schedule-model';

/** A bond's schedule as the page draws it. */
export function bondScheduleModel(schedule: BondSchedule, at: Moment): ScheduleModel {
  return {
    columns: columns(schedule),
    rows: gridRows(schedule, at),
    pictures: bondPictures(schedule, at),
    life: life(schedule),
    notices: [],
    explain: (index, column) =>
      index < 0
        ? explainPosition(schedule, at.on, 'accruedInterest')
        : explainBondFigure(schedule, index, column as BondFigure),
  };
}

function life(schedule: BondSchedule): LifeFact[] {
  const { terms, rows, proceeds, accruedReceived, rates } = schedule;
  const sum = (of: (row: BondRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  const money = (minor: MinorUnits): string => showAmount(minor, terms.digits);
  const percent = (rate: typeof rates.effective): string =>
    showRate(`${rate.times(100).toDecimalPlaces(6).toFixed()}%`);
  const discount = discountAtIssue(schedule);
  const gain = sum((row) => (row.kind === 'redemption' ? row.gain : 0));
  const couponsInAll: LifeFact = [
    'Coupons in all',
    money(bondTotalOf(schedule, 'coupon')),
    () => explainBondTotal(schedule, 'coupon'),
  ];
  return [
    ['Price', showRate(rates.price.times(100).toDecimalPlaces(6).toFixed())],
    ['Proceeds', money(proceeds)],
    ...(accruedReceived === 0 ? [] : [['of it coupon', money(accruedReceived)] as const]),
    [
      discount >= 0 ? 'Discount' : 'Premium',
      money(Math.abs(discount)),
      () => explainDiscountAtIssue(schedule),
    ],
    ['of face', showRate(discountShare(schedule))],
    ...(terms.issueCosts ? [['Issue costs', money(terms.issueCosts.amount)] as const] : []),
    ['Coupon rate', terms.zeroCoupon ? 'none' : showRate(formatPercent(terms.couponRate))],
    ...(rates.ofPrice.eq(rates.effective) ? [] : [['Yield of the price', percent(rates.ofPrice)] as const]),
    [
      terms.method === 'straight-line' ? 'Effective rate, not used' : 'Effective rate',
      percent(rates.effective),
    ],
    ...(terms.zeroCoupon ? [] : [couponsInAll]),
    ['Expense in all', money(sum((row) => row.expense)), () => explainBondTotal(schedule, 'expense')],
    ...(gain === 0
      ? []
      : [[gain < 0 ? 'Loss on redemption' : 'Gain on redemption', money(Math.abs(gain))] as const]),
    ['Matures', showDay(terms.matures)],
  ];
}

function columns(schedule: BondSchedule): GridColumn<ScheduleRow>[] {
  const { terms, rows } = schedule;
  const { digits } = terms;
  const rowOf = ({ index }: ScheduleRow): BondRow => rows[index] as BondRow;
  const titles = columnTitles(schedule);
  const titled = (key: string): string => titles[key] ?? '';
  const figure = (key: BondFigure, more: Partial<GridColumn<ScheduleRow>> = {}): GridColumn<ScheduleRow> => ({
    key,
    title: titled(key),
    align: 'right',
    track: 'minmax(70px, 1fr)',
    explains: true,
    cell: (row) => showAmount(rowOf(row)[key], digits),
    ...more,
  });
  const movement = (key: BondFigure, more: Partial<GridColumn<ScheduleRow>> = {}): GridColumn<ScheduleRow> =>
    figure(key, { cell: (row) => showMovement(rowOf(row)[key], digits), ...more });
  const premium = (rows[0]?.unamortized ?? 0) < 0;
  const retires = rows.some(({ retired }) => retired !== 0);
  return [
    { key: 'n', title: titled('n'), align: 'right', track: '60px', cell: (row) => numberOf(rowOf(row)) },
    {
      key: 'due',
      title: titled('due'),
      align: 'left',
      track: '106px',
      cell: (row) => showDay(rowOf(row).due),
    },
    // Where face leaves before maturity its columns take the room of the opening, which the row before closes with.
    ...(retires ? [] : [figure('opening', { track: 'minmax(100px, 1.15fr)' })]),
    ...(terms.zeroCoupon ? [] : [movement('coupon', { tone: 'principal' })]),
    movement('expense', { tone: 'interest' }),
    movement('amortization'),
    ...(retires ? [movement('retired', { title: 'Retired', track: 'minmax(80px, 1.1fr)' })] : []),
    ...(terms.redemptions.length > 0 ? [movement('gain')] : []),
    figure('unamortized', {
      // On the page a premium is told without its sign, by its name.
      title: premium ? 'Premium left' : terms.issueCosts ? titled('unamortized') : 'Discount left',
      cell: (row) => showAmount(premium ? -rowOf(row).unamortized : rowOf(row).unamortized, digits),
    }),
    figure('closing', { track: 'minmax(100px, 1.15fr)' }),
  ];
}

function numberOf(row: BondRow): string {
  if (row.kind === 'coupon') return String(row.n);
  return row.kind === 'issue' ? 'issue' : 'redeem';
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
    const accrued = terms.zeroCoupon
      ? ''
      : `coupon of ${showAmount(accruedInterest, terms.digits)} accrued, `;
    rows.splice(before, 0, {
      type: 'band',
      id: asOfBand,
      text: `${showDay(at.on)} · period end: ${accrued}carrying amount ${showAmount(carrying, terms.digits)}${reportedText(at, accruedInterest, terms.digits)}`,
    });
  }
  return rows;
}

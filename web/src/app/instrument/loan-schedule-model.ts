import {
  explainLoanFigure,
  explainPosition,
  formatPercent,
  lastRowOn,
  loanRow,
  loanRows,
  position,
  sumColumn,
  type LoanFigure,
  type LoanSchedule,
} from '@coffer/core';
import { frequencyInWords } from '@coffer/contract';
import { splitChart } from '../charts/split-chart';
import type { GridColumn, GridRow } from '../figures/grid-model';
import { showAmount, showDay, showMovement } from '../figures/show';
import { paymentStatus } from './payment-status';
import { asOfBand, rowId, type Moment, type ScheduleModel, type ScheduleRow } from './schedule-model';

/** A loan's schedule as the page draws it. */
export function loanScheduleModel(schedule: LoanSchedule, at: Moment): ScheduleModel {
  const { terms } = schedule;
  const { digits } = terms;
  const rows = loanRows(schedule).filter((row) => row.n !== null);
  const paid = rows.filter((row) => row.date <= at.on).length;
  const agreed = schedule.phasePayments.find((payment) => payment > 0);
  return {
    columns: columns(schedule, at),
    rows: gridRows(schedule, at),
    chart: {
      title: 'Each payment, split',
      legend: [
        { text: 'principal', tone: 'principal' },
        { text: 'interest', tone: 'interest' },
      ],
      words: `${rows.length} payments, each split into principal and interest; ${paid} fall on or before ${showDay(at.on)}.`,
      option: splitChart(
        rows.map((row) => ({
          label: `${row.n ?? ''} · ${showDay(row.due)}`,
          lower: row.principal + row.extra,
          upper: row.payment - row.principal,
        })),
        paid,
        ['principal', 'interest'],
        digits,
      ),
      rows: rows.map((row) => row.index),
    },
    life: [
      ...(agreed === undefined
        ? []
        : [[`Payment, ${frequencyInWords(terms.every)}`, showAmount(agreed, digits)] as const]),
      ...life(schedule),
    ],
    notices: schedule.notices.map((notice) => noticeText(notice, digits)),
    explain: (index, column) =>
      index < 0
        ? explainPosition(schedule, at.on, 'accruedInterest')
        : explainLoanFigure(schedule, index, column as LoanFigure),
  };
}

function life(schedule: LoanSchedule): (readonly [string, string])[] {
  const { terms, length } = schedule;
  const interest = sumColumn(schedule.interest, length);
  const paid = sumColumn(schedule.payment, length) + sumColumn(schedule.extra, length);
  const share = paid === 0 ? 0 : (100 * interest) / paid;
  return [
    ['Paid in all', showAmount(paid, terms.digits)],
    ['Interest', showAmount(interest, terms.digits)],
    ['Share of interest', `${share.toFixed(1)}%`],
    ['Annual rate', formatPercent(terms.annualRate)],
    ['Clears', showDay(schedule.date[length - 1] as number)],
  ];
}

function noticeText(notice: LoanSchedule['notices'][number], digits: number): string {
  const [stated, applied] = [showAmount(notice.stated, digits), showAmount(notice.applied, digits)];
  const on = showDay(notice.on);
  if (notice.kind === 'event-without-effect')
    return `${stated} on ${on} has no effect: the loan is cleared by then, or no payment falls due that it is for.`;
  const what = notice.kind === 'extra-cut' ? 'Extra principal' : 'A payment';
  return `${what} of ${stated} on ${on} is more than the ${applied} owed then, and is cut to that.`;
}

function columns(schedule: LoanSchedule, at: Moment): GridColumn<ScheduleRow>[] {
  const { terms } = schedule;
  const { digits } = terms;
  const figure = (
    key: LoanFigure,
    title: string,
    more: Partial<GridColumn<ScheduleRow>> = {},
  ): GridColumn<ScheduleRow> => ({
    key,
    title,
    align: 'right',
    track: 'minmax(84px, 1fr)',
    explains: true,
    cell: ({ index }) => showAmount(loanRow(schedule, index)[key], digits),
    ...more,
  });
  const movement = (
    key: LoanFigure,
    title: string,
    more: Partial<GridColumn<ScheduleRow>> = {},
  ): GridColumn<ScheduleRow> =>
    figure(key, title, { cell: ({ index }) => showMovement(loanRow(schedule, index)[key], digits), ...more });
  const next = position(schedule, at.on).next?.due;
  const anyUnpaid = schedule.unpaid.some((unpaid) => unpaid > 0);
  return [
    {
      key: 'n',
      title: 'No.',
      align: 'right',
      track: '38px',
      cell: ({ index }) => String(loanRow(schedule, index).n ?? ''),
    },
    {
      key: 'due',
      title: 'Due',
      align: 'left',
      track: '108px',
      cell: ({ index }) => {
        const row = loanRow(schedule, index);
        return showDay(row.n === null ? row.date : row.due);
      },
    },
    figure('opening', 'Opening', { track: 'minmax(106px, 1.15fr)' }),
    movement('payment', 'Payment'),
    movement('interest', 'Interest', { tone: 'interest' }),
    movement('principal', 'Principal', { tone: 'principal' }),
    movement('extra', 'Extra', { track: 'minmax(90px, 0.9fr)' }),
    ...(anyUnpaid ? [movement('unpaid', 'Unpaid', { track: 'minmax(90px, 0.9fr)' })] : []),
    figure('closing', 'Closing', { track: 'minmax(106px, 1.15fr)' }),
    {
      key: 'status',
      title: 'Status',
      align: 'left',
      track: '104px',
      cell: ({ index }) => {
        const row = loanRow(schedule, index);
        const agreed = schedule.phasePayments[schedule.phase[index] as number] || row.interest;
        return paymentStatus(terms, row, Math.min(agreed, row.opening + row.interest), at, row.due === next);
      },
    },
  ];
}

function gridRows(schedule: LoanSchedule, at: Moment): GridRow<ScheduleRow>[] {
  const { terms, length } = schedule;
  const last = lastRowOn(schedule.date, length, at.on);
  const rows: GridRow<ScheduleRow>[] = Array.from({ length }, (_, index) => ({
    type: 'item',
    id: rowId(index),
    item: { index },
    quiet: index <= last,
  }));
  const { accruedInterest, outstanding, unpaidInterest } = position(schedule, at.on);
  if (outstanding > 0 || unpaidInterest > 0) {
    rows.splice(last + 1, 0, {
      type: 'band',
      id: asOfBand,
      text:
        `${showDay(at.on)} · period end: ${showAmount(accruedInterest, terms.digits)} accrued ` +
        `on ${showAmount(outstanding, terms.digits)} for ${daysSince(schedule, at.on, last)}`,
    });
  }
  return rows;
}

function daysSince(schedule: LoanSchedule, on: number, last: number): string {
  let charged = last;
  while (charged >= 0 && (schedule.n[charged] as number) === 0) charged -= 1;
  const from = charged < 0 ? schedule.terms.start : (schedule.date[charged] as number);
  const days = on - from;
  return `${days} ${days === 1 ? 'day' : 'days'}`;
}

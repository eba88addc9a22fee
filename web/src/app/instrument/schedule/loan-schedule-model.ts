import {
  accruedOver,
  asksOneAmount,
  explainLoanFigure,
  explainPosition,
  explainTotal,
  financeCost,
  formatPercent,
  lastRowOn,
  loanRow,
  minorOf,
  position,
  rateAt,
  totalOf,
  type Explanation,
  type Frequency,
  type LoanFigure,
  type LoanSchedule,
  type MinorUnits,
  type Ratio,
} from '@coffer/core';
import {
  columnTitles,
  frequencyInWords,
  noticeText,
  showText,
  showAmount,
  showDay,
  showMovement,
  showRate,
} from '@coffer/contract';
import type { GridColumn, GridRow } from '../../figures/grid-model';
import { loanPictures } from './loan-pictures';
import { paymentStatus } from './payment-status';
import {
  asOfBand,
  reportedText,
  rowId,
  type LifeFact,
  type Moment,
  type ScheduleModel,
  type ScheduleRow,
} from './schedule-model';

/** A loan's schedule as the page draws it. */
export function loanScheduleModel(schedule: LoanSchedule, at: Moment): ScheduleModel {
  const { terms } = schedule;
  const { digits } = terms;
  const agreed = paymentInForce(schedule, at.on);
  return {
    columns: columns(schedule, at),
    rows: gridRows(schedule, at),
    pictures: loanPictures(schedule, at),
    life: [
      ...(agreed === undefined
        ? []
        : [
            [
              `Payment, ${frequencyInWords(agreed.every)}`,
              showAmount(agreed.amount, digits),
              () => explainLoanFigure(schedule, agreed.row, 'payment'),
            ] as const,
          ]),
      ...life(schedule, at),
    ],
    notices: shownNotices(schedule, at.on),
    explain: (index, column) =>
      index < 0
        ? explainPosition(schedule, at.on, 'accruedInterest')
        : explainLoanFigure(schedule, index, shownFigure(schedule, index, column)),
  };
}

/** The figure that a column shows: a line's repayments between bills stand where principal does. */
function shownFigure(schedule: LoanSchedule, index: number, column: string): LoanFigure {
  const repaidBetween = column === 'principal' && loanRow(schedule, index).extra > 0;
  return schedule.terms.creditLine && repaidBetween ? 'extra' : (column as LoanFigure);
}

function life(schedule: LoanSchedule, at: Moment): LifeFact[] {
  const { terms, length, rates } = schedule;
  const interest = totalOf(schedule, 'interest');
  const payments = totalOf(schedule, 'payment');
  const extra = totalOf(schedule, 'extra');
  const paid = payments + extra;
  const share = paid === 0 ? 0 : (100 * interest) / paid;
  return [
    [
      'Paid in all',
      showAmount(paid, terms.digits),
      () => ({
        title: 'Paid in all',
        amount: paid,
        steps: [
          { label: 'Payments', amount: payments },
          { label: '+ extra principal', amount: extra },
        ],
      }),
    ],
    ['Interest', showAmount(interest, terms.digits), () => explainTotal(schedule, 'interest')],
    [
      'Share of interest',
      showRate(`${share.toFixed(1)}%`),
      () => ({
        title: 'Share of interest, in all that is paid',
        amount: interest,
        steps: [
          { label: 'Interest', amount: interest },
          { label: '÷ paid in all', amount: paid },
          { label: 'in hundredths', text: showRate(`${share.toFixed(4)}%`) },
        ],
      }),
    ],
    ...costOfPurchase(schedule),
    [`Rate on ${showDay(at.on)}`, shownRate(rates[rateAt(rates, at.on)]?.annualRate ?? terms.annualRate)],
    [
      schedule.closing[length - 1] === 0 ? 'Clears' : 'Last payment',
      showDay(schedule.date[length - 1] as number),
    ],
  ];
}

/** What a purchase costs for being financed, as it is made. */
function costOfPurchase(schedule: LoanSchedule): LifeFact[] {
  const { digits } = schedule.terms;
  const made = financeCost(schedule);
  if (!made) return [];
  const { price, downPayment, paid, left, drawn, forgiven, cost } = made;
  const where = (label: string, amount: MinorUnits): Explanation['steps'] =>
    amount === 0 ? [] : [{ label, amount }];
  const explain = (): Explanation => ({
    title: 'Finance cost',
    amount: cost,
    steps: [
      { label: 'Down payment', amount: downPayment },
      { label: '+ paid in all', amount: paid },
      ...where('+ left at the end', left),
      ...where('+ forgiven', forgiven),
      ...where('− drawn besides', drawn),
      { label: '− price', amount: price },
    ],
  });
  return [
    ['Price', showAmount(price, digits)],
    ['Down payment', showAmount(downPayment, digits)],
    ['Finance cost', showAmount(cost, digits), explain],
  ];
}

/** A rate to six decimals; one that was solved has many more. */
function shownRate(annual: Ratio): string {
  const text = showRate(formatPercent(annual));
  return /\.\d{7}/.test(text) ? `${Number(text.replace('%', '')).toFixed(6)}%` : text;
}

/** The payment agreed as one amount on a day, or else the next that is, or the last that was; its first row from then. */
function paymentInForce(
  schedule: LoanSchedule,
  on: number,
): { row: number; amount: number; every: Frequency } | undefined {
  const { settings, setting, stretches, terms, length, n, date } = schedule;
  let found: number | undefined;
  for (let row = 0; row < length; row += 1) {
    const set = settings[setting[row] as number];
    if ((n[row] as number) === 0 || !set || !asksOneAmount(set)) continue;
    // The last payment takes up what rounding left, so the one before it shows better what is asked.
    const settles = row === length - 1 && found !== undefined && setting[found] === setting[row];
    if (!settles) found = row;
    if ((date[row] as number) > on) break;
  }
  const set = found === undefined ? undefined : settings[setting[found] as number];
  if (found === undefined || !set) return undefined;
  const every = stretches[set.stretch]?.cycle.every ?? terms.every;
  return { row: found, amount: minorOf(terms, set.amount), every };
}

/** What its author should know; fixings of days still to come are not missed yet. */
function shownNotices(schedule: LoanSchedule, on: number): string[] {
  return schedule.notices
    .filter((notice) => notice.kind !== 'fixing-missing' || notice.on <= on)
    .map((notice) => showText(noticeText(schedule, notice)));
}

function columns(schedule: LoanSchedule, at: Moment): GridColumn<ScheduleRow>[] {
  const { terms } = schedule;
  const { digits } = terms;
  const titles = columnTitles(schedule);
  const titled = (key: string): string => titles[key] ?? '';
  const figure = (key: LoanFigure, more: Partial<GridColumn<ScheduleRow>> = {}): GridColumn<ScheduleRow> => ({
    key,
    title: titled(key),
    align: 'right',
    track: 'minmax(76px, 1fr)',
    explains: true,
    cell: ({ index }) => showAmount(loanRow(schedule, index)[key], digits),
    ...more,
  });
  const movement = (key: LoanFigure, more: Partial<GridColumn<ScheduleRow>> = {}): GridColumn<ScheduleRow> =>
    figure(key, { cell: ({ index }) => showMovement(loanRow(schedule, index)[key], digits), ...more });
  const next = position(schedule, at.on).next?.due;
  const seldom = 'minmax(90px, 0.9fr)';
  // What is repaid of a line between its bills is no extra: one column holds it with what is due at the end.
  const repaid = movement('principal', {
    tone: 'principal',
    cell: ({ index }) => {
      const { principal, extra } = loanRow(schedule, index);
      return showMovement(principal + extra, digits);
    },
  });
  const anyExtra = schedule.extra.some((extra) => extra > 0);
  const anyUnpaid = schedule.unpaid.some((unpaid) => unpaid > 0);
  const anyOverpaid = schedule.overpaid.some((overpaid) => overpaid > 0);
  const anyAdded = schedule.added.some((added) => added > 0);
  return [
    {
      key: 'n',
      title: titled('n'),
      align: 'right',
      track: '38px',
      cell: ({ index }) => String(loanRow(schedule, index).n ?? ''),
    },
    {
      key: 'due',
      title: titled('due'),
      align: 'left',
      track: '108px',
      cell: ({ index }) => {
        const row = loanRow(schedule, index);
        return showDay(row.n === null ? row.date : row.due);
      },
    },
    // A line's rows of draws and repayments say what the balance was; the closing is enough.
    ...(terms.creditLine ? [] : [figure('opening', { track: 'minmax(106px, 1.15fr)' })]),
    movement('payment'),
    movement('interest', { tone: 'interest' }),
    ...(terms.creditLine
      ? [repaid, movement('added', { title: titled('drawn') })]
      : [
          movement('principal', { tone: 'principal' }),
          ...(anyExtra ? [movement('extra', { track: seldom })] : []),
          ...(anyAdded ? [movement('added', { title: titled('addedInterest'), track: seldom })] : []),
        ]),
    ...(terms.creditLine ? [movement('fee', { track: seldom })] : []),
    ...(anyOverpaid ? [movement('overpaid', { track: seldom })] : []),
    ...(anyUnpaid ? [movement('unpaid', { title: titled('unpaidInterest'), track: seldom })] : []),
    figure('closing', { track: 'minmax(106px, 1.15fr)' }),
    {
      key: 'status',
      title: 'Status',
      align: 'left',
      track: '104px',
      cell: ({ index }) => {
        const row = loanRow(schedule, index);
        const agreed = Math.min(agreedPayment(schedule, index), row.opening + row.interest);
        return paymentStatus(schedule, row, agreed, at, row.due === next);
      },
    },
  ];
}

/** What was agreed for the payment of a row, by how it was set. */
function agreedPayment({ settings, setting, terms, interest }: LoanSchedule, index: number): number {
  const set = settings[setting[index] as number];
  const charged = interest[index] as number;
  if (!set || set.kind === 'interest' || set.kind === 'listed') return charged;
  return minorOf(terms, set.amount) + (set.kind === 'principal' ? charged : 0);
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
  const { accruedInterest, accruedFee, outstanding, unpaidInterest } = position(schedule, at.on);
  if (outstanding > 0 || unpaidInterest > 0 || terms.creditLine) {
    const accrued = showAmount(accruedInterest, terms.digits);
    const fee = accruedFee === 0 ? '' : `, and ${showAmount(accruedFee, terms.digits)} of fee`;
    rows.splice(last + 1, 0, {
      type: 'band',
      id: asOfBand,
      text: `${showDay(at.on)} · period end: ${accrued} accrued ${accruedText(schedule, at.on)}${fee}${reportedText(at, accruedInterest, terms.digits)}`,
    });
  }
  return rows;
}

/** The most balances that the band tells one by one. */
const mostTold = 3;

/** On what, at which rate and for how many days interest has accrued: each balance with its own. */
function accruedText(schedule: LoanSchedule, on: number): string {
  const parts = accruedOver(schedule, on);
  const days = (count: number): string => `${count} ${count === 1 ? 'day' : 'days'}`;
  if (parts.length === 0) return 'since the last payment';
  if (parts.length > mostTold) {
    return `on ${parts.length} balances over ${days(parts.reduce((sum, part) => sum + part.days, 0))}`;
  }
  const told = parts.map(
    (part) =>
      `on ${showAmount(part.balance, schedule.terms.digits)} at ${showRate(part.rate)} for ${days(part.days)}`,
  );
  return told.join(', ');
}

import { type LoanRow, loanRows, type LoanSchedule, type MinorUnits } from '@coffer/core';
import { showAmount, showDay, showRate } from '@coffer/contract';
import { linesChart } from '../../charts/lines-chart';
import { splitChart } from '../../charts/split-chart';
import type { Moment, SchedulePicture } from './schedule-model';

/**
 * The pictures of a loan: each payment split, running totals, and the share of interest in what is paid. A credit
 * line has its balance against the limit first.
 */
export function loanPictures(schedule: LoanSchedule, at: Moment): SchedulePicture[] {
  const { creditLine } = schedule.terms;
  const pictures = paymentPictures(schedule, at);
  return creditLine ? [drawnPicture(schedule, creditLine.limit, at), ...pictures] : pictures;
}

/** A payment as it is drawn: its row with all that was paid for it, on whatever days, and what was paid since the one before. */
interface DrawnPayment {
  readonly row: LoanRow;
  readonly principal: number;
  readonly interest: number;
}

/**
 * The numbered payments with what was paid for them late or early, and with extra principal paid since the one before:
 * so no bar is missing where money moved, and running totals miss none.
 */
function drawnPayments(schedule: LoanSchedule): DrawnPayment[] {
  const rows = loanRows(schedule);
  const ofDue = new Map(rows.flatMap((row) => (row.n === null ? [] : [[row.due, row.index] as const])));
  const sums = new Map<number, { principal: number; interest: number }>();
  let next = rows.findLast(({ n }) => n !== null)?.index ?? 0;
  for (const row of rows.toReversed()) {
    if (row.n !== null) next = row.index;
    const at = row.n === null ? (ofDue.get(row.due) ?? next) : row.index;
    const sum = sums.get(at) ?? { principal: 0, interest: 0 };
    sums.set(at, {
      principal: sum.principal + row.principal + row.extra,
      interest: sum.interest + Math.max(0, row.payment - row.principal),
    });
  }
  return rows.flatMap((row) => {
    const sum = sums.get(row.index);
    return row.n === null || !sum ? [] : [{ row, ...sum }];
  });
}

function paymentPictures(schedule: LoanSchedule, at: Moment): SchedulePicture[] {
  const drawn = drawnPayments(schedule);
  const paid = drawn.filter(({ row }) => row.date <= at.on).length;
  return [split, running, share].map((picture) => ({
    ...picture(drawn, paid, at, schedule.terms.digits),
    rows: drawn.map(({ row }) => row.index),
  }));
}

function drawnPicture(schedule: LoanSchedule, limit: number, at: Moment): SchedulePicture {
  const { digits } = schedule.terms;
  const rows = loanRows(schedule);
  const past = rows.filter((row) => row.date <= at.on);
  const owed = past.at(-1)?.closing ?? 0;
  const money = (minor: MinorUnits): string => showAmount(minor, digits);
  return {
    name: 'Balance and limit',
    legend: [
      { text: 'drawn', tone: 'principal' },
      { text: 'limit', tone: 'plain' },
    ],
    hint: 'upright: as of',
    words: `Drawn on ${showDay(at.on)}: ${money(owed)} of ${money(limit)}.`,
    option: linesChart(
      [
        { name: 'drawn', token: '--principal', values: rows.map((row) => row.closing), stepped: true },
        { name: 'limit', token: '--ink-2', values: rows.map(() => limit), dashed: true },
      ],
      past.length,
      { most: limit * 1.05 },
      (index) => {
        const row = rows[index];
        return row ? `${showDay(row.date)}<br>drawn ${money(row.closing)}<br>limit ${money(limit)}` : '';
      },
    ),
    rows: rows.map((row) => row.index),
  };
}

type Picture = (
  drawn: readonly DrawnPayment[],
  paid: number,
  at: Moment,
  digits: number,
) => Omit<SchedulePicture, 'rows'>;

const labelOf = ({ row }: DrawnPayment): string => `${row.n ?? ''} · ${showDay(row.due)}`;
const yearsOf = (drawn: readonly DrawnPayment[]): string[] =>
  drawn.map(({ row }) => showDay(row.due).slice(-4));

const split: Picture = (drawn, paid, at, digits) => ({
  name: 'Each payment',
  legend: [
    { text: 'principal', tone: 'principal' },
    { text: 'interest', tone: 'interest' },
  ],
  hint: 'solid up to the as-of date, pale after it',
  words: `${drawn.length} payments, each split into principal and interest; ${paid} fall on or before ${showDay(at.on)}.`,
  option: splitChart(
    drawn.map((each) => ({ label: labelOf(each), lower: each.principal, upper: each.interest })),
    paid,
    ['principal', 'interest'],
    digits,
  ),
});

function runningSums(drawn: readonly DrawnPayment[], of: 'principal' | 'interest'): number[] {
  let sum = 0;
  return drawn.map((each) => (sum += each[of]));
}

const running: Picture = (drawn, paid, at, digits) => {
  const [principal, interest] = [runningSums(drawn, 'principal'), runningSums(drawn, 'interest')];
  const money = (minor: MinorUnits | undefined): string => showAmount(minor ?? 0, digits);
  const so = Math.max(0, paid - 1);
  return {
    name: 'Running totals',
    legend: [
      { text: 'principal paid', tone: 'principal' },
      { text: 'interest paid', tone: 'interest' },
      { text: 'still owed', tone: 'plain' },
    ],
    hint: 'upright: as of',
    words: `Principal and interest paid so far, payment by payment; by ${showDay(at.on)} principal ${paid === 0 ? '0' : money(principal[so])} and interest ${paid === 0 ? '0' : money(interest[so])}.`,
    option: linesChart(
      [
        { name: 'principal paid', token: '--principal', values: principal },
        { name: 'interest paid', token: '--interest-fill', values: interest },
        { name: 'still owed', token: '--ink-2', values: drawn.map(({ row }) => row.closing), dashed: true },
      ],
      paid,
      {},
      (index) => {
        const each = drawn[index];
        if (!each) return '';
        return `${labelOf(each)}<br>principal paid ${money(principal[index])}<br>interest paid ${money(interest[index])}<br>still owed ${money(each.row.closing)}`;
      },
    ),
  };
};

const share: Picture = (drawn, paid) => {
  const percent = (interest: number, whole: number): number => (whole === 0 ? 0 : (100 * interest) / whole);
  const each = drawn.map(({ principal, interest }) => percent(interest, principal + interest));
  const [principal, interest] = [runningSums(drawn, 'principal'), runningSums(drawn, 'interest')];
  const soFar = drawn.map((_, index) =>
    percent(interest[index] ?? 0, (interest[index] ?? 0) + (principal[index] ?? 0)),
  );
  const text = (value: number | undefined): string => showRate(`${(value ?? 0).toFixed(1)}%`);
  return {
    name: 'Share of interest',
    legend: [
      { text: 'in each payment', tone: 'interest' },
      { text: 'in all paid so far', tone: 'plain' },
    ],
    hint: 'upright: as of',
    words: `Share of interest in each payment, from ${text(each[0])} to ${text(each.at(-1))}; in all that is paid ${text(soFar.at(-1))}.`,
    option: linesChart(
      [
        { name: 'in each payment', token: '--interest-fill', values: each },
        { name: 'in all paid so far', token: '--ink-2', values: soFar, dashed: true },
      ],
      paid,
      { most: 100, scale: { years: yearsOf(drawn), unit: '%' } },
      (index) => {
        const payment = drawn[index];
        if (!payment) return '';
        return `${labelOf(payment)}<br>interest ${text(each[index])} of the payment<br>${text(soFar[index])} of all paid by then`;
      },
    ),
  };
};

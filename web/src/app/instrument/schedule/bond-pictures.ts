import { type BondRow, type BondSchedule, type MinorUnits } from '@coffer/core';
import { showAmount, showDay } from '@coffer/contract';
import { linesChart } from '../../charts/lines-chart';
import { splitChart } from '../../charts/split-chart';
import type { Moment, SchedulePicture } from './schedule-model';

/** The pictures of a bond: expense of each coupon period split, and the carrying amount on its way to face. */
export function bondPictures(schedule: BondSchedule, at: Moment): SchedulePicture[] {
  return [expensePicture(schedule, at), carryingPicture(schedule, at)];
}

/** What amortizes in a bond, in a word. */
export function amortizedWord({ rows, terms }: BondSchedule): string {
  const premium = (rows[0]?.unamortized ?? 0) < 0;
  if (premium) return 'premium amortized';
  return terms.issueCosts ? 'discount and costs amortized' : 'discount amortized';
}

function indexed(schedule: BondSchedule): { row: BondRow; index: number }[] {
  return schedule.rows.map((row, index) => ({ row, index }));
}

function expensePicture(schedule: BondSchedule, at: Moment): SchedulePicture {
  const { terms } = schedule;
  const coupons = indexed(schedule).filter(({ row }) => row.n > 0);
  const paid = coupons.filter(({ row }) => row.due <= at.on).length;
  const word = amortizedWord(schedule);
  const first = schedule.rows[0]?.closing ?? 0;
  // With a premium, expense and the premium amortized make up the coupon; otherwise coupon and amortization the expense.
  const bars = coupons.map(({ row }) => ({
    label: `${row.n} · ${showDay(row.due)}`,
    lower: row.amortization < 0 ? row.expense : row.expense - row.amortization,
    upper: Math.abs(row.amortization),
    line: row.closing,
  }));
  const lower = word === 'premium amortized' ? 'expense' : terms.zeroCoupon ? 'no coupon' : 'cash coupon';
  return {
    name: 'Expense of each period',
    hint: 'solid up to the as-of date, pale after it',
    legend: [
      ...(terms.zeroCoupon ? [] : [{ text: lower, tone: 'principal' as const }]),
      { text: word, tone: 'interest' },
      { text: 'carrying amount', tone: 'flag' },
    ],
    words: `Interest expense of ${coupons.length} coupon periods, and the carrying amount from ${showAmount(first, terms.digits)} to ${showAmount(terms.face, terms.digits)}.`,
    option: splitChart(bars, paid, [lower, word], terms.digits),
    rows: coupons.map(({ index }) => index),
  };
}

function carryingPicture(schedule: BondSchedule, at: Moment): SchedulePicture {
  const { digits } = schedule.terms;
  const all = indexed(schedule);
  const past = all.filter(({ row }) => row.due <= at.on);
  const money = (minor: MinorUnits): string => showAmount(minor, digits);
  const values = all.flatMap(({ row }) => [row.closing, row.faceAfter]);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max(1, (high - low) * 0.08);
  const now = past.at(-1)?.row.closing ?? 0;
  return {
    name: 'Carrying amount to face',
    hint: 'upright: as of',
    legend: [
      { text: 'carrying amount', tone: 'principal' },
      { text: 'face outstanding', tone: 'plain' },
    ],
    words: `The carrying amount on its way to face; ${money(now)} after the last row before ${showDay(at.on)}.`,
    option: linesChart(
      [
        { name: 'carrying amount', token: '--principal', values: all.map(({ row }) => row.closing) },
        {
          name: 'face outstanding',
          token: '--ink-2',
          values: all.map(({ row }) => row.faceAfter),
          dashed: true,
        },
      ],
      past.length,
      { least: Math.max(0, low - room), most: high + room },
      (index) => {
        const row = all[index]?.row;
        if (!row) return '';
        return `${showDay(row.due)}<br>carrying ${money(row.closing)}<br>face ${money(row.faceAfter)}`;
      },
    ),
    rows: all.map(({ index }) => index),
  };
}

import { formatDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { exactCoupon, roundForBond, type BondRow, type BondSchedule } from '../bond/bond-schedule.ts';
import { formatPercent } from '../rates/annual-rate.ts';
import { ratio } from '../money/ratio.ts';
import type { ExplainStep, Explanation } from './explanation.ts';
import { roundingText, unroundedText } from './explain-loan.ts';

/** The columns of a bond's schedule that hold amounts. */
export type BondFigure = 'opening' | 'coupon' | 'expense' | 'amortization' | 'unamortized' | 'closing';

/** How a figure in a bond's schedule is made. Throws `RangeError` outside the schedule. */
export function explainBondFigure(schedule: BondSchedule, index: number, figure: BondFigure): Explanation {
  const row = schedule.rows[index];
  if (!row) throw new RangeError(`The schedule has no row ${index}.`);
  const name = row.n === 0 ? 'issue' : `coupon ${row.n}`;
  const cell = (column: BondFigure, label: string): ExplainStep => ({
    label,
    amount: row[column],
    link: { to: 'row', row: index, column },
  });
  const { terms } = schedule;
  if (row.n === 0) return issueFigure(schedule, row, figure);
  switch (figure) {
    case 'opening':
      return {
        title: `Opening carrying amount, ${name}`,
        amount: row.opening,
        steps: [
          {
            label: 'Closing of the row before',
            amount: row.opening,
            link: { to: 'row', row: index - 1, column: 'closing' },
          },
        ],
      };
    case 'coupon':
      return couponFigure(schedule, row, name);
    case 'expense':
      return expenseFigure(schedule, row, name, index);
    case 'amortization':
      return {
        title: `Amortization, ${name}`,
        amount: row.amortization,
        steps: [cell('expense', 'Interest expense'), cell('coupon', '− coupon')],
      };
    case 'unamortized':
      return {
        title: `Unamortized, ${name}`,
        amount: row.unamortized,
        steps: [
          { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
          cell('closing', '− carrying amount'),
        ],
      };
    case 'closing':
      return {
        title: `Closing carrying amount, ${name}`,
        amount: row.closing,
        steps: [cell('opening', 'Opening'), cell('amortization', '+ amortization')],
      };
  }
}

function issueFigure(schedule: BondSchedule, row: BondRow, figure: BondFigure): Explanation {
  const { terms } = schedule;
  const percent = schedule.price.times(100).toSignificantDigits(14).toFixed();
  const exact = schedule.price.times(terms.face).div(10 ** terms.digits);
  if (figure === 'unamortized') {
    return {
      title: 'Discount or premium on issue',
      amount: row.unamortized,
      steps: [
        { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
        { label: '− proceeds', amount: schedule.proceeds },
      ],
    };
  }
  if (figure === 'coupon' || figure === 'expense' || figure === 'amortization') {
    const steps = [{ label: 'On issue nothing is paid, charged or amortized yet', text: '' }];
    return { title: 'On issue', amount: 0, steps };
  }
  return {
    title: 'Proceeds on issue',
    amount: schedule.proceeds,
    steps: [
      { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
      { label: '× price, percent of face', text: percent, link: { to: 'terms', key: 'price' } },
    ],
    unrounded: exact.toDecimalPlaces(terms.digits + 8).toFixed(),
    rounding: roundingText(terms),
  };
}

function couponFigure(schedule: BondSchedule, row: BondRow, name: string): Explanation {
  const { terms } = schedule;
  const period = schedule.periods[row.n - 1] as BondSchedule['periods'][number];
  const exact = exactCoupon(terms, period);
  const share = ratio(BigInt(period.years.num), BigInt(period.years.den));
  return {
    title: `Coupon, ${name}`,
    amount: roundForBond(terms, exact),
    steps: [
      { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
      { label: '× coupon rate', text: formatPercent(terms.couponRate), link: { to: 'terms', key: 'coupon' } },
      {
        label: `× share of the year (${dayCounts[terms.dayCount].title})`,
        text: `${share.num}/${share.den}`,
        link: { to: 'terms', key: 'dayCount' },
      },
      { label: 'Period', text: `${formatDay(period.from)} to ${formatDay(period.to)}` },
    ],
    unrounded: unroundedText(exact, terms.digits),
    rounding: roundingText(terms),
  };
}

function expenseFigure(schedule: BondSchedule, row: BondRow, name: string, index: number): Explanation {
  const { terms } = schedule;
  const title = `Interest expense, ${name}`;
  const byRate = roundForBond(terms, row.exactExpense);
  const steps: ExplainStep[] = [
    {
      label: 'Opening carrying amount',
      amount: row.opening,
      link: { to: 'row', row: index, column: 'opening' },
    },
    {
      label: `× effective rate a year, compounded ${terms.every === 'year' ? 'yearly' : 'half-yearly'}`,
      text: `${schedule.effectiveRate.times(100).toSignificantDigits(14).toFixed()}%`,
      link: { to: 'terms', key: 'yield' },
    },
  ];
  if (row.n === schedule.rows.length - 1 && byRate !== row.expense) {
    steps.push({ label: 'By the effective rate', amount: byRate });
    steps.push({
      label: '+ difference left to the last row, which lands on face',
      amount: row.expense - byRate,
    });
  }
  return {
    title,
    amount: row.expense,
    steps,
    unrounded: unroundedText(row.exactExpense, terms.digits),
    rounding: roundingText(terms),
  };
}

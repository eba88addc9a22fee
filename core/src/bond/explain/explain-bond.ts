import { bondCell, type BondFigure } from './bond-figure.ts';
import { toMinor } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import { costsInRate, periodRate } from '../price/bond-rates.ts';
import {
  discountAtIssue,
  lastCouponRow,
  type BondRow,
  type BondSchedule,
} from '../schedule/bond-schedule.ts';
import type { BondTerms, CouponFrequency } from '../terms/bond-terms.ts';
import type { CouponPeriod } from '../terms/coupon-periods.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import { ratio, ratioToDecimal } from '../../money/ratio.ts';
import type { ExplainStep, Explanation } from '../../explain/explanation.ts';
import { roundingText, unroundedText } from '../../explain/rounding-words.ts';
import { redemptionFigure } from './explain-redemption.ts';
import type { Count } from '../../units/units.ts';

const compounded: Readonly<Record<CouponFrequency, string>> = {
  month: 'monthly',
  quarter: 'quarterly',
  'half-year': 'half-yearly',
  year: 'yearly',
};

/**
 * How a figure in a bond's schedule is made. Throws `RangeError` outside the schedule.
 *
 * @example
 * explainBondFigure(bond, 1, 'expense').amount // 461_400
 */
export function explainBondFigure(schedule: BondSchedule, index: Count, figure: BondFigure): Explanation {
  const row = schedule.rows[index];
  if (!row) throw new RangeError(`The schedule has no row ${index}.`);
  if (row.kind === 'issue') return issueFigure(schedule, row, figure);
  const shared = sharedFigure(schedule, row, index, figure);
  if (shared) return shared;
  return row.kind === 'redemption'
    ? redemptionFigure(schedule, row, index, figure)
    : couponFigure(schedule, row, index, figure);
}

function nameOf(row: BondRow): string {
  return row.kind === 'redemption' ? `redemption of ${formatDay(row.due)}` : `coupon ${row.n}`;
}

/** Figures that are made alike in every row after the issue. */
function sharedFigure(
  schedule: BondSchedule,
  row: BondRow,
  index: Count,
  figure: BondFigure,
): Explanation | undefined {
  const name = nameOf(row);
  const cell = (column: BondFigure, label: string): ExplainStep => bondCell(row, index, column, label);
  const leaves = row.retired === 0 ? [] : [cell('retired', '− carrying amount retired')];
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
    case 'unamortized':
      return {
        title: `Unamortized, ${name}`,
        amount: row.unamortized,
        steps: [
          { label: 'Face outstanding', amount: row.faceAfter, link: { to: 'terms', key: 'face' } },
          cell('closing', '− carrying amount'),
          ...(schedule.terms.issueCosts
            ? [{ label: 'Of it issue costs', amount: row.unamortizedCosts }]
            : []),
        ],
      };
    case 'closing':
      return {
        title: `Closing carrying amount, ${name}`,
        amount: row.closing,
        steps: [cell('opening', 'Opening'), cell('amortization', '+ amortization'), ...leaves],
      };
    default:
      return undefined;
  }
}

function issueFigure(schedule: BondSchedule, row: BondRow, figure: BondFigure): Explanation {
  const { terms, rates, accruedReceived, proceeds } = schedule;
  const percent = rates.price.times(100).toSignificantDigits(14).toFixed();
  const exact = rates.price.times(terms.face).div(10 ** terms.digits);
  const costs = terms.issueCosts?.amount ?? 0;
  const costStep: ExplainStep[] =
    costs === 0 ? [] : [{ label: '− issue costs', amount: costs, link: { to: 'terms', key: 'issueCosts' } }];
  if (figure === 'unamortized') {
    return {
      title: 'Discount or premium and costs on issue',
      amount: row.unamortized,
      steps: [
        { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
        { label: '− price received for it', amount: proceeds - accruedReceived },
        ...(costs === 0 ? [] : [{ label: '+ issue costs', amount: costs }]),
      ],
    };
  }
  if (figure !== 'opening' && figure !== 'closing') {
    const steps = [{ label: 'On issue nothing is paid, charged or amortized yet', text: '' }];
    return { title: 'On issue', amount: row[figure], steps };
  }
  return {
    title: 'Carrying amount on issue',
    amount: row.closing,
    steps: [
      { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
      { label: '× price, percent of face', text: percent, link: { to: 'terms', key: 'price' } },
      ...costStep,
      ...(accruedReceived === 0
        ? []
        : [{ label: 'Coupon accrued came in besides, and is owed apart', amount: accruedReceived }]),
    ],
    unrounded: exact.toDecimalPlaces(terms.digits + 8).toFixed(),
    rounding: roundingText(terms),
  };
}

function couponFigure(schedule: BondSchedule, row: BondRow, index: number, figure: BondFigure): Explanation {
  const cell = (column: BondFigure, label: string): ExplainStep => bondCell(row, index, column, label);
  const received = row.received === 0 ? [] : [cell('received', '+ accrued coupon received at issue')];
  switch (figure) {
    case 'coupon':
      return couponPaid(schedule, row);
    case 'expense':
      return expenseFigure(schedule, row, index);
    case 'amortization':
      return {
        title: `Amortization, ${nameOf(row)}`,
        amount: row.amortization,
        steps: [cell('expense', 'Interest expense'), cell('coupon', '− coupon'), ...received],
      };
    case 'costsAmortized':
      return costsFigure(schedule, row, index);
    case 'received':
      return {
        title: 'Accrued coupon received at issue',
        amount: row.received,
        steps: [
          {
            label: `Accrued from ${formatDay(schedule.periods[0]?.from ?? 0)} to the issue`,
            amount: row.received,
            link: { to: 'terms', key: 'dated' },
          },
          { label: 'Owed since; this coupon settles it, so it is no expense', text: '' },
        ],
      };
    case 'gain':
      return {
        title: `Gain or loss, ${nameOf(row)}`,
        amount: row.gain,
        steps: [cell('retired', 'Carrying amount retired'), cell('paid', '− paid')],
      };
    default:
      return {
        title: `Instalment with coupon ${row.n}`,
        amount: row[figure],
        steps:
          row.paid === 0
            ? [{ label: 'No face falls due with this coupon', text: '' }]
            : [
                {
                  label: 'Face due by agreement',
                  amount: row.paid,
                  link: { to: 'terms', key: 'redemptions' },
                },
              ],
      };
  }
}

function couponPaid(schedule: BondSchedule, row: BondRow): Explanation {
  const { terms } = schedule;
  const period = schedule.periods[row.n - 1] as BondSchedule['periods'][number];
  const exact = basisOf(schedule, row).amounts.exactCoupon;
  const share = ratio(BigInt(period.years.num), BigInt(period.years.den));
  return {
    title: `Coupon, ${nameOf(row)}`,
    amount: row.coupon,
    steps: [
      { label: 'Face outstanding', amount: row.faceBefore, link: { to: 'terms', key: 'face' } },
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

function expenseFigure(schedule: BondSchedule, row: BondRow, index: number): Explanation {
  const { terms, rates } = schedule;
  const cell = (column: BondFigure, label: string): ExplainStep => bondCell(row, index, column, label);
  const byRate = toMinor(terms, row.exactExpense);
  const percent = (rate: typeof rates.effective): string =>
    `${rate.times(100).toSignificantDigits(14).toFixed()}%`;
  const steps: ExplainStep[] = [];
  if (terms.method === 'straight-line') {
    steps.push(cell('coupon', 'Coupon'));
    if (row.received !== 0) steps.push(cell('received', '− accrued coupon received at issue'));
    steps.push({
      label: '+ an equal part of the discount, the premium and the costs',
      amount: row.amortization,
    });
  } else {
    const apart = costsInRate(terms) ? 0 : row.unamortizedCosts + row.costsAmortized;
    steps.push(cell('opening', 'Opening carrying amount'));
    if (apart !== 0) steps.push({ label: '+ issue costs, amortized apart', amount: apart });
    if (row.received !== 0) steps.push(cell('received', '+ accrued coupon received at issue'));
    steps.push({
      label: `× effective rate of the period${costsInRate(terms) ? ', net of costs' : ''}`,
      text: ofPeriod(terms, schedule.periods[row.n - 1] as CouponPeriod, rates),
      link: { to: 'terms', key: 'yield' },
    });
    steps.push({
      label: `That is ${percent(rates.effective)} a year, compounded ${compounded[terms.every]}`,
      text: '',
    });
    if (apart !== 0) steps.push(cell('costsAmortized', '+ issue costs amortized'));
  }
  if (row === lastCouponRow(schedule) && byRate !== row.expense) {
    steps.push({ label: 'That comes to', amount: byRate });
    steps.push({
      label: '+ difference left to the last row, which lands on face',
      amount: row.expense - byRate,
    });
  }
  return {
    title: `Interest expense, ${nameOf(row)}`,
    amount: row.expense,
    steps,
    unrounded: unroundedText(row.exactExpense, terms.digits),
    rounding: roundingText(terms),
  };
}

/** The effective rate of one coupon period, or of what was left of it at issue, in percent. */
function ofPeriod(terms: BondTerms, period: CouponPeriod, { effective }: BondSchedule['rates']): string {
  const { num, den } = periodRate(terms, { period }, effective);
  return `${ratioToDecimal(ratio(num * 100n, den), 14)}%`;
}

function costsFigure(schedule: BondSchedule, row: BondRow, index: number): Explanation {
  const { terms, rates } = schedule;
  const title = `Issue costs amortized, ${nameOf(row)}`;
  if (!costsInRate(terms)) {
    return {
      title,
      amount: row.costsAmortized,
      steps: [
        {
          label: 'An equal part of the issue costs',
          amount: row.costsAmortized,
          link: { to: 'terms', key: 'issueCosts' },
        },
        { label: 'Issue costs', amount: terms.issueCosts?.amount ?? 0 },
      ],
    };
  }
  const ofPrice = rates.ofPrice.times(100).toSignificantDigits(14).toFixed();
  return {
    title,
    amount: row.costsAmortized,
    steps: [
      bondCell(row, index, 'amortization', 'Amortized in all, at the rate net of costs'),
      {
        label: `− discount or premium, at the rate of the price, ${ofPrice}%`,
        amount: row.amortization - row.costsAmortized,
      },
    ],
  };
}

/** What the coupon of a row accrued on: the last basis of its period. */
function basisOf(schedule: BondSchedule, row: BondRow): BondSchedule['bases'][number] {
  return schedule.bases.findLast(({ n }) => n === row.n) as BondSchedule['bases'][number];
}

/**
 * How the discount or premium at issue is made.
 *
 * @example
 * explainDiscountAtIssue(bond).amount // 772_200
 */
export function explainDiscountAtIssue(schedule: BondSchedule): Explanation {
  const { terms, proceeds, accruedReceived } = schedule;
  const discount = discountAtIssue(schedule);
  return {
    title: discount < 0 ? 'Premium at issue' : 'Discount at issue',
    amount: Math.abs(discount),
    steps: [
      { label: 'Face', amount: terms.face, link: { to: 'terms', key: 'face' } },
      {
        label: '− price received for it',
        amount: proceeds - accruedReceived,
        link: { to: 'terms', key: 'price' },
      },
    ],
  };
}

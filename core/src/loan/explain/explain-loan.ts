import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { roundedTo, roundingText, unroundedText } from '../../explain/rounding-words.ts';
import { toMinor } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import { exactInterest, type InterestSegment } from '../interest/interest-segment.ts';
import { rowSegments } from '../interest/loan-interest.ts';
import {
  chargesInterest,
  isFirstCharge,
  lastRowOn,
  loanRow,
  type LoanRow,
  type LoanSchedule,
} from '../schedule/loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { unusedFeeOf } from '../../credit-line/unused-fee.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import { growsOnInterest } from '../../rates/compounding.ts';
import { ratio, ratioToDecimal, type Ratio } from '../../money/ratio.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { explainPayment } from './explain-payment.ts';
import type { ExplainStep, Explanation } from '../../explain/explanation.ts';
import type { Count } from '../../units/units.ts';

/** The columns of a loan's schedule that hold amounts. */
export type LoanFigure =
  | 'opening'
  | 'payment'
  | 'interest'
  | 'principal'
  | 'extra'
  | 'added'
  | 'closing'
  | 'unpaid'
  | 'overpaid'
  | 'fee';

/** The steps of interest over segments: balance, rate, days and share of the year of each. */
export function segmentSteps(schedule: LoanSchedule, segments: readonly InterestSegment[]): ExplainStep[] {
  const { terms, rates } = schedule;
  const several = segments.length > 1;
  const grows = growsOnInterest(terms.compounding);
  return segments.flatMap((segment): ExplainStep[] => {
    const whole = !several && terms.dayCount === 'even-periods';
    const share = ratio(BigInt(segment.years.num), BigInt(segment.years.den));
    const period = `${formatDay(segment.from)} to ${formatDay(segment.to)}`;
    const because = rates.length > 1 ? ` (${rates[segment.rate]?.because})` : '';
    // Where interest compounds within a period the growth is the factor, and rate and time are what it comes of.
    const times = grows ? '' : '× ';
    const named = (label: string): string => (grows ? label.charAt(0).toUpperCase() + label.slice(1) : label);
    return [
      { label: several ? `Balance, ${period}` : 'Balance', amount: shownMinor(segment.balance) },
      ...(segment.onInterest.num > 0n
        ? [{ label: '+ interest of the days before', text: unroundedText(segment.onInterest, terms.digits) }]
        : []),
      ...(grows
        ? [
            {
              label: `× growth, compounded ${compoundingInWords(terms.compounding)}`,
              text: ratioToDecimal(segment.growth, 18),
              link: { to: 'terms', key: 'compounding' } as const,
            },
          ]
        : []),
      {
        label: `${times}${named('annual rate')}`,
        text: `${formatPercent(segment.annualRate)}${because}`,
        link: { to: 'terms', key: 'rate' },
      },
      {
        label: `${times}${named('share of the year')} (${dayCounts[terms.dayCount].title})`,
        text: `${share.num}/${share.den}`,
        link: { to: 'terms', key: 'dayCount' },
      },
      ...(whole ? [] : [{ label: 'Days counted', text: `${segment.days}, ${period}` }]),
    ];
  });
}

/** How a rate compounds, in words. */
export function compoundingInWords(compounding: LoanTerms['compounding']): string {
  return compoundingWords[compounding];
}

const compoundingWords = {
  'each-payment': 'with each payment',
  annual: 'yearly',
  'half-yearly': 'half-yearly',
  quarterly: 'quarterly',
  monthly: 'monthly',
  daily: 'daily',
  continuous: 'continuously',
  simple: 'never (simple interest)',
} as const;

function shownMinor(exact: Ratio): number {
  return Number(roundRatio(exact, 'away-from-zero'));
}

/**
 * How a figure in a loan's schedule is made. Throws `RangeError` outside the schedule.
 *
 * @example
 * explainLoanFigure(loan, 0, 'interest').amount // 1_000
 */
export function explainLoanFigure(schedule: LoanSchedule, index: Count, figure: LoanFigure): Explanation {
  const row = loanRow(schedule, index);
  const name = row.n === null ? `on ${formatDay(row.date)}` : `payment ${row.n}`;
  const cell = (column: LoanFigure, label: string): ExplainStep => ({
    label,
    amount: row[column],
    link: { to: 'row', row: index, column },
  });
  switch (figure) {
    case 'interest':
      return interestFigure(schedule, row, name);
    case 'payment':
      return explainPayment(schedule, row, name);
    case 'opening':
      return {
        title: `Opening balance, ${name}`,
        amount: row.opening,
        steps: [openingStep(schedule, index)],
      };
    case 'principal': {
      const before = index === 0 ? 0 : (schedule.unpaid[index - 1] as number);
      const paid = row.payment - row.principal;
      const interest =
        before === 0 && row.unpaid === 0 && row.added === 0
          ? cell('interest', '− interest')
          : { label: '− interest paid, arrears first', amount: paid };
      return {
        title: `Principal, ${name}`,
        amount: row.principal,
        steps: [cell('payment', 'Payment'), interest],
      };
    }
    case 'extra':
      return {
        title: `Extra principal, ${name}`,
        amount: row.extra,
        steps: [
          {
            label: 'Recorded or planned in the events',
            amount: row.extra,
            link: { to: 'terms', key: 'events' },
          },
        ],
      };
    case 'closing':
      return {
        title: `Closing balance, ${name}`,
        amount: row.closing,
        steps: [
          cell('opening', 'Opening'),
          ...(row.added > 0 ? [cell('added', row.kind === 'draw' ? '+ drawn' : '+ interest added')] : []),
          cell('principal', '− principal'),
          cell('extra', '− extra principal'),
        ],
      };
    case 'added':
      return addedFigure(schedule, row, name);
    case 'fee':
      return feeFigure(schedule, row, name);
    case 'overpaid':
      return { title: `Overpaid, ${name}`, amount: row.overpaid, steps: overpaidSteps(schedule, row) };
    case 'unpaid': {
      const before = index === 0 ? 0 : (schedule.unpaid[index - 1] as number);
      return {
        title: `Interest unpaid, ${name}`,
        amount: row.unpaid,
        steps: [
          { label: 'Unpaid before', amount: before },
          cell('interest', '+ interest charged'),
          ...(row.fee > 0 ? [cell('fee', '+ fee charged')] : []),
          ...(row.added > 0 && row.kind !== 'draw' ? [cell('added', '− added to the balance')] : []),
          {
            label: row.fee > 0 ? '− interest and fee paid' : '− interest paid',
            amount: row.payment - row.principal,
          },
        ],
      };
    }
  }
}

function openingStep(schedule: LoanSchedule, index: number): ExplainStep {
  if (index === 0) {
    return { label: 'Amount borrowed', amount: schedule.terms.amount, link: { to: 'terms', key: 'amount' } };
  }
  const before = schedule.closing[index - 1] as number;
  return {
    label: 'Closing balance of the row before',
    amount: before,
    link: { to: 'row', row: index - 1, column: 'closing' },
  };
}

function interestFigure(schedule: LoanSchedule, row: LoanRow, name: string): Explanation {
  const { terms } = schedule;
  if (!chargesInterest(schedule, row.index)) {
    return {
      title: `Interest, ${name}`,
      amount: 0,
      steps: [{ label: 'Interest is charged on due dates; this row only moves principal', text: '' }],
    };
  }
  const segments = rowSegments(schedule, row.index);
  const exact = exactInterest(segments);
  const rounded = toMinor(terms, exact);
  const steps = segmentSteps(schedule, segments);
  const first = steps[0];
  if (first && segments.length === 1) {
    steps[0] = { ...first, label: 'Opening balance', link: { to: 'row', row: row.index, column: 'opening' } };
  }
  const broughtIn = terms.takenOn && isFirstCharge(schedule, row.index) ? terms.takenOn.accruedInterest : 0;
  if (broughtIn > 0) {
    steps.push({
      label: '+ accrued before the loan was taken on',
      amount: broughtIn,
      link: { to: 'terms', key: 'takenOn' },
    });
  }
  return {
    title: `Interest, ${name}`,
    amount: rounded + broughtIn,
    steps,
    unrounded: unroundedText(exact, terms.digits),
    rounding: roundingText(terms),
  };
}

function addedFigure(schedule: LoanSchedule, row: LoanRow, name: string): Explanation {
  if (row.kind === 'draw') {
    const steps = [
      { label: 'Recorded in the events', amount: row.added, link: { to: 'terms', key: 'events' } as const },
    ];
    return { title: `Drawn, ${name}`, amount: row.added, steps };
  }
  const before = row.index === 0 ? 0 : (schedule.unpaid[row.index - 1] as number);
  return {
    title: `Interest added to the balance, ${name}`,
    amount: row.added,
    steps: [
      {
        label: 'Interest charged',
        amount: row.interest,
        link: { to: 'row', row: row.index, column: 'interest' },
      },
      ...(before > 0 ? [{ label: '+ interest unpaid before', amount: before }] : []),
      ...(row.payment > 0 ? [{ label: '− interest paid', amount: row.payment - row.principal }] : []),
      ...(row.unpaid > 0 ? [{ label: '− still unpaid', amount: row.unpaid }] : []),
    ],
  };
}

function feeFigure(schedule: LoanSchedule, row: LoanRow, name: string): Explanation {
  const { creditLine, digits, rounding } = schedule.terms;
  const title = `Unused fee, ${name}`;
  if (!creditLine || row.fee === 0) {
    return { title, amount: row.fee, steps: [{ label: 'No fee is charged with this row', text: '' }] };
  }
  const segments = rowSegments(schedule, row.index);
  const exact = unusedFeeOf(creditLine.limit, creditLine.unusedFee, segments);
  return {
    title,
    amount: Number(roundRatio(exact, rounding.ties)),
    steps: segments.flatMap((segment) => [
      {
        label: `Unused, ${formatDay(segment.from)} to ${formatDay(segment.to)}`,
        amount: creditLine.limit - shownMinor(segment.balance),
      },
      { label: '× share of the year', text: `${segment.years.num}/${segment.years.den}` },
      {
        label: '× annual fee',
        text: formatPercent(creditLine.unusedFee),
        link: { to: 'terms', key: 'unusedFee' } as const,
      },
    ]),
    unrounded: unroundedText(exact, digits),
    rounding: roundedTo('cent', rounding.ties),
  };
}

/** The last row on or before a day, for linking a figure as of that day; −1 before the first. */
export function rowAsOf(schedule: LoanSchedule, on: CalendarDay): Count {
  return lastRowOn(schedule.date, schedule.length, on);
}

function overpaidSteps(schedule: LoanSchedule, row: LoanRow): ExplainStep[] {
  const before = row.index === 0 ? 0 : (schedule.overpaid[row.index - 1] as number);
  const change = row.overpaid - before;
  const less = row.kind === 'overpayment-returned' ? '− came back' : '− settled this payment';
  return [
    { label: 'Overpaid before', amount: before },
    change < 0
      ? { label: less, amount: 0 - change }
      : { label: '+ paid beyond all that was owed', amount: change },
  ];
}

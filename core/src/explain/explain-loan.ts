import { formatDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { interestOf, paymentCycle, rowSegments, type InterestSegment } from '../loan/loan-interest.ts';
import { levelPaymentExact } from '../loan/level-payment.ts';
import { lastRowOn, loanRow, type LoanRow, type LoanSchedule } from '../loan/loan-schedule.ts';
import type { LoanTerms } from '../loan/loan-terms.ts';
import { PeriodGrowths } from '../loan/period-growths.ts';
import { cycleDates } from '../calendar/payment-dates.ts';
import { formatPercent } from '../rates/annual-rate.ts';
import { ratio, ratioToDecimal, type Ratio } from '../money/ratio.ts';
import type { ExplainStep, Explanation } from './explanation.ts';

/** The columns of a loan's schedule that hold amounts. */
export type LoanFigure = 'opening' | 'payment' | 'interest' | 'principal' | 'extra' | 'closing' | 'unpaid';

/** An exact amount in minor units as an unrounded decimal in currency units. */
export function unroundedText(exact: Ratio, digits: number): string {
  return ratioToDecimal(ratio(exact.num, exact.den * 10n ** BigInt(digits)), digits + 8);
}

/** How interest is rounded, in words. */
export function roundingText(terms: { rounding: { interest: string; ties: string } }): string {
  const to = terms.rounding.interest === 'unit' ? 'to the whole unit' : 'to the cent';
  return `${to}, ${terms.rounding.ties === 'even' ? 'a half to the even neighbour' : 'halves up'}`;
}

/** The steps of interest over segments: balance, rate, days and share of the year of each. */
export function segmentSteps(terms: LoanTerms, segments: readonly InterestSegment[]): ExplainStep[] {
  const several = segments.length > 1;
  return segments.flatMap((segment): ExplainStep[] => {
    const whole = !several && terms.dayCount === 'even-periods';
    const share = ratio(BigInt(segment.years.num), BigInt(segment.years.den));
    const period = `${formatDay(segment.from)} to ${formatDay(segment.to)}`;
    return [
      { label: several ? `Balance, ${period}` : 'Balance', amount: segment.balance },
      {
        label: '× annual rate',
        text: formatPercent(segment.annualRate),
        link: { to: 'terms', key: 'rate' },
      },
      {
        label: `× share of the year (${dayCounts[terms.dayCount].title})`,
        text: `${share.num}/${share.den}`,
        link: { to: 'terms', key: 'dayCount' },
      },
      ...(whole ? [] : [{ label: 'Days counted', text: `${segment.days}, ${period}` }]),
    ];
  });
}

/** How a figure in a loan's schedule is made. Throws `RangeError` outside the schedule. */
export function explainLoanFigure(schedule: LoanSchedule, index: number, figure: LoanFigure): Explanation {
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
      return paymentFigure(schedule, row, name);
    case 'opening':
      return {
        title: `Opening balance, ${name}`,
        amount: row.opening,
        steps: [openingStep(schedule, index)],
      };
    case 'principal': {
      const before = index === 0 ? 0 : (schedule.unpaid[index - 1] as number);
      const paid = row.interest + before - row.unpaid;
      const interest =
        before === 0 && row.unpaid === 0
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
          cell('principal', '− principal'),
          cell('extra', '− extra principal'),
        ],
      };
    case 'unpaid': {
      const before = index === 0 ? 0 : (schedule.unpaid[index - 1] as number);
      return {
        title: `Interest unpaid, ${name}`,
        amount: row.unpaid,
        steps: [
          { label: 'Unpaid before', amount: before },
          cell('interest', '+ interest charged'),
          { label: '− interest paid', amount: row.interest + before - row.unpaid },
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
  if (row.n === null) {
    return {
      title: `Interest, ${name}`,
      amount: 0,
      steps: [{ label: 'Interest is charged on due dates; this row only moves principal', text: '' }],
    };
  }
  const segments = rowSegments(schedule, row.index);
  const { exact, rounded } = interestOf(terms, segments);
  const steps = segmentSteps(terms, segments);
  const first = steps[0];
  if (first && segments.length === 1) {
    steps[0] = { ...first, label: 'Opening balance', link: { to: 'row', row: row.index, column: 'opening' } };
  }
  return {
    title: `Interest, ${name}`,
    amount: rounded,
    steps,
    unrounded: unroundedText(exact, terms.digits),
    rounding: roundingText(terms),
  };
}

function paymentFigure(schedule: LoanSchedule, row: LoanRow, name: string): Explanation {
  const { terms } = schedule;
  const title = `Payment, ${name}`;
  const recorded = terms.recorded.find((payment) => payment.due === row.due);
  if (recorded) {
    const steps: ExplainStep[] = [
      {
        label: `Recorded: paid on ${formatDay(recorded.on)}`,
        amount: recorded.amount,
        link: { to: 'terms', key: 'events' },
      },
    ];
    if (row.extra > 0) steps.push({ label: '− beyond the schedule, to extra principal', amount: row.extra });
    return { title, amount: row.payment, steps };
  }
  const phase = terms.phases[schedule.phase[row.index] as number];
  const agreed = schedule.phasePayments[schedule.phase[row.index] as number] ?? 0;
  if (row.closing === 0 && row.payment !== agreed) {
    const steps: ExplainStep[] = [
      {
        label: 'All that is left: opening',
        amount: row.opening,
        link: { to: 'row', row: row.index, column: 'opening' },
      },
      {
        label: '+ its own interest',
        amount: row.interest,
        link: { to: 'row', row: row.index, column: 'interest' },
      },
    ];
    const arrears = row.payment - row.interest - row.principal;
    if (arrears > 0) steps.push({ label: '+ interest in arrears', amount: arrears });
    return { title, amount: row.payment, steps };
  }
  if (phase?.type === 'interest-only') {
    return {
      title,
      amount: row.payment,
      steps: [
        {
          label: 'The interest of the period',
          amount: row.interest,
          link: { to: 'row', row: row.index, column: 'interest' },
        },
      ],
    };
  }
  if (phase?.type === 'level' && phase.payment === undefined) {
    const exact = solvedPayment(schedule, schedule.phase[row.index] as number);
    return {
      title,
      amount: row.payment,
      steps: [
        { label: 'Balance to repay', amount: exact.balance },
        { label: 'Spread over', text: `${phase.amortizeOver} payments`, link: { to: 'terms', key: 'count' } },
        { label: 'Annual rate', text: formatPercent(terms.annualRate), link: { to: 'terms', key: 'rate' } },
      ],
      unrounded: exact.text,
      rounding:
        terms.rounding.payment === 'cent-up'
          ? 'up to the cent'
          : terms.rounding.payment === 'unit'
            ? 'to the whole unit'
            : 'to the cent, halves up',
    };
  }
  return {
    title,
    amount: row.payment,
    steps: [{ label: 'Agreed payment', amount: agreed, link: { to: 'terms', key: 'payment' } }],
  };
}

/** The unrounded payment of a level phase in currency units, and the balance it repays (minor units). */
export function solvedPayment(schedule: LoanSchedule, phaseAt: number): { text: string; balance: number } {
  const { terms } = schedule;
  const phase = terms.phases[phaseAt];
  if (phase?.type !== 'level') throw new RangeError(`Phase ${phaseAt} is not a level phase.`);
  let row = 0;
  while (row < schedule.length && ((schedule.n[row] as number) === 0 || schedule.phase[row] !== phaseAt))
    row += 1;
  const first = row < schedule.length ? (schedule.n[row] as number) - 1 : 0;
  const balance = row < schedule.length ? balanceWhenSet(schedule, row) : terms.amount;
  const dues = cycleDates(paymentCycle(terms), first + phase.amortizeOver);
  const growths = new PeriodGrowths(terms, dues);
  const each = { count: phase.amortizeOver, at: (period: number) => growths.at(first + period).exact };
  const exact = levelPaymentExact(balance, each).div(10 ** terms.digits);
  return { text: exact.toSignificantDigits(30).toFixed(), balance };
}

/** The balance when a phase began: what the numbered row before it closed at. */
function balanceWhenSet(schedule: LoanSchedule, row: number): number {
  let before = row - 1;
  while (before >= 0 && (schedule.n[before] as number) === 0) before -= 1;
  return before < 0 ? schedule.terms.amount : (schedule.closing[before] as number);
}

/** The last row on or before a day, for linking a figure as of that day; −1 before the first. */
export function rowAsOf(schedule: LoanSchedule, on: number): number {
  return lastRowOn(schedule.date, schedule.length, on);
}

import { addMonths, formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { costAmortization, costsThrough } from '../loan/issue-costs.ts';
import { exactInterest } from '../loan/interest-segment.ts';
import { presentationOn } from '../loan/loan-events.ts';
import type { LoanSchedule } from '../loan/loan-schedule.ts';
import { multiplyRatios, ratio } from '../money/ratio.ts';
import { exactCoupon } from '../bond/bond-schedule.ts';
import { bondAccrual } from '../position/bond-position.ts';
import { accruedSegments, broughtInAccrued } from '../position/loan-position.ts';
import { position } from '../position/position.ts';
import type { Position } from '../position/position-figures.ts';
import { roundingText, rowAsOf, segmentSteps, unroundedText } from './explain-loan.ts';
import type { ExplainStep, Explanation } from './explanation.ts';

/** The figures of a position. */
export type PositionFigure = Exclude<keyof Position, 'on' | 'next'>;

const names: Readonly<Record<PositionFigure, string>> = {
  outstanding: 'Outstanding',
  accruedInterest: 'Accrued interest',
  unpaidInterest: 'Interest unpaid',
  unamortizedDiscount: 'Unamortized discount',
  unamortizedPremium: 'Unamortized premium',
  unamortizedIssueCosts: 'Unamortized issue costs',
  carrying: 'Carrying amount',
  current: 'Current portion',
  nonCurrent: 'Non-current',
};

/** How a figure of a position is made. */
export function explainPosition(schedule: Schedule, on: CalendarDay, figure: PositionFigure): Explanation {
  const at = position(schedule, on);
  const title = `${names[figure]}, ${formatDay(on)}`;
  const amount = at[figure];
  const plain = (steps: ExplainStep[]): Explanation => ({ title, amount, steps });
  switch (figure) {
    case 'accruedInterest':
      return { title, amount, ...accruedParts(schedule, on) };
    case 'outstanding':
    case 'unpaidInterest':
      return plain([asOfStep(schedule, on, figure === 'outstanding' ? 'closing' : 'unpaid', amount)]);
    case 'carrying':
      return plain([
        { label: 'Outstanding', amount: at.outstanding },
        { label: '− unamortized discount', amount: at.unamortizedDiscount },
        { label: '− unamortized issue costs', amount: at.unamortizedIssueCosts },
        { label: '+ unamortized premium', amount: at.unamortizedPremium },
      ]);
    case 'current':
      return plain(currentSteps(schedule, on, at));
    case 'nonCurrent':
      return plain([
        { label: 'Carrying amount', amount: at.carrying },
        { label: '− current portion', amount: at.current },
      ]);
    default:
      return plain(unamortizedSteps(schedule, on, at));
  }
}

function asOfStep(schedule: Schedule, on: CalendarDay, column: string, amount: number): ExplainStep {
  if (schedule.kind === 'bond')
    return { label: 'Face not yet redeemed', amount, link: { to: 'terms', key: 'face' } };
  const row = rowAsOf(schedule, on);
  if (row < 0)
    return { label: 'No payment yet: the amount borrowed', amount, link: { to: 'terms', key: 'amount' } };
  return {
    label: `After the row of ${formatDay(schedule.date[row] as number)}`,
    amount,
    link: { to: 'row', row, column },
  };
}

function accruedParts(
  schedule: Schedule,
  on: CalendarDay,
): { steps: ExplainStep[]; unrounded?: string; rounding?: string } {
  const { terms } = schedule;
  if (schedule.kind === 'loan') {
    const segments = accruedSegments(schedule, on);
    const broughtIn = broughtInAccrued(schedule, on);
    const before: ExplainStep[] =
      broughtIn === 0
        ? []
        : [
            {
              label: '+ accrued before the loan was taken on',
              amount: broughtIn,
              link: { to: 'terms', key: 'takenOn' },
            },
          ];
    if (segments.length === 0) {
      if (broughtIn > 0) return { steps: before };
      return { steps: [{ label: 'Paid through this day; nothing has accrued', text: '' }] };
    }
    const days =
      segments.length === 1 && schedule.terms.dayCount === 'even-periods'
        ? [{ label: 'Days', text: `${segments[0]?.days} since ${formatDay(segments[0]?.from ?? on)}` }]
        : [];
    return {
      steps: [...segmentSteps(schedule, segments), ...days, ...before],
      unrounded: unroundedText(exactInterest(segments), terms.digits),
      rounding: roundingText(terms),
    };
  }
  const accrual = bondAccrual(schedule, on);
  if (!accrual) return { steps: [{ label: 'Nothing has accrued on this day', text: '' }] };
  const share = ratio(BigInt(accrual.share.num), BigInt(accrual.share.den));
  return {
    steps: [
      {
        label: `Coupon ${accrual.row.n}`,
        amount: accrual.row.coupon,
        link: { to: 'row', row: accrual.row.n, column: 'coupon' },
      },
      { label: '× share of its period', text: `${share.num}/${share.den}` },
      { label: 'Since', text: formatDay(accrual.period.from) },
    ],
    unrounded: unroundedText(
      multiplyRatios(exactCoupon(schedule.terms, accrual.period), share),
      terms.digits,
    ),
    rounding: roundingText(terms),
  };
}

function costSteps(schedule: LoanSchedule, on: CalendarDay, at: Position): ExplainStep[] {
  const incurred = costsThrough(schedule, on);
  const { method } = schedule.terms.issueCosts ?? { method: 'effective' };
  const effective = costAmortization(schedule).effectiveRates.findLast(({ from }) => from <= on);
  return [
    {
      label: 'Issue costs and deferred fees so far',
      amount: incurred,
      link: { to: 'terms', key: 'issueCosts' },
    },
    { label: '− amortized by then, by days within a period', amount: incurred - at.unamortizedIssueCosts },
    ...(incurred === 0 || method === 'straight-line' || effective === undefined
      ? []
      : [
          {
            label: effective.overAgreed ? 'Annual rate over the agreed one' : 'Effective annual rate',
            text: `${(100 * Number(effective.rate)).toFixed(6)}%`,
          },
        ]),
  ];
}

function currentSteps(schedule: Schedule, on: CalendarDay, at: Position): ExplainStep[] {
  const until = formatDay(addMonths(on, 12, true));
  if (schedule.kind === 'bond') {
    return [
      { label: `Matures ${formatDay(schedule.terms.matures)}; current when by`, text: until },
      { label: 'Carrying amount', amount: at.carrying },
    ];
  }
  const stated = presentationOn(schedule.terms.events, on);
  if (stated) {
    const to = stated.to === undefined ? '' : ` to ${formatDay(stated.to)}`;
    return [
      { label: `Presented as ${stated.as} from ${formatDay(stated.on)}${to}`, text: stated.reason },
      { label: 'Carrying amount', amount: at.carrying, link: { to: 'terms', key: 'events' } },
    ];
  }
  return [
    {
      label: `Contractual principal due after ${formatDay(on)} to ${until}, with arrears`,
      amount: at.current,
    },
    { label: 'Never more than the carrying amount', amount: at.carrying },
  ];
}

function unamortizedSteps(schedule: Schedule, on: CalendarDay, at: Position): ExplainStep[] {
  if (schedule.kind === 'loan') return costSteps(schedule, on, at);
  const accrual = bondAccrual(schedule, on);
  const row = schedule.rows.findLast((candidate) => candidate.due <= on);
  const steps: ExplainStep[] = [
    { label: 'Face', amount: at.outstanding, link: { to: 'terms', key: 'face' } },
    { label: 'Carrying amount', amount: at.carrying },
  ];
  if (row && accrual) {
    steps.push({
      label: `Unamortized after ${formatDay(row.due)}`,
      amount: Math.abs(row.unamortized),
      link: { to: 'row', row: row.n, column: 'unamortized' },
    });
    steps.push({ label: 'Amortized since', amount: Math.abs(accrual.amortization) });
  }
  return steps;
}

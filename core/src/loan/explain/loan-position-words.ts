import { addMonths, formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import type { AccruedSteps, PositionWords } from '../../kinds/kind.ts';
import { costAmortization, costsThrough } from '../costs/issue-costs.ts';
import { exactInterest } from '../interest/interest-segment.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import { accruedSegments, broughtInAccrued } from '../position/loan-position.ts';
import type { Position } from '../../position/position-figures.ts';
import { rowAsOf, segmentSteps } from './explain-loan.ts';
import { roundingText, unroundedText } from '../../explain/rounding-words.ts';
import type { ExplainStep } from '../../explain/explanation.ts';

/** How the figures of a loan's position come about. */
export const loanPositionWords: PositionWords<LoanSchedule> = {
  balance(schedule, on, column, amount) {
    const row = rowAsOf(schedule, on);
    if (row < 0)
      return { label: 'No payment yet: the amount borrowed', amount, link: { to: 'terms', key: 'amount' } };
    return {
      label: `After the row of ${formatDay(schedule.date[row] as number)}`,
      amount,
      link: { to: 'row', row, column },
    };
  },
  accrued,
  current: (_, on, at) => [
    {
      label: `Contractual principal due after ${formatDay(on)} to ${formatDay(addMonths(on, 12, true))}, with arrears`,
      amount: at.current,
    },
    { label: 'Never more than the carrying amount', amount: at.carrying },
  ],
  unamortized: costSteps,
};

function accrued(schedule: LoanSchedule, on: CalendarDay): AccruedSteps {
  const { terms } = schedule;
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
    {
      label: '− amortized by then, by days within a period',
      amount: incurred - at.unamortizedIssueCosts - at.deferredCosts,
    },
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

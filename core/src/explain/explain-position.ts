import { addMonths, formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { costAmortization, costsThrough } from '../loan/costs/issue-costs.ts';
import { exactInterest } from '../loan/interest-segment.ts';
import { presentationOn } from '../presentation.ts';
import type { LoanSchedule } from '../loan/loan-schedule.ts';
import { multiplyRatios, ratio } from '../money/ratio.ts';
import type { BondSchedule } from '../bond/bond-schedule.ts';
import { basisOn, bondAccrual, faceDue, type BondAccrual } from '../position/bond-position.ts';
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
  accruedFee: 'Accrued fee',
  unpaidInterest: 'Interest unpaid',
  deferredInterest: 'Of it kept apart by agreement',
  unamortizedDiscount: 'Unamortized discount',
  unamortizedPremium: 'Unamortized premium',
  unamortizedIssueCosts: 'Unamortized issue costs',
  deferredCosts: 'Deferred costs',
  overpaid: 'Overpaid',
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
    case 'deferredInterest':
      return plain([asOfStep(schedule, on, figure === 'outstanding' ? 'closing' : 'unpaid', amount)]);
    case 'overpaid':
      return plain([asOfStep(schedule, on, 'overpaid', amount)]);
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
      return plain(unamortizedSteps(schedule, on, at, figure));
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
      couponStep(schedule, accrual),
      { label: '× share of its period', text: `${share.num}/${share.den}` },
      { label: 'Since', text: formatDay(accrual.basis.period.from) },
    ],
    unrounded: unroundedText(multiplyRatios(accrual.basis.amounts.exactCoupon, share), terms.digits),
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

function currentSteps(schedule: Schedule, on: CalendarDay, at: Position): ExplainStep[] {
  const until = formatDay(addMonths(on, 12, true));
  const stated = presentationOn(schedule.terms.events, on);
  if (stated) {
    const to = stated.to === undefined ? '' : ` to ${formatDay(stated.to)}`;
    return [
      { label: `Presented as ${stated.as} from ${formatDay(stated.on)}${to}`, text: stated.reason },
      { label: 'Carrying amount', amount: at.carrying, link: { to: 'terms', key: 'events' } },
    ];
  }
  if (schedule.kind === 'bond') return bondCurrentSteps(schedule, on, at);
  return [
    {
      label: `Contractual principal due after ${formatDay(on)} to ${until}, with arrears`,
      amount: at.current,
    },
    { label: 'Never more than the carrying amount', amount: at.carrying },
  ];
}

function bondCurrentSteps(schedule: BondSchedule, on: CalendarDay, at: Position): ExplainStep[] {
  const until = addMonths(on, 12, true);
  const due = faceDue(schedule, on, until);
  const link = { to: 'terms', key: 'matures' } as const;
  if (due === 0) {
    return [
      {
        label: `No face falls due by ${formatDay(until)}; it matures`,
        text: formatDay(schedule.terms.matures),
        link,
      },
    ];
  }
  return [
    { label: `Face due after ${formatDay(on)} to ${formatDay(until)}`, amount: due, link },
    { label: 'Of the face outstanding', amount: at.outstanding },
    {
      label:
        at.outstanding < at.carrying
          ? '+ its share of the unamortized balance'
          : '− its share of the unamortized balance',
      amount: Math.abs(due - at.current),
    },
  ];
}

function unamortizedSteps(
  schedule: Schedule,
  on: CalendarDay,
  at: Position,
  figure: PositionFigure,
): ExplainStep[] {
  if (schedule.kind === 'loan') return costSteps(schedule, on, at);
  const { terms } = schedule;
  const basis = basisOn(schedule, on);
  if (!basis) return [{ label: 'Nothing is outstanding on this day', text: '' }];
  const accrual = bondAccrual(schedule, on);
  const costs = figure === 'unamortizedIssueCosts';
  const sign = figure === 'unamortizedPremium' ? -1 : 1;
  const since = sign * (accrual?.[costs ? 'costs' : 'discount'] ?? 0);
  const opening = {
    label: `Unamortized after ${formatDay(Math.max(basis.period.from, terms.issued))}`,
    amount: at[figure] + since,
  };
  if (opening.amount < 0 || (opening.amount === 0 && since === 0)) {
    return [{ label: costs ? 'There are no issue costs left' : 'There is none on this day', text: '' }];
  }
  if (!accrual) return [opening];
  return [
    opening,
    { label: '− amortized since, by days', amount: since },
    { label: 'Share of the period', text: `${accrual.amortizedShare.num}/${accrual.amortizedShare.den}` },
  ];
}

/** The coupon that a day lies before, as it will be paid. */
function couponStep(schedule: BondSchedule, { basis }: BondAccrual): ExplainStep {
  const row = schedule.rows.findIndex(({ n, due }) => n === basis.n && due === basis.period.to);
  return {
    label: `Coupon ${basis.n}, unrounded`,
    text: unroundedText(basis.amounts.exactCoupon, schedule.terms.digits),
    ...(row >= 0 && { link: { to: 'row', row, column: 'coupon' } }),
  };
}

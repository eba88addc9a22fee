import type { BondSchedule } from '../schedule/bond-schedule.ts';
import { addMonths, formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import type { AccruedSteps, PositionWords } from '../../kinds/kind.ts';
import { multiplyRatios, ratio } from '../../money/ratio.ts';
import { basisOn, bondAccrual, faceDue, type BondAccrual } from '../position/bond-position.ts';
import type { Position, PositionFigure } from '../../position/position-figures.ts';
import { roundingText, unroundedText } from '../../explain/rounding-words.ts';
import type { ExplainStep } from '../../explain/explanation.ts';

/** How the figures of a bond's position come about. */
export const bondPositionWords: PositionWords<BondSchedule> = {
  balance: (_schedule, _on, _column, amount) => ({
    label: 'Face not yet redeemed',
    amount,
    link: { to: 'terms', key: 'face' },
  }),
  accrued,
  current: currentSteps,
  unamortized: unamortizedSteps,
};

function accrued(schedule: BondSchedule, on: CalendarDay): AccruedSteps {
  const { terms } = schedule;
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

function currentSteps(schedule: BondSchedule, on: CalendarDay, at: Position): ExplainStep[] {
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
  schedule: BondSchedule,
  on: CalendarDay,
  at: Position,
  figure: PositionFigure,
): ExplainStep[] {
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

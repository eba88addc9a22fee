import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { addBasis, noBasis, type InterestBasis } from '../../change/interest-basis.ts';
import { interestStep } from '../../money/rounding.ts';
import { accruedSegments } from '../position/loan-position.ts';
import { chargesInterest, type LoanSchedule } from '../schedule/loan-schedule.ts';
import type { InterestSegment } from './interest-segment.ts';
import { rowSegments } from './loan-interest.ts';

/** What the interest accrued at the end of a day was worked out over. */
export function loanAccruedBasis(schedule: LoanSchedule, on: CalendarDay): InterestBasis {
  return basisOf(schedule, accruedSegments(schedule, on));
}

/** What the interest after one day to the end of another was worked out over: what was charged, and what accrued. */
export function loanInterestBasis(
  schedule: LoanSchedule,
  after: CalendarDay,
  through: CalendarDay,
): InterestBasis {
  let basis = loanAccruedBasis(schedule, through);
  for (let row = 0; row < schedule.length; row += 1) {
    const date = schedule.date[row] as number;
    if (date > through) break;
    if (date > after && chargesInterest(schedule, row)) {
      basis = addBasis(basis, basisOf(schedule, rowSegments(schedule, row)));
    }
  }
  return addBasis(basis, loanAccruedBasis(schedule, after), -1);
}

function basisOf({ terms, exact }: LoanSchedule, segments: readonly InterestSegment[]): InterestBasis {
  if (segments.length === 0) return noBasis;
  const bases = segments.map((segment): InterestBasis => {
    const years = segment.years.num / segment.years.den;
    const balance = Number(segment.balance.num) / Number(segment.balance.den);
    const { num, den } = segment.annualRate;
    return {
      days: segment.days,
      years,
      balanceYears: balance * years,
      rateYears: (Number(num) / Number(den)) * years,
      interest: segment.estimate,
      rounding: 0,
    };
  });
  const sum = bases.reduce((one, other) => addBasis(one, other), noBasis);
  // Rounded once for all of them; where nothing is, the books still round what is paid and what is owed.
  return { ...sum, rounding: interestStep(terms) + (exact ? 1 : 0) };
}

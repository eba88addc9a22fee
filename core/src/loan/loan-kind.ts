import type { CalendarDay } from '../calendar/calendar-day.ts';
import { loanAccrualEntry, loanIssueEntry, loanOwnEntries } from './entries/loan-entries.ts';
import { loanStanding } from './entries/loan-standing.ts';
import { loanPositionWords } from './explain/loan-position-words.ts';
import type { DebtKind } from '../kinds/kind.ts';
import {
  accruedInterest,
  broughtInAccrued,
  costsCarried,
  loanPosition,
  principalDue,
} from './position/loan-position.ts';
import { asKnownOn } from './terms/as-known-on.ts';
import { bookedInterest } from './interest/booked-interest.ts';
import { loanAccruedBasis, loanInterestBasis } from './interest/loan-basis.ts';
import { buildLoanSchedule } from './schedule/build-loan-schedule.ts';
import { amortizedCosts } from './costs/issue-costs.ts';
import { contractAfter } from './plan/contract.ts';
import { loanFlows } from './schedule/loan-flows.ts';
import { loanMoves } from './schedule/loan-moves.ts';
import { rateAt, type RateInForce } from '../rates/rate-timeline.ts';
import { loanProofs } from './schedule/loan-proofs.ts';
import { lastRowOn, type LoanSchedule } from './schedule/loan-schedule.ts';
import type { LoanTerms } from './terms/loan-terms.ts';
import { loanSteps, whyLoanIsDear } from './schedule/loan-work.ts';
import { totalOf } from './schedule/totals.ts';

/** Loans: borrowed at once or drawn, repaid by agreed payments. */
export const loanKind: DebtKind<LoanTerms, LoanSchedule> = {
  principalRole: 'loan-payable',
  build: buildLoanSchedule,
  proofs: loanProofs,
  firstDay: ({ terms }) => terms.start,
  lastDay: ({ date, length }) => date[length - 1] as number,
  rowCount: ({ length }) => length,
  rowDays: ({ date, length }) => [...date.subarray(0, length)],
  position: loanPosition,
  ownEntries: loanOwnEntries,
  accrual: loanAccrualEntry,
  principal: ({ amount }) => amount,
  stepsToWorkOut: loanSteps,
  whyDear: whyLoanIsDear,
  owed: owedOn,
  carrying: (schedule, on) => owedOn(schedule, on) - costsCarried(schedule, on),
  accrued: accruedInterest,
  flows: loanFlows,
  contract: contractAfter,
  paidInAll: (schedule) => totalOf(schedule, 'payment') + totalOf(schedule, 'extra'),
  accruedBasis: loanAccruedBasis,
  interestBasis: loanInterestBasis,
  broughtInAccrued,
  moves: loanMoves,
  rateOn: ({ rates }, on) => (rates[rateAt(rates, on)] as RateInForce).annualRate,
  interestThrough,
  amortizedThrough: amortizedCosts,
  onDemand: () => false,
  fallingDue(schedule, on) {
    const contractual = asKnownOn(schedule, on);
    const outstanding = owedOn(schedule, on);
    return (to) => principalDue(contractual, on, to, outstanding);
  },
  fixingMissing: ({ notices }, by) =>
    notices.find(({ kind, on }) => kind === 'fixing-missing' && on <= by)?.on,
  nextInstalment: () => undefined,
  leftAtEnd: ({ closing, length }) => closing[length - 1] as number,
  takenOn: (terms) => terms.takenOn !== undefined,
  issue: loanIssueEntry,
  standing: loanStanding,
  explain: loanPositionWords,
};

function owedOn({ terms, date, length, closing }: LoanSchedule, on: CalendarDay): number {
  if (on < terms.start) return 0;
  const row = lastRowOn(date, length, on);
  return row < 0 ? terms.amount : (closing[row] as number);
}

function interestThrough(schedule: LoanSchedule, on: CalendarDay): number {
  const booked = bookedInterest(schedule);
  let ofRows = 0;
  for (let row = 0; row < schedule.length && (schedule.date[row] as number) <= on; row += 1) {
    ofRows += booked[row] as number;
  }
  // What had accrued before a loan was taken on was another period's expense.
  const before = on >= schedule.terms.start ? (schedule.terms.takenOn?.accruedInterest ?? 0) : 0;
  return ofRows + accruedInterest(schedule, on) - before;
}

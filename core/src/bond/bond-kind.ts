import type { CalendarDay } from '../calendar/calendar-day.ts';
import { bondAccrualEntry, bondIssueEntry, bondOwnEntries } from './entries/bond-entries.ts';
import { bondStanding } from './entries/bond-standing.ts';
import { bondPositionWords } from './explain/bond-position-words.ts';
import type { DebtKind } from '../kinds/kind.ts';
import { bondAccruedBasis, bondInterestBasis } from './position/bond-basis.ts';
import { bondAccrual, bondPosition, faceDue } from './position/bond-position.ts';
import { bondFlows, bondMoves } from './schedule/bond-flows.ts';
import { bondProofs } from './schedule/bond-proofs.ts';
import { lastCouponRow, type BondSchedule } from './schedule/bond-schedule.ts';
import type { BondTerms } from './terms/bond-terms.ts';
import { buildBondSchedule } from './schedule/bond-walk.ts';

/** Bonds: issued at a price, served by coupons, repaid at maturity, by instalments or before their time. */
export const bondKind: DebtKind<BondTerms, BondSchedule> = {
  principalRole: 'bonds-payable',
  build: buildBondSchedule,
  proofs: bondProofs,
  firstDay: ({ terms }) => terms.issued,
  lastDay: ({ rows, terms }) => rows.at(-1)?.due ?? terms.matures,
  rowCount: ({ rows }) => rows.length,
  rowDays: ({ rows }) => rows.map(({ due }) => due),
  position: bondPosition,
  ownEntries: bondOwnEntries,
  accrual: bondAccrualEntry,
  principal: ({ face }) => face,
  stepsToWorkOut: ({ periods, terms }) => periods.length * (1 + terms.redemptions.length),
  whyDear: () => undefined,
  owed({ terms, rows }, on) {
    if (on < terms.issued || on >= terms.matures) return 0;
    return rows.findLast(({ due }) => due <= on)?.faceAfter ?? terms.face;
  },
  carrying: (schedule, on) => bondPosition(schedule, on).carrying,
  accrued: (schedule, on) => bondPosition(schedule, on).accruedInterest,
  flows: bondFlows,
  contract: () => undefined,
  paidInAll(schedule) {
    const paid = schedule.rows.reduce((sum, { booked, paid: redeemed }) => sum + booked.coupon + redeemed, 0);
    return paid + (lastCouponRow(schedule)?.faceAfter ?? 0);
  },
  accruedBasis: bondAccruedBasis,
  interestBasis: bondInterestBasis,
  broughtInAccrued: () => 0,
  moves: bondMoves,
  rateOn: ({ terms }) => terms.couponRate,
  interestThrough,
  amortizedThrough,
  onDemand: () => false,
  fallingDue: (schedule, on) => (to) => faceDue(schedule, on, to),
  fixingMissing: () => undefined,
  nextInstalment: ({ rows }, after) =>
    rows.find(({ kind, paid, due }) => kind === 'coupon' && paid > 0 && due > after)?.due,
  leftAtEnd: () => 0,
  takenOn: () => false,
  issue: bondIssueEntry,
  standing: bondStanding,
  explain: bondPositionWords,
};

function interestThrough(schedule: BondSchedule, on: CalendarDay): number {
  const accrual = bondAccrual(schedule, on);
  const ofRows = schedule.rows.reduce(
    (sum, { due, booked }) => sum + (due <= on ? booked.coupon - booked.received : 0),
    0,
  );
  return ofRows + (accrual ? accrual.coupon - accrual.received : 0);
}

function amortizedThrough(schedule: BondSchedule, on: CalendarDay): number {
  const accrual = bondAccrual(schedule, on);
  const ofRows = schedule.rows.reduce(
    (sum, { due, booked }) => sum + (due <= on ? booked.discount + booked.costs : 0),
    0,
  );
  return ofRows + (accrual ? accrual.discount + accrual.costs : 0);
}

import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { BondRow, BondSchedule } from '../bond/bond-schedule.ts';
import { bondAccrual } from '../position/bond-position.ts';
import { entryOf, type Entry, type Posting } from './entry.ts';

/** Credit to the discount, or debit to the premium, for an amount amortized. */
function amortizationPosting(schedule: BondSchedule, amortization: number): Posting {
  const atPremium = schedule.proceeds > schedule.terms.face;
  return [atPremium ? 'bond-premium' : 'bond-discount', -amortization];
}

/** Issue at the price received. */
export function bondIssueEntry({ terms, proceeds }: BondSchedule): Entry | undefined {
  return entryOf(terms.issued, 'issue', 'Bonds issued', null, [
    ['cash', proceeds],
    ['bond-discount', Math.max(0, terms.face - proceeds)],
    ['bonds-payable', -terms.face],
    ['bond-premium', Math.min(0, terms.face - proceeds)],
  ]);
}

/** A coupon: expense, amortization and the cash paid. */
export function bondCouponEntry(schedule: BondSchedule, row: BondRow): Entry | undefined {
  return entryOf(row.due, 'coupon', `Coupon ${row.n}`, row.n, [
    ['interest-expense', row.expense],
    amortizationPosting(schedule, row.amortization),
    ['cash', -row.coupon],
  ]);
}

/** Redemption of the face at maturity. */
export function bondRedemptionEntry({ terms, rows }: BondSchedule): Entry | undefined {
  return entryOf(terms.matures, 'redemption', 'Redemption at maturity', rows.length - 1, [
    ['bonds-payable', terms.face],
    ['cash', -terms.face],
  ]);
}

/** Coupon accrued and discount or premium amortized to a period end between coupons. */
export function bondAccrualEntry(schedule: BondSchedule, on: CalendarDay): Entry | undefined {
  const accrual = bondAccrual(schedule, on);
  if (!accrual) return undefined;
  const what = schedule.proceeds > schedule.terms.face ? 'premium' : 'discount';
  const amortized = accrual.amortization === 0 ? '' : ` and ${what} amortized`;
  const memo = `Coupon accrued${amortized} to ${formatDay(on)}`;
  return entryOf(on, 'accrual', memo, accrual.row.n, [
    ['interest-expense', accrual.coupon + accrual.amortization],
    amortizationPosting(schedule, accrual.amortization),
    ['interest-payable', -accrual.coupon],
  ]);
}

import type { CalendarDay } from '../calendar/calendar-day.ts';
import { firstDay, type Schedule } from '../instrument/instrument.ts';
import { lastRowOn } from '../loan/loan-schedule.ts';
import { position } from '../position/position.ts';
import { sumColumn } from '../proofs/proof.ts';
import type { AccountRole } from './account-role.ts';
import { principalRole } from './entries.ts';

/** Balances by account: debits positive, credits negative, minor units. */
export type Balances = ReadonlyMap<AccountRole, number>;

/**
 * Where an instrument's accounts stand after a period end once the period's accrual is reversed: the sum of all
 * its entries to that day with the reversals of the day after, reached from the position without making them.
 */
export function standingBalances(schedule: Schedule, periodEnd: CalendarDay): Balances {
  const balances = new Map<AccountRole, number>();
  if (periodEnd < firstDay(schedule)) return balances;
  const at = position(schedule, periodEnd);
  balances.set(principalRole(schedule), at.current - at.outstanding);
  balances.set('current-portion', -at.current);
  balances.set('interest-payable', -at.unpaidInterest);
  if (schedule.kind === 'loan') {
    const { terms } = schedule;
    const rows = lastRowOn(schedule.date, schedule.length, periodEnd) + 1;
    const paid = sumColumn(schedule.payment, rows) + sumColumn(schedule.extra, rows);
    balances.set('interest-expense', sumColumn(schedule.interest, rows));
    balances.set('cash', (terms.purchase ? -terms.purchase.downPayment : terms.amount) - paid);
    if (terms.purchase) balances.set('asset', terms.purchase.price);
    return balances;
  }
  const { terms, proceeds } = schedule;
  const rows = schedule.rows.filter((row) => row.due <= periodEnd);
  const matured = periodEnd >= terms.matures;
  const unamortized = matured ? 0 : (rows.at(-1)?.unamortized ?? 0);
  balances.set(proceeds > terms.face ? 'bond-premium' : 'bond-discount', unamortized);
  balances.set(
    'interest-expense',
    rows.reduce((sum, row) => sum + row.expense, 0),
  );
  const coupons = rows.reduce((sum, row) => sum + row.coupon, 0);
  balances.set('cash', proceeds - coupons - (matured ? terms.face : 0));
  return balances;
}

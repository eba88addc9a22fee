import {
  discountAtIssue,
  lastCouponRow,
  type BondRow,
  type BondSchedule,
  type BookedAmounts,
} from '../schedule/bond-schedule.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { AccountRole } from '../../entries/account-role.ts';
import { discountRole } from './bond-entries.ts';

/** Where a bond's accounts but face and current portion stand after a period end, its accrual reversed. */
export function bondStanding(
  schedule: BondSchedule,
  periodEnd: CalendarDay,
): (readonly [AccountRole, number])[] {
  const { terms, proceeds, accruedReceived } = schedule;
  const rows = schedule.rows.filter((row) => row.due <= periodEnd);
  const sum = (of: (row: BondRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  const booked = (of: keyof BookedAmounts): number => sum((row) => row.booked[of]);
  const discount = discountAtIssue(schedule);
  const costs = terms.issueCosts?.amount ?? 0;
  const matured = periodEnd >= terms.matures ? (lastCouponRow(schedule)?.faceAfter ?? 0) : 0;
  const goods = terms.issuedFor === 'goods';
  const writtenOff = booked('discountWrittenOff') + booked('costsWrittenOff');
  const early = (row: BondRow): number =>
    row.kind === 'redemption' ? row.paid - (row.faceBefore - row.faceAfter) : 0;
  return [
    [discountRole(schedule), discount - booked('discount') - booked('discountWrittenOff')],
    ['issue-costs', costs - booked('costs') - booked('costsWrittenOff')],
    ['interest-payable', booked('received') - accruedReceived],
    ['interest-expense', booked('coupon') - booked('received') + booked('discount') + booked('costs')],
    ['redemption-gain-loss', sum(early) + writtenOff],
    ['cash', (goods ? 0 : proceeds) - costs - booked('coupon') - sum(({ paid }) => paid) - matured],
    ...(goods ? [['asset', proceeds] as const] : []),
  ];
}

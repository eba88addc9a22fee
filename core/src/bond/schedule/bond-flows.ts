import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Move } from '../../change/move.ts';
import type { Flow } from '../../portfolio/flow.ts';
import { lastCouponRow, type BondSchedule } from './bond-schedule.ts';

/** The face issued, and what each coupon, instalment, redemption and maturity pays. */
export function bondFlows(schedule: BondSchedule): Flow[] {
  const { terms, rows } = schedule;
  const last = lastCouponRow(schedule);
  return [
    { on: terms.issued, drawn: terms.face, added: 0, paid: 0, interest: 0, principal: 0 },
    ...rows.map((row): Flow => {
      const matures = row === last ? row.faceAfter : 0;
      return {
        on: row.due,
        drawn: 0,
        added: 0,
        paid: row.booked.coupon + row.paid + matures,
        interest: row.booked.coupon,
        principal: row.faceBefore - row.faceAfter + matures,
      };
    }),
  ];
}

/** What happens to a bond after one day to the end of another: its issue, coupons, redemptions. */
export function bondMoves(schedule: BondSchedule, after: CalendarDay, through: CalendarDay): Move[] {
  return bondFlows(schedule)
    .filter(({ on }) => on > after && on <= through)
    .map(({ drawn, principal }): Move => {
      if (drawn > 0) return { reason: 'drawn', amount: drawn, asAgreed: false };
      if (principal > 0) return { reason: 'repaid', amount: 0 - principal, asAgreed: false };
      return { reason: 'paid', amount: 0, asAgreed: true };
    });
}

import type { CalendarDay } from '../calendar/calendar-day.ts';

/** What happens to a debt on one day: what it grows by, and what is paid. Amounts in minor units. */
export interface Flow {
  readonly on: CalendarDay;
  /** Borrowed, or the face issued. */
  readonly drawn: number;
  /** Interest that joins the balance. */
  readonly added: number;
  /** Cash to the lender or the holders: interest, principal and the fee of a bill; not fees of their own. */
  readonly paid: number;
  /** The interest or coupon in what is paid. */
  readonly interest: number;
  /** By how much what is owed goes down. */
  readonly principal: number;
}

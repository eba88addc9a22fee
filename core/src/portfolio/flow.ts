import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { MinorUnits } from '../units/units.ts';

/** What happens to a debt on one day: what it grows by, and what is paid. Amounts in minor units. */
export interface Flow {
  readonly on: CalendarDay;
  /** Borrowed, or the face issued. */
  readonly drawn: MinorUnits;
  /** Interest that joins the balance. */
  readonly added: MinorUnits;
  /** Cash to the lender or the holders: interest, principal and the fee of a bill; not fees of their own. */
  readonly paid: MinorUnits;
  /** The interest or coupon in what is paid. */
  readonly interest: MinorUnits;
  /** By how much what is owed goes down. */
  readonly principal: MinorUnits;
}

import type { CalendarDay } from '../calendar/calendar-day.ts';
import { firstDay, lastDay } from '../instrument/instrument.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { fundPosition } from './fund-position.ts';
import { fundEnd, fundHeld, fundTotal, type FundSchedule } from './fund-schedule.ts';
import type { MinorUnits } from '../units/units.ts';

/** What a debt and the fund that repays it come to together over their lives. Minor units. */
export interface FundAndDebt {
  /** Interest expense of the debt. */
  readonly debtInterest: MinorUnits;
  /** Interest that the fund earns. */
  readonly earned: MinorUnits;
  readonly netInterest: MinorUnits;
  /** Everything paid on the debt: interest, principal or face, fees. */
  readonly paidOnDebt: MinorUnits;
  readonly deposits: MinorUnits;
  /** What the fund pays out, and so is not paid from elsewhere. */
  readonly released: MinorUnits;
  /** Paid on the debt and into the fund, less what the fund pays out; its opening balance is not counted. */
  readonly outlay: MinorUnits;
  /** The day the debt is repaid, and the day the fund is paid out. */
  readonly debtEnds: CalendarDay;
  readonly fundEnds: CalendarDay;
}

/**
 * Sums up a debt with the fund that repays it.
 *
 * @example
 * fundAndDebt(fund, bond).outlay // 13_758_680
 */
export function fundAndDebt(fund: FundSchedule, debt: Schedule): FundAndDebt {
  const debtEnds = lastDay(debt);
  const debtInterest = interestExpense(debt, firstDay(debt) - 1, debtEnds);
  const [earned, deposits] = [fundTotal(fund, 'interest'), fundTotal(fund, 'deposit')];
  const [paidOnDebt, released] = [debtKindOf(debt).paidInAll(debt), fundHeld(fund)];
  return {
    debtInterest,
    earned,
    netInterest: debtInterest - earned,
    paidOnDebt,
    deposits,
    released,
    outlay: paidOnDebt + deposits - released,
    debtEnds,
    fundEnds: fundEnd(fund),
  };
}

/**
 * What is owed on a day, what the fund holds against it, and the net debt; negative where the fund holds more.
 *
 * @example
 * netDebt(fund, bond, day('2025-12-31')) // { owed: 10_000_000, held: 75_868, net: 9_924_132 }
 */
export function netDebt(
  fund: FundSchedule,
  debt: Schedule,
  on: CalendarDay,
): { readonly owed: MinorUnits; readonly held: MinorUnits; readonly net: MinorUnits } {
  const owed = debtKindOf(debt).owed(debt, on);
  const held = fundPosition(fund, on).balance;
  return { owed, held, net: owed - held };
}

/**
 * The day a debt begins, and every day on which a row of it changes what is owed.
 *
 * @example
 * balanceDays(loan).length // 13
 */
export function balanceDays(debt: Schedule): CalendarDay[] {
  const kind = debtKindOf(debt);
  return [kind.firstDay(debt), ...kind.rowDays(debt)];
}

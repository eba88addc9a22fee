import { lastCouponRow } from '../bond/bond-schedule.ts';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { firstDay, lastDay, type Schedule } from '../instrument/instrument.ts';
import { lastRowOn } from '../loan/loan-schedule.ts';
import { totalOf } from '../loan/totals.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { fundPosition } from './fund-position.ts';
import { fundEnd, fundHeld, fundTotal, type FundSchedule } from './fund-schedule.ts';

/** What a debt and the fund that repays it come to together over their lives. Minor units. */
export interface FundAndDebt {
  /** Interest expense of the debt. */
  readonly debtInterest: number;
  /** Interest that the fund earns. */
  readonly earned: number;
  readonly netInterest: number;
  /** Everything paid on the debt: interest, principal or face, fees. */
  readonly paidOnDebt: number;
  readonly deposits: number;
  /** What the fund pays out, and so is not paid from elsewhere. */
  readonly released: number;
  /** Paid on the debt and into the fund, less what the fund pays out; its opening balance is not counted. */
  readonly outlay: number;
  /** The day the debt is repaid, and the day the fund is paid out. */
  readonly debtEnds: CalendarDay;
  readonly fundEnds: CalendarDay;
}

/** Sums up a debt with the fund that repays it. */
export function fundAndDebt(fund: FundSchedule, debt: Schedule): FundAndDebt {
  const debtEnds = lastDay(debt);
  const debtInterest = interestExpense(debt, firstDay(debt) - 1, debtEnds);
  const [earned, deposits] = [fundTotal(fund, 'interest'), fundTotal(fund, 'deposit')];
  const [paidOnDebt, released] = [paidOn(debt), fundHeld(fund)];
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

/** What is owed on a day, what the fund holds against it, and the net debt; negative where the fund holds more. */
export function netDebt(
  fund: FundSchedule,
  debt: Schedule,
  on: CalendarDay,
): { readonly owed: number; readonly held: number; readonly net: number } {
  const owed = owedOn(debt, on);
  const held = fundPosition(fund, on).balance;
  return { owed, held, net: owed - held };
}

/** The day a debt begins, and every day on which a row of it changes what is owed. */
export function balanceDays(debt: Schedule): CalendarDay[] {
  const rows =
    debt.kind === 'loan' ? [...debt.date.subarray(0, debt.length)] : debt.rows.map(({ due }) => due);
  return [firstDay(debt), ...rows];
}

/** Principal or face outstanding at the end of a day. */
function owedOn(debt: Schedule, on: CalendarDay): number {
  if (on < firstDay(debt)) return 0;
  if (debt.kind === 'bond') {
    const last = debt.rows.findLast(({ due }) => due <= on);
    return on >= debt.terms.matures ? 0 : (last?.faceAfter ?? debt.terms.face);
  }
  const row = lastRowOn(debt.date, debt.length, on);
  return row < 0 ? debt.terms.amount : (debt.closing[row] as number);
}

function paidOn(debt: Schedule): number {
  if (debt.kind === 'loan') {
    return totalOf(debt, 'payment') + totalOf(debt, 'extra');
  }
  const paid = debt.rows.reduce((sum, { booked, paid: redeemed }) => sum + booked.coupon + redeemed, 0);
  return paid + (lastCouponRow(debt)?.faceAfter ?? 0);
}

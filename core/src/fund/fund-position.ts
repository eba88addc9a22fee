import { TermsFault } from '../faults/terms-fault.ts';
import { minorOf } from '../money/rounding.ts';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { fundInterest } from './fund-interest.ts';
import { fundStart, fundYears } from './fund-periods.ts';
import { fundEnd, fundTotal, type FundRow, type FundSchedule } from './fund-schedule.ts';
import type { Count, MinorUnits } from '../units/units.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';

/** What a fund stands at on a day, at the end of that day; it is paid out with its last deposit. Minor units. */
export interface FundPosition {
  readonly on: CalendarDay;
  readonly balance: MinorUnits;
  /** Interest earned since the last deposit, not yet added. */
  readonly accruedInterest: MinorUnits;
  /** Deposits so far, with what was there at the beginning. */
  readonly deposited: MinorUnits;
  /** Interest added so far. */
  readonly earned: MinorUnits;
  /** What the goal lacks; zero once the fund is paid out, or without a goal. */
  readonly toGoal: MinorUnits;
  /** The deposit that is to be made next, as it is agreed on the day: one that is overdue as well. */
  readonly next: { readonly due: CalendarDay; readonly deposit: MinorUnits } | null;
}

/**
 * The position of a fund on a day; all zero before it begins and once it is paid out.
 *
 * @example
 * fundPosition(fund, day('2025-12-31')).accruedInterest // 4_165
 */
export function fundPosition(schedule: FundSchedule, on: CalendarDay): FundPosition {
  const { terms, rows } = schedule;
  const past = rows.filter(({ due }) => due <= on);
  const next = rows[past.length];
  const ended = on >= fundEnd(schedule);
  const begun = on >= fundStart(terms);
  const opened = begun ? (terms.opening?.amount ?? 0) : 0;
  const balance = ended ? 0 : (past.at(-1)?.closing ?? opened);
  return {
    on,
    balance,
    accruedInterest: ended || !begun || !next ? 0 : fundAccrued(schedule, next, on),
    deposited: opened + fundTotal({ terms, rows: past }, 'deposit'),
    earned: fundTotal({ terms, rows: past }, 'interest'),
    toGoal: ended || terms.goal === undefined ? 0 : Math.max(0, terms.goal - balance),
    next: next ? { due: next.agreed, deposit: agreedDeposit(schedule, past.length, on) } : null,
  };
}

/** What a deposit is to be as it is known on a day: what was made after it nobody knows yet. Minor units. */
function agreedDeposit(schedule: FundSchedule, at: Count, on: CalendarDay): MinorUnits {
  const { terms, rows } = schedule;
  const row = rows[at] as FundRow;
  const made = terms.made?.filter((deposit) => deposit.on <= on) ?? [];
  if (made.length === (terms.made?.length ?? 0)) return row.deposit;
  try {
    return (buildFundSchedule({ ...terms, made }).rows[at] ?? row).deposit;
  } catch (error) {
    if (!(error instanceof TermsFault)) throw error;
    // Without what was made later the goal is never reached: the deposit stays what was agreed.
    return schedule.deposit ?? row.deposit;
  }
}

/** Interest earned from the beginning of a row's period to a day in it, rounded once. */
function fundAccrued({ terms }: FundSchedule, row: FundRow, on: CalendarDay): number {
  const { period } = row;
  if (on <= period.from) return 0;
  return minorOf(terms, fundInterest(terms, row.exact.earning, fundYears(terms, period, on)));
}

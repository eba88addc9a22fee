import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { rateAt } from '../../rates/rate-timeline.ts';
import { bookedInterest } from '../interest/booked-interest.ts';
import { kindOfRow, lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { duesBy, type Contract } from './contract.ts';
import { clearsBy, leastOfAny, leastOfRegular, raised } from './least-level.ts';
import { isCleared, paidSchedule } from './paid-schedule.ts';
import { follow, regularContract, type RegularContract } from './regular-contract.ts';
import type { MinorUnits } from '../../units/units.ts';

/** What one row of a planned loan does. Minor units. */
export interface PlannedRow {
  readonly on: CalendarDay;
  readonly paid: MinorUnits;
  readonly interest: MinorUnits;
  readonly principal: MinorUnits;
  readonly drawn: MinorUnits;
  readonly closing: MinorUnits;
  /** Interest charged and not paid by then. */
  readonly unpaid: MinorUnits;
}

/** What decides how a loan is paid: the plan, its contract, a least payment stated, or a fund beside it. */
export type Bound = 'plan' | 'contract' | 'least' | 'fund';

/** A loan that is cleared by a day. Amounts in minor units. */
export interface PlannedLoan {
  readonly balance: MinorUnits;
  /** Interest charged and not paid by the end of the plan's day. */
  readonly unpaid: MinorUnits;
  /** The larger of the plan's amount, the least payment and the first that the contract asks. */
  readonly payment: MinorUnits;
  /** Payments in which something is paid. */
  readonly payments: number;
  readonly finalPayment: MinorUnits;
  readonly clears: CalendarDay;
  /** Of rows after the plan's day. */
  readonly interest: MinorUnits;
  readonly paid: MinorUnits;
  readonly bound: Bound;
  readonly rows: readonly PlannedRow[];
}

/** A loan of which no payment falls due by the day. */
export interface OutOfReach {
  /** The earliest day by which it could be cleared; none where nothing falls due any more. */
  readonly earliest: CalendarDay | undefined;
}

/** The plan's amount that clears a loan by a day, and what decides. Minor units. */
export interface Level {
  readonly level: MinorUnits;
  readonly bound: Bound;
  readonly through: number;
}

/** The last day after the plan's day on which something is drawn; before the plan's day where nothing is. */
function lastDraw({ schedule, on }: Contract): CalendarDay {
  const draws = rowsAfter(schedule, on).filter(({ drawn }) => drawn > 0);
  return draws.at(-1)?.on ?? on;
}

/** The least amount that clears a loan by a day; where none does, when it could be. */
export function levelBy(
  contract: Contract,
  regular: RegularContract | undefined,
  clearBy: CalendarDay,
  least: MinorUnits,
): Level | OutOfReach {
  const through = duesBy(contract, clearBy);
  const drawn = lastDraw(contract);
  const reaches = contract.dues.find((due) => due.on > drawn);
  if (through === 0 || !reaches || reaches.on > clearBy) {
    // What is agreed, as a settlement between due dates, may clear it where no payment does.
    if (isCleared(contract.schedule, clearBy)) return { level: 0, bound: 'contract', through };
    return { earliest: reaches?.on };
  }
  const unplanned = (level: number): boolean => {
    if (regular) return follow(regular, level, through).clearedBy >= 0;
    return clearsBy(contract, level, clearBy);
  };
  if (unplanned(least)) {
    const first = contract.dues[0]?.amount ?? 0;
    return { level: least, bound: least > first ? 'least' : 'contract', through };
  }
  const level = regular
    ? leastOfRegular(regular, least, through)
    : leastOfAny(contract, least, clearBy, levelGuess(contract, through));
  return { level, bound: 'plan', through };
}

/**
 * About the level payment that clears what is owed in so many dues, minor units: where the search for it begins. Source:
 * present value of an annuity.
 */
function levelGuess({ schedule, on, balance, unpaid }: Contract, through: number): MinorUnits {
  const { rates, terms } = schedule;
  const annual = ratioToNumber(rates[rateAt(rates, on)]?.annualRate ?? terms.annualRate);
  const rate = annual / paymentsPerYear[terms.every];
  const owed = balance + unpaid;
  return Math.ceil(rate > 0 ? (owed * rate) / -Math.expm1(-through * Math.log1p(rate)) : owed / through);
}

/** Plans one loan to be cleared by a day. */
export function planLoan(
  contract: Contract,
  clearBy: CalendarDay,
  least: MinorUnits,
): PlannedLoan | OutOfReach {
  const found = levelBy(contract, regularContract(contract), clearBy, least);
  if ('earliest' in found) return found;
  const amounts = raised(contract, Math.max(found.level, least), found.through);
  const schedule = paidSchedule(contract, amounts);
  if (!schedule) return { earliest: undefined };
  const payment = Math.max(found.level, least, contract.dues[0]?.amount ?? 0);
  return plannedOf(rowsAfter(schedule, contract.on), { ...contract, payment }, found.bound);
}

/** What stands at the plan's day, and what is paid each time from then on. Minor units. */
export interface PlannedFrom {
  readonly on: CalendarDay;
  readonly balance: MinorUnits;
  readonly unpaid: MinorUnits;
  readonly payment: MinorUnits;
}

/** What rows after the plan's day come to. */
export function plannedOf(
  rows: readonly PlannedRow[],
  { on, balance, unpaid, payment }: PlannedFrom,
  bound: Bound,
): PlannedLoan {
  const paying = rows.filter(({ paid }) => paid > 0);
  const sum = (of: (row: PlannedRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  return {
    balance,
    unpaid,
    payment,
    payments: paying.length,
    finalPayment: paying.at(-1)?.paid ?? 0,
    clears: paying.at(-1)?.on ?? on,
    interest: sum(({ interest }) => interest),
    paid: sum(({ paid }) => paid),
    bound,
    rows,
  };
}

/** The rows of a schedule after a day. */
export function rowsAfter(schedule: LoanSchedule, on: CalendarDay): PlannedRow[] {
  const { length, date } = schedule;
  const interest = bookedInterest(schedule);
  const rows: PlannedRow[] = [];
  for (let row = lastRowOn(date, length, on) + 1; row < length; row += 1) {
    const at = (column: Float64Array): number => column[row] as number;
    const unpaid = row === 0 ? 0 : (schedule.unpaid[row - 1] as number);
    const drawn = kindOfRow(schedule, row) === 'draw' ? at(schedule.added) : 0;
    const principal = at(schedule.opening) + at(schedule.added) - at(schedule.closing);
    rows.push({
      on: date[row] as number,
      // Interest that joins the balance is not paid.
      paid: at(interest) + unpaid - at(schedule.unpaid) - (at(schedule.added) - drawn) + principal,
      interest: at(interest),
      principal,
      drawn,
      closing: at(schedule.closing),
      unpaid: at(schedule.unpaid),
    });
  }
  return rows;
}

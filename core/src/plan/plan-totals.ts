import { calendarFields, type CalendarDay } from '../calendar/calendar-day.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import type { PlannedLoan } from '../loan/plan/plan-loan.ts';
import { exactProof, type Proof } from '../proofs/proof.ts';
import { leftAfter, type PlannedMember } from './plan.ts';
import type { MinorUnits } from '../units/units.ts';

/** What a plan comes to in a year. Minor units. */
export interface PlanYear {
  readonly year: number;
  /** What is owed at the end of it. */
  readonly closing: MinorUnits;
  readonly interest: MinorUnits;
  readonly principal: MinorUnits;
}

/** The year that a day belongs to, by the year that it ends in. */
function yearOf(day: CalendarDay, yearEndMonth: number): number {
  const { year, month } = calendarFields(day);
  return month > yearEndMonth ? year + 1 : year;
}

/**
 * What is owed at the end of each year, and the interest and principal in it: from the year after whose beginning the
 * plan starts to the one that another day falls in.
 *
 * @example
 * planYears(byContract(loan, day('2025-06-30')), day('2025-06-30'), day('2025-12-31'), 12).length // 1
 */
export function planYears(
  { balance, rows }: Pick<PlannedLoan, 'balance' | 'rows'>,
  on: CalendarDay,
  through: CalendarDay,
  yearEndMonth: number,
): PlanYear[] {
  const years: PlanYear[] = [];
  let closing = balance;
  const last = yearOf(through, yearEndMonth);
  for (let year = yearOf(on + 1, yearEndMonth); year <= last; year += 1) {
    const ofYear = rows.filter((row) => yearOf(row.on, yearEndMonth) === year);
    closing = ofYear.at(-1)?.closing ?? closing;
    const sum = (of: 'interest' | 'principal'): number => ofYear.reduce((total, row) => total + row[of], 0);
    years.push({ year, closing, interest: sum('interest'), principal: sum('principal') });
  }
  return years;
}

/** A plan in all. Minor units. */
export interface PlanTotals {
  readonly balance: MinorUnits;
  readonly interest: MinorUnits;
  readonly paid: MinorUnits;
  /** Twelve times the payments of a month: each payment, and each deposit, by how often a year it is made. */
  readonly yearlyCash: MinorUnits;
  readonly years: readonly PlanYear[];
}

/**
 * Sums of planned members of one currency, by years that each of them has.
 *
 * @example
 * planTotals([], []).paid // 0
 */
export function planTotals(
  members: readonly PlannedMember[],
  years: readonly (readonly PlanYear[])[],
): PlanTotals {
  const sum = (of: (member: PlannedMember) => number): number =>
    members.reduce((total, member) => total + of(member), 0);
  const ofYear = (at: number, of: keyof PlanYear): number =>
    years.reduce((total, each) => total + (each[at]?.[of] ?? 0), 0);
  return {
    balance: sum(({ balance }) => balance),
    interest: sum(({ interest }) => interest),
    paid: sum(({ paid }) => paid),
    yearlyCash: sum(
      ({ payment, every, fund }) =>
        payment * paymentsPerYear[every] +
        (fund ? (fund.deposit ?? 0) * paymentsPerYear[fund.terms.every] : 0),
    ),
    years: (years[0] ?? []).map(({ year }, at) => ({
      year,
      closing: ofYear(at, 'closing'),
      interest: ofYear(at, 'interest'),
      principal: ofYear(at, 'principal'),
    })),
  };
}

/**
 * That the table of years cross-foots with the loans, and what is paid with what was owed.
 *
 * @example
 * planProofs([], planTotals([], [])).every(({ holds }) => holds) // true
 */
export function planProofs(
  members: readonly PlannedMember[],
  { interest, paid, balance, years }: PlanTotals,
): Proof[] {
  const overYears = years.reduce((sum, year) => sum + year.interest, 0);
  const unpaid = members.reduce((sum, member) => sum + member.unpaid, 0);
  const drawn = members.reduce((sum, { rows }) => sum + rows.reduce((total, row) => total + row.drawn, 0), 0);
  const left = members.reduce((sum, member) => sum + leftAfter(member), 0);
  return [
    exactProof('Interest over loans = interest over years', interest - overYears),
    exactProof(
      'Paid − balance at the beginning − interest unpaid then − draws since + balance left = interest',
      paid - balance - unpaid - drawn + left - interest,
    ),
  ];
}

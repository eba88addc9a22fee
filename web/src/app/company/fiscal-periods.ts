import { addMonths, calendarFields, formatDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import { monthName, type CompanyView, type PeriodState } from '@coffer/contract';

/** One month of the rail. */
export interface RailPeriod {
  readonly endsOn: string;
  /** Such as `Oct`. */
  readonly month: string;
  /** `before` is earlier than the books. */
  readonly state: PeriodState | 'future' | 'before';
}

/** One fiscal year of the rail, named by the calendar year it ends in. */
export interface RailYear {
  readonly name: string;
  readonly periods: readonly RailPeriod[];
}

/** The fiscal year that a day lies in and the one before it, month by month. */
export function railYears(company: CompanyView, around: string): RailYear[] {
  const { year, month } = calendarFields(parseDay(around) as CalendarDay);
  const endYear = month > company.fiscalYearEndMonth ? year + 1 : year;
  const states = new Map(company.periods.map((period) => [period.endsOn, period.state]));
  const stateOf = (endsOn: string): RailPeriod['state'] =>
    states.get(endsOn) ?? (endsOn < company.booksFrom ? 'before' : 'future');
  return [endYear - 1, endYear].map((ends) => {
    const padded = String(company.fiscalYearEndMonth).padStart(2, '0');
    const last = monthEnd(parseDay(`${ends}-${padded}-01`) as CalendarDay);
    const periods = Array.from({ length: 12 }, (_, at): RailPeriod => {
      const end = addMonths(last, at - 11, true);
      const endsOn = formatDay(end);
      return { endsOn, month: monthName(calendarFields(end).month), state: stateOf(endsOn) };
    });
    return { name: `Fiscal ${ends}`, periods };
  });
}

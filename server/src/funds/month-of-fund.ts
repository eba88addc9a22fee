import { booksDiffer, firstDay, fundEnd, parseDay, proofsOf, type CalendarDay } from '@coffer/core';
import type { CloseFund } from '@coffer/contract';
import type { Worked } from '../instruments/known-instruments.ts';
import { isHeld, type BookedInstrument, type MonthAsked } from '../periods/month-of-instrument.ts';
import { entriesOfMonth, type EntriesOfMonth } from '../periods/left-out.ts';
import { monthStart } from '../periods/period-store.ts';
import { fundFiguresOn } from './fund-standing.ts';
import { workedOutFund } from './known-fund.ts';

/** What closing a month makes of one fund. */
export interface MonthOfFund extends EntriesOfMonth {
  readonly fund: CloseFund;
  /** It was withdrawn: its entries leave the books, and nothing is reported of it any more. */
  readonly withdrawn?: true;
  /** A proof of its schedule that does not hold, where proofs are looked at. */
  readonly failing?: string | undefined;
}

/** The month of one fund; or that it has not begun, is paid out, or that its closed months are wanted one by one. */
export type FundMonthPart = MonthOfFund | 'not-begun' | 'settled' | 'months-wanted';

/** Works out the month of one fund, as {@link monthOfInstrument} does of what is owed. */
export function monthOfFund(
  { version, books, apart }: BookedInstrument,
  { endsOn, booksFrom, choices, materiality, proving }: MonthAsked,
): Worked<FundMonthPart> {
  return workedOutFund(version, (known) => {
    const { id, document, schedule } = known;
    const end = parseDay(endsOn) as CalendarDay;
    if (firstDay(schedule) > end && !isHeld(books)) return 'not-begun';
    const begun = parseDay(booksFrom) as CalendarDay;
    if (!apart && booksDiffer(schedule, end, begun, books)) return 'months-wanted';
    const made = entriesOfMonth(schedule, end, begun, books, choices, materiality);
    if (fundEnd(schedule) < monthStart(endsOn) && made.inPeriod.length === 0) return 'settled';
    return {
      ...made,
      fund: { id, name: document.name, version: known.version, figures: fundFiguresOn(known, end) },
      failing: proving ? proofsOf(schedule).find(({ holds }) => !holds)?.name : undefined,
    };
  });
}

import type { BondSchedule } from '../bond/schedule/bond-schedule.ts';
import type { BondTerms } from '../bond/terms/bond-terms.ts';
import type { FundSchedule } from '../fund/fund-schedule.ts';
import type { FundTerms } from '../fund/fund-terms.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';

/** The terms and events of anything that is owed. */
export type Instrument = LoanTerms | BondTerms;

/** The terms of any kind. */
export type AnyTerms = Instrument | FundTerms;

/** The schedule of anything that is owed. */
export type Schedule = LoanSchedule | BondSchedule;

/** The schedule of any kind: of what is owed, or of a fund that repays it. */
export type AnySchedule = Schedule | FundSchedule;

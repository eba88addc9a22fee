import { closedDaysTaken } from '../closed-days/closed-days-taken.ts';
import { fundInBooks } from '../funds/fund-in-books.ts';
import { fundStanding } from '../funds/fund-standing.ts';
import { monthOfFund } from '../funds/month-of-fund.ts';
import { dueOfInstrument } from '../payments/payments-due.ts';
import { takenBackPayments } from '../payments/taken-back-payments.ts';
import { recordedPayments } from '../payments/recorded-payments.ts';
import { differenceOfInstrument } from '../periods/difference-of-instrument.ts';
import { monthOfInstrument } from '../periods/month-of-instrument.ts';
import { portfolioOfInstrument } from '../portfolio/portfolio-of-instrument.ts';
import { triedOfInstrument } from '../portfolio/tried-of-instrument.ts';
import { followedInstrument } from '../rates/followed-instrument.ts';
import { changedToKeep } from '../scenarios/changed-to-keep.ts';
import { outlooksOfInstrument } from '../scenarios/outlooks-of-instrument.ts';
import { registerOfInstrument } from '../register/register-of-instrument.ts';
import { instrumentInBooks } from '../verify/instrument-in-books.ts';
import { publishedRows, recordForPaper, recordOfInstrument } from '../instruments/files/instrument-record.ts';
import { readToKeep } from '../instruments/read-to-keep.ts';

/** What can be asked of instruments in the threads: each takes one instrument and what is asked of all alike. */
export const works = {
  register: registerOfInstrument,
  month: monthOfInstrument,
  difference: differenceOfInstrument,
  'fund-standing': fundStanding,
  'fund-month': monthOfFund,
  'fund-in-books': fundInBooks,
  portfolio: portfolioOfInstrument,
  'tried-portfolio': triedOfInstrument,
  outlooks: outlooksOfInstrument,
  'changed-to-keep': changedToKeep,
  followed: followedInstrument,
  'closed-days': closedDaysTaken,
  'due-payments': dueOfInstrument,
  'recorded-payments': recordedPayments,
  'taken-back-payments': takenBackPayments,
  'read-to-keep': readToKeep,
  'in-books': instrumentInBooks,
  'published-rows': publishedRows,
  'instrument-record': recordOfInstrument,
  'paper-record': recordForPaper,
};

export type WorkName = keyof typeof works;

/** One instrument as a piece of work takes it. */
export type ItemOf<Name extends WorkName> = Parameters<(typeof works)[Name]>[0];

/** What is asked of all instruments alike. */
export type AskedOf<Name extends WorkName> = Parameters<(typeof works)[Name]>[1];

/** What a piece of work makes of one instrument. */
export type MadeOf<Name extends WorkName> = ReturnType<(typeof works)[Name]>;

/** Some instruments for a thread to work through. */
export interface Share<Name extends WorkName> {
  readonly work: Name;
  readonly asked: AskedOf<Name>;
  readonly items: readonly ItemOf<Name>[];
}

import {
  amortizedBetween,
  firstDay,
  interestExpense,
  parseDay,
  booksDiffer,
  type Books,
  type CalendarDay,
  type Materiality,
} from '@coffer/core';
import {
  paymentsDue,
  recordsPayments,
  type Attention,
  type CloseRow,
  type UnrecordedPayment,
} from '@coffer/contract';
import {
  failingProof,
  figuresOn,
  isSettled,
  workedOut,
  type KnownInstrument,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';
import { unrecordedBy } from '../payments/payments-due.ts';
import { attentionOn } from '../register/attention.ts';
import { entriesOfMonth, type EntriesOfMonth } from './left-out.ts';
import { monthStart, type AccrualChoices } from './period-store.ts';

/** An instrument, with what the books hold for it. */
export interface BookedInstrument {
  readonly version: StoredVersion;
  readonly books: Books;
  /** Whether the closed months stand one by one in them. */
  readonly apart: boolean;
}

/** What is asked of every instrument of a month. */
export interface MonthAsked {
  readonly endsOn: string;
  /** First day that the books cover. */
  readonly booksFrom: string;
  readonly choices: AccrualChoices;
  readonly materiality: Materiality;
  /** Whether its proofs are looked at. */
  readonly proving: boolean;
}

/** What closing a month makes of one instrument. */
export interface MonthOfInstrument extends EntriesOfMonth {
  readonly row: CloseRow;
  /** Payments that fall due in the month, and how many of them are recorded. */
  readonly payments: { readonly due: number; readonly recorded: number };
  readonly unrecorded: readonly UnrecordedPayment[];
  readonly attention: readonly Attention[];
  /** It was withdrawn: its entries leave the books, and nothing is reported of it any more. */
  readonly withdrawn?: true;
  /** A proof of its schedule that does not hold, where proofs are looked at. */
  readonly failing?: string | undefined;
}

/** The month of one instrument; or that it has not begun, is settled and needs nothing, or that its closed months are wanted one by one. */
export type MonthPart = MonthOfInstrument | 'not-begun' | 'settled' | 'months-wanted';

/** Works out the month of one instrument. */
export function monthOfInstrument(
  { version, books, apart }: BookedInstrument,
  asked: MonthAsked,
): Worked<MonthPart> {
  return workedOut(version, (instrument) => monthOf(instrument, books, apart, asked));
}

/** Whether the closed months hold anything of an instrument. */
export function isHeld({ closed }: Books): boolean {
  return closed.some(({ moved }) => [...moved.values()].some((amount) => amount !== 0));
}

function monthOf(
  instrument: KnownInstrument,
  books: Books,
  apart: boolean,
  { endsOn, booksFrom, choices, materiality, proving }: MonthAsked,
): MonthPart {
  const { id, version, schedule, document } = instrument;
  const end = parseDay(endsOn) as CalendarDay;
  // What was moved past the month is still in the books until that is corrected.
  if (firstDay(schedule) > end && !isHeld(books)) return 'not-begun';
  const before = monthStart(endsOn) - 1;
  const begun = parseDay(booksFrom) as CalendarDay;
  if (!apart && booksDiffer(schedule, end, begun, books)) return 'months-wanted';
  const made = entriesOfMonth(schedule, end, begun, books, choices, materiality);
  const figures = figuresOn(instrument, end);
  const figuresBefore = figuresOn(instrument, before);
  const settled = isSettled(instrument, figures, end) && isSettled(instrument, figuresBefore, before);
  if (settled && made.inPeriod.length === 0) return 'settled';
  const row: CloseRow = {
    id,
    name: document.name,
    version,
    figures,
    expense: interestExpense(schedule, before, end),
    amortized: amortizedBetween(schedule, before, end),
    currentChange: figures.current - figuresBefore.current,
  };
  return {
    ...made,
    row,
    payments: paymentsOf(instrument, before + 1, end),
    unrecorded: unrecordedBy(instrument, endsOn, end),
    attention: attentionOn(instrument, figures, end),
    failing: proving ? failingProof(instrument)?.name : undefined,
  };
}

function paymentsOf(
  { schedule }: KnownInstrument,
  from: CalendarDay,
  to: CalendarDay,
): { due: number; recorded: number } {
  if (!recordsPayments(schedule)) return { due: 0, recorded: 0 };
  const ofMonth = paymentsDue(schedule, from, to);
  const recorded = ofMonth.filter((row) => schedule.receipts.byDue.has(row.due));
  return { due: ofMonth.length, recorded: recorded.length };
}

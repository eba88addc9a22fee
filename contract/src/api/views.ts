import { question } from './confirm.ts';
import * as v from 'valibot';
import { accountRoles, entryKinds, positionFigureKeys } from '@coffer/core';
import { amountText, dayText, shortText } from '../document/scalars.ts';
import { habits } from '../words/habits.ts';
import { accountOfRole } from './account-views.ts';
import { fundFigures, fundRowView } from './fund-views.ts';
import { instrumentId, minorUnits } from './ids.ts';

/** What a month goes through: open, handed over to who reviews it, closed. */
export const periodStates = ['open', 'prepared', 'closed'] as const;
export type PeriodState = (typeof periodStates)[number];

/** How a month was closed: approved by a second person, by one alone, or brought in closed with a bundle. */
export const closedWays = ['reviewed', 'alone', 'brought'] as const;
export type ClosedWay = (typeof closedWays)[number];

/** A fiscal period; at most one is not closed, those after it are future and not listed. */
export const periodView = v.strictObject({
  endsOn: dayText,
  state: v.picklist(periodStates),
  closedAt: v.nullable(v.string()),
  closedBy: v.nullable(v.string()),
  closedAs: v.nullable(v.picklist(closedWays)),
});
export type PeriodView = v.InferOutput<typeof periodView>;

/** How the register groups instruments. */
export const instrumentClasses = ['term-loan', 'note', 'credit-line', 'bond'] as const;
export type InstrumentClass = (typeof instrumentClasses)[number];

/** What a company calls its classes of instruments. */
export const classNames = v.pipe(
  v.strictObject(v.entriesFromList(instrumentClasses, shortText)),
  v.check(
    (names) => new Set(Object.values(names)).size === instrumentClasses.length,
    'Each class needs a name of its own.',
  ),
);
export type ClassNames = Readonly<Record<InstrumentClass, string>>;

/** The company whose books these are. */
export const companyView = v.strictObject({
  id: v.number(),
  name: v.string(),
  currency: v.string(),
  digits: v.number(),
  fiscalYearEndMonth: v.number(),
  booksFrom: dayText,
  periods: v.array(periodView),
  habits,
  classNames,
  /** What the company calls its accounts. */
  accounts: v.array(v.strictObject({ role: v.picklist(accountRoles), code: v.string(), name: v.string() })),
});
export type CompanyView = v.InferOutput<typeof companyView>;

/** The figures of a position, minor units. */
export const figuresView = v.strictObject(v.entriesFromList(positionFigureKeys, minorUnits));
export type FiguresView = v.InferOutput<typeof figuresView>;

/** An instrument that cannot be worked out for what was asked, and why; all others stand. */
export const unworkable = v.strictObject({ instrumentId, name: v.string(), message: v.string() });
export type Unworkable = v.InferOutput<typeof unworkable>;

/** One instrument in the register. */
export const registerRow = v.strictObject({
  id: instrumentId,
  version: v.number(),
  kind: v.picklist(['loan', 'credit-line', 'bond']),
  class: v.picklist(instrumentClasses),
  name: v.string(),
  lender: v.nullable(v.string()),
  /** Such as `level, monthly`. */
  pattern: v.string(),
  /** In force on the day, such as `6.1%`; of a bond its effective rate. */
  rate: v.string(),
  /** Whether the rate floats, changes, or is an effective one. */
  rateNote: v.nullable(v.string()),
  /** Null for a credit line without an end. */
  matures: v.nullable(dayText),
  /** What was borrowed: the principal of a loan, the face of a bond. */
  borrowed: minorUnits,
  figures: figuresView,
});
export type RegisterRow = v.InferOutput<typeof registerRow>;

/** Something about an instrument that somebody should see to. */
export const attention = v.strictObject({
  instrumentId,
  name: v.string(),
  kind: v.picklist(['fixing-due', 'overpaid', 'renewal-near', 'matures', 'instalment-near']),
  on: dayText,
});
export type Attention = v.InferOutput<typeof attention>;

/** A payment that fell due in the open period and that nobody has recorded. */
export const unrecordedPayment = v.strictObject({
  instrumentId,
  name: v.string(),
  due: dayText,
  amount: minorUnits,
});
export type UnrecordedPayment = v.InferOutput<typeof unrecordedPayment>;

/** What left the bank for a payment that fell due. */
export const paymentMade = v.strictObject({
  instrumentId,
  /** The version of the instrument that was looked at. */
  version: v.pipe(v.number(), v.integer(), v.minValue(1)),
  due: dayText,
  on: dayText,
  /** Zero for a missed payment. */
  amount: amountText,
  /** Takes the place of what was recorded before. */
  corrects: v.optional(v.boolean()),
  /** Another part of the payment, beside what is recorded already. */
  adds: v.optional(v.boolean()),
});
export type PaymentMade = v.InferOutput<typeof paymentMade>;

/** A payment of which all that was recorded is taken back. */
export const paymentTakenBack = v.strictObject({
  instrumentId,
  /** The version of the instrument that was looked at. */
  version: v.pipe(v.number(), v.integer(), v.minValue(1)),
  due: dayText,
});
export type PaymentTakenBack = v.InferOutput<typeof paymentTakenBack>;

/** A payment that falls due, as agreed and, where it is recorded, as it was made. */
export const duePayment = v.strictObject({
  instrumentId,
  version: v.number(),
  name: v.string(),
  lender: v.nullable(v.string()),
  n: v.number(),
  due: dayText,
  /** As agreed until it is recorded; then what the books make of it. */
  interest: minorUnits,
  /** Of a bill of a credit line: the fee on what is not drawn. */
  fee: minorUnits,
  /** Principal, and until it is recorded what earlier bills left unpaid. */
  principal: minorUnits,
  /** As agreed, whatever was recorded. */
  amount: minorUnits,
  /** The parts it was paid in, in order of days; none while nothing is recorded. */
  recorded: v.array(v.strictObject({ on: dayText, amount: minorUnits })),
  /** What of a recorded payment is in arrears: it was paid short, and nothing has made up for it since. */
  left: minorUnits,
});
export type DuePayment = v.InferOutput<typeof duePayment>;

/** What falls due in the open month, in order of the day; before it what is in arrears of earlier months. */
export const duePaymentsView = v.strictObject({
  /** Last day of the open month; null when every month is closed. */
  month: v.nullable(dayText),
  payments: v.array(duePayment),
});
export type DuePaymentsView = v.InferOutput<typeof duePaymentsView>;

/** The register on a day. */
export const registerView = v.strictObject({
  on: dayText,
  /** The day ends a closed period, and these are the figures reported then. */
  reported: v.boolean(),
  rows: v.array(registerRow),
  unworkable: v.array(unworkable),
  /** What is held to repay debts. */
  funds: v.array(fundRowView),
  /** Instruments with nothing outstanding on the day, left out of the rows. */
  settled: v.number(),
  unrecorded: v.array(unrecordedPayment),
  attention: v.array(attention),
  /** Principal and face due in each of the five years after the day, and later. */
  maturities: v.array(minorUnits),
});
export type RegisterView = v.InferOutput<typeof registerView>;

/** Who made a version of an instrument's terms, when and why. */
export const versionView = v.strictObject({
  version: v.number(),
  madeBy: v.string(),
  madeAt: v.string(),
  reason: v.string(),
});
export type VersionView = v.InferOutput<typeof versionView>;

/** An instrument, or a fund, with its history and what closed periods reported of it. */
export const instrumentView = v.strictObject({
  id: instrumentId,
  version: v.number(),
  document: v.looseObject({ document: v.string(), name: v.string() }),
  versions: v.array(versionView),
  reported: v.array(v.strictObject({ periodEnd: dayText, version: v.number(), figures: figuresView })),
  /** What closed periods reported of it where it is a fund. */
  reportedFund: v.array(v.strictObject({ periodEnd: dayText, version: v.number(), figures: fundFigures })),
  /** The accounts that its entries go to by role, and whether each is its own; its cost centre. */
  accounts: v.array(v.strictObject({ ...accountOfRole.entries, name: v.string(), own: v.boolean() })),
  costCentre: v.nullable(v.string()),
  /** Where it was withdrawn: when, by whom and why. */
  withdrawn: v.nullable(v.strictObject({ at: v.string(), by: v.string(), reason: v.string() })),
});
export type InstrumentView = v.InferOutput<typeof instrumentView>;

/** One line of an entry. */
export const entryLineView = v.strictObject({
  role: v.picklist(accountRoles),
  code: v.string(),
  account: v.string(),
  debit: minorUnits,
  credit: minorUnits,
});
export type EntryLineView = v.InferOutput<typeof entryLineView>;

/** A journal entry; without a number while its period is not locked. */
export const entryView = v.strictObject({
  number: v.nullable(v.number()),
  date: dayText,
  kind: v.picklist(entryKinds),
  memo: v.string(),
  instrumentId,
  instrument: v.string(),
  /** The version of the instrument that it comes from. */
  version: v.number(),
  /** The payment or coupon number that it comes from. */
  row: v.nullable(v.number()),
  /** The closed month that an opening or a correction stands for. */
  forPeriod: v.nullable(dayText),
  costCentre: v.nullable(v.string()),
  lines: v.array(entryLineView),
});
export type EntryView = v.InferOutput<typeof entryView>;

/** The entries of one kind added up by account. */
export const entrySum = v.strictObject({
  kind: v.picklist(entryKinds),
  count: v.number(),
  lines: v.array(entryLineView),
});
export type EntrySum = v.InferOutput<typeof entrySum>;

/** What an answer says when a call is refused. */
export const refusalView = v.strictObject({
  error: v.strictObject({
    /** A word that programs can rely on, such as `stale-version`. */
    code: v.string(),
    message: v.string(),
    faults: v.optional(v.array(v.strictObject({ key: v.string(), message: v.string() }))),
    /** With status 409: what is to be confirmed; the call is repeated with its codes under `confirm`. */
    confirm: v.optional(v.array(question)),
  }),
});
export type RefusalView = v.InferOutput<typeof refusalView>;

/** Why terms were changed. */
export const reasonText = shortText;

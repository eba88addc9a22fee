import * as v from 'valibot';
import { accountRoles, accrualChoices, entryKinds, positionFigureKeys } from '@coffer/core';
import { anyDocument } from '../document/any-document.ts';
import { dayText, shortText, signedRateText } from '../document/scalars.ts';
import { indexKey } from '../rates/follow-index.ts';
import { changesSomething, changeWays } from '../scenario/instrument-change.ts';
import { fixingSources } from './rate-views.ts';
import { paperTypes } from './paper-views.ts';
import { trailHead } from './close-views.ts';
import { newCompany } from './set-up-views.ts';
import { companySettings, settingKeys } from './settings-views.ts';
import { toldAtClose } from './told-at-close.ts';

/** What the first file of a bundle says it is. */
export const bundleVersion = 'coffer.company/1';

/** The most that a bundle may be, in bytes: packed, and unpacked. */
export const mostBundleBytes = 250_000_000;
export const mostUnpackedBytes = 1_000_000_000;

const ordinal = v.pipe(v.number(), v.integer(), v.minValue(1));
const whole = v.pipe(v.number(), v.integer());
const moment = v.pipe(v.string(), v.isoTimestamp('expected a moment such as 2026-11-03T09:04:00+00:00.'));
const text = v.pipe(v.string(), v.maxLength(4000));
const amounts = <Key extends string>(keys: readonly Key[]): v.ObjectEntries & Record<Key, typeof whole> =>
  v.entriesFromList(keys, whole);

/** The company of a bundle, which its first file tells. */
export const bundleHead = v.strictObject({
  bundle: v.literal(bundleVersion, `expected "${bundleVersion}".`),
  madeAt: moment,
  name: shortText,
  currency: newCompany.entries.currency,
  fiscalYearEndMonth: newCompany.entries.fiscalYearEndMonth,
  booksFrom: newCompany.entries.booksFrom,
  /** Where the audit trail of the installation stood. */
  trail: v.optional(trailHead),
});
export type BundleHead = v.InferOutput<typeof bundleHead>;

/** How an instrument, an index or an account is told from others within a bundle. */
const instrument = ordinal;

/**
 * The rows of a bundle by their file: one JSON object a line, in the order in which they are written. Instruments and
 * indexes are told by their place, from 1. Amounts are minor units. People are left out.
 */
export const bundleFiles = {
  settings: v.pipe(
    v.strictObject({
      key: v.picklist(settingKeys),
      was: v.unknown(),
      value: v.unknown(),
      holdsFrom: dayText,
      reason: text,
      keptAt: moment,
    }),
    v.check(
      ({ key, value }) => v.is(companySettings.entries[key], value),
      'expected a value that the setting can have.',
    ),
  ),
  accounts: v.strictObject({ code: text, name: text }),
  accountsOfRoles: v.strictObject({ role: v.picklist(accountRoles), code: text }),
  ledgerBalances: v.strictObject({ code: text, balance: whole }),
  indexes: v.pipe(
    v.strictObject({ name: text, key: text, revision: whole }),
    v.check(({ name, key }) => key === indexKey(name), 'expected the name as names are compared.'),
  ),
  fixings: v.strictObject({
    index: ordinal,
    onDay: dayText,
    rate: v.nullable(signedRateText),
    source: v.picklist(fixingSources),
    reason: text,
    keptAt: moment,
  }),
  instruments: v.strictObject({
    name: text,
    kind: v.picklist(['debt', 'fund']),
    version: ordinal,
    createdAt: moment,
    withdrawnAt: v.nullable(moment),
    withdrawnBecause: v.nullable(text),
    costCentre: v.nullable(text),
  }),
  versions: v.strictObject({
    instrument,
    version: ordinal,
    // As it was written: what reads it may know more ways to write the same.
    document: v.pipe(
      v.record(v.string(), v.unknown()),
      v.check((document) => v.is(anyDocument, document), 'expected the document of an instrument or a fund.'),
    ),
    reason: text,
    madeAt: moment,
  }),
  accountsOfInstruments: v.strictObject({ instrument, role: v.picklist(accountRoles), code: text }),
  papers: v.strictObject({
    instrument,
    name: text,
    type: v.picklist(paperTypes),
    bytes: ordinal,
    /** In hexadecimal. */
    sha256: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'expected a SHA-256 in hexadecimal.')),
    keptAt: moment,
    takenAwayAt: v.nullable(moment),
    takenAwayBecause: v.nullable(text),
  }),
  periods: v.strictObject({
    endsOn: dayText,
    state: v.picklist(['open', 'closed']),
    closedAt: v.nullable(moment),
    accruals: v.picklist(accrualChoices),
    settled: v.nullable(whole),
    reversals: v.nullable(whole),
  }),
  entries: v.strictObject({
    number: ordinal,
    periodEnd: dayText,
    date: dayText,
    kind: v.picklist(entryKinds),
    memo: text,
    instrument,
    instrumentVersion: ordinal,
    rowNumber: v.nullable(whole),
    postedAt: moment,
    forPeriod: v.nullable(dayText),
    costCentre: v.nullable(text),
    lines: v.pipe(
      v.array(v.strictObject({ role: v.picklist(accountRoles), code: text, debit: whole, credit: whole })),
      v.minLength(2, 'expected two lines or more.'),
    ),
  }),
  reported: v.strictObject({
    periodEnd: dayText,
    instrument,
    instrumentVersion: ordinal,
    ...amounts(positionFigureKeys),
    expense: whole,
    amortized: whole,
    currentChange: whole,
  }),
  reportedFunds: v.strictObject({
    periodEnd: dayText,
    instrument,
    instrumentVersion: ordinal,
    ...amounts(['balance', 'accruedInterest', 'deposited', 'earned', 'toGoal']),
  }),
  leftOut: v.strictObject({
    periodEnd: dayText,
    instrument,
    madeGood: v.boolean(),
    role: v.picklist(accountRoles),
    amount: whole,
  }),
  toldAtClose: v.strictObject({ periodEnd: dayText, instrument, told: toldAtClose }),
  scenarios: v.strictObject({ name: text, revision: ordinal, changedAt: moment }),
  scenarioChanges: v.strictObject({
    scenario: ordinal,
    place: whole,
    instrument,
    instrumentVersion: ordinal,
    change: v.pipe(
      v.strictObject(changeWays),
      v.check(changesSomething, 'nothing is changed; give a change, other terms, or events.'),
    ),
  }),
} as const;
/** Files that bundles of an earlier Coffer do not have: nothing was kept of the kind. */
export const laterBundleFiles: readonly string[] = ['leftOut', 'toldAtClose'];

export type BundleFile = keyof typeof bundleFiles;
export type BundleRow<File extends BundleFile> = v.InferOutput<(typeof bundleFiles)[File]>;
export type BundleRows = { readonly [File in BundleFile]: readonly BundleRow<File>[] };

/** What a bundle came to: the company that was made. */
export const bundleKept = v.strictObject({
  companyId: v.number(),
  name: v.string(),
  instruments: v.number(),
  entries: v.number(),
  papers: v.number(),
});

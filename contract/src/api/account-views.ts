import * as v from 'valibot';
import { accountRoles } from '@coffer/core';
import { shortText } from '../document/scalars.ts';
import { confirm } from './confirm.ts';
import { instrumentId, minorUnits } from './ids.ts';

/** The most accounts of a chart. */
export const mostAccounts = 5000;

/** The code of an account, as the ledger has it. */
export const accountCode = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'expected a code.'),
  v.maxLength(40, 'expected at most 40 characters.'),
  v.regex(/^[^\p{C}]+$/u, 'expected a code without control characters.'),
);

/** What stands for a role: the account that entries of it go to. */
export const accountOfRole = v.strictObject({ role: v.picklist(accountRoles), code: accountCode });
export type AccountOfRole = v.InferOutput<typeof accountOfRole>;

/** An account of the chart. */
export const chartAccount = v.strictObject({
  code: v.string(),
  name: v.string(),
  /** Whether something is posted in it, so that it stays. */
  posted: v.boolean(),
  /** How many instruments have it for a role of their own. */
  instruments: v.number(),
});
export type ChartAccount = v.InferOutput<typeof chartAccount>;

/** What instruments bring into an account on the first day of the books, beside what the ledger held; debits positive. */
export const broughtIn = v.strictObject({
  code: v.string(),
  brought: minorUnits,
  ledger: v.nullable(minorUnits),
});
export type BroughtIn = v.InferOutput<typeof broughtIn>;

/** What one instrument brings into an account. */
export const broughtBy = v.strictObject({ instrumentId, name: v.string(), amount: minorUnits });
export type BroughtBy = v.InferOutput<typeof broughtBy>;

/** The chart of a company. */
export const chartView = v.strictObject({
  /** Sent back with a change, so that nobody writes over what somebody else changed meanwhile. */
  revision: v.number(),
  accounts: v.array(chartAccount),
  /** The account of each role that has one. */
  defaults: v.array(accountOfRole),
  broughtIn: v.array(broughtIn),
});
export type ChartView = v.InferOutput<typeof chartView>;

/** A chart as it is to be: all of it, so that nothing is half changed. */
export const chartBody = v.strictObject({
  revision: v.pipe(v.number(), v.integer()),
  accounts: v.pipe(
    v.array(v.strictObject({ code: accountCode, name: shortText })),
    v.maxLength(mostAccounts, 'expected at most 5,000 accounts.'),
  ),
  defaults: v.array(accountOfRole),
  confirm,
});
export type ChartBody = v.InferOutput<typeof chartBody>;

/** What the ledger held in some accounts on the day before the books; debits positive, none where it is not known. */
export const ledgerBody = v.strictObject({
  balances: v.pipe(
    v.array(v.strictObject({ code: accountCode, balance: v.nullable(minorUnits) })),
    v.maxLength(mostAccounts, 'expected at most 5,000 accounts.'),
  ),
});

/** An instrument's own accounts, and its cost centre. */
export const ownAccounts = v.strictObject({
  accounts: v.array(accountOfRole),
  costCentre: v.nullable(shortText),
});
export type OwnAccounts = v.InferOutput<typeof ownAccounts>;

/** The same as it is to be. */
export const ownAccountsBody = v.strictObject({ ...ownAccounts.entries, confirm });

import type { Knex } from 'knex';
import { type AccountRole, type Entry, formatAmount, type Materiality, type MinorUnits } from '@coffer/core';
import type { BroughtIn, CloseCheck, Unworkable } from '@coffer/contract';
import { accountsOf, type Accounts } from '../accounts/accounts.ts';
import { broughtByInstrument, broughtIn, refuseUntied } from '../accounts/brought-in.ts';
import { missingAccounts, refuseMissing } from '../accounts/missing-accounts.ts';
import { companyOf } from '../company/company-store.ts';
import type { PeriodRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { closeChecks, refuseWhatDoesNotTie } from './close-checks.ts';
import { closeDigest, type CloseDigest } from './close-digest.ts';
import { monthWork, type MonthWork } from './month-work.ts';
import { notBookedAltogether, notBookedOf, type NotBooked } from './left-out.ts';
import { materialityOf } from './left-out-store.ts';
import { accrualChoicesOf, type AccrualChoices } from './period-store.ts';

/** Entries of one instrument or fund, and the version that they come from. */
export interface MadeOfOne {
  readonly id: string;
  readonly version: number;
  readonly inPeriod: readonly Entry[];
  readonly opening: Entry | undefined;
}

/** Everything that closing the open month makes: what is shown of it, what it comes to, and what is posted. */
export interface MonthMade extends MonthWork, CloseDigest {
  readonly period: PeriodRow;
  readonly choices: AccrualChoices;
  readonly accounts: Accounts;
  /** Of what is owed first, then of funds. */
  readonly made: readonly MadeOfOne[];
  readonly checks: readonly CloseCheck[];
  readonly missing: readonly AccountRole[];
  readonly brought: readonly BroughtIn[];
  /** By what small accruals are left out. */
  readonly materiality: Materiality;
  /** What is not booked, by instrument and fund. */
  readonly notBooked: readonly (readonly [id: string, of: NotBooked])[];
}

/** Works out the open month; with its proofs, where wanted. */
export async function monthMade(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  proving: boolean,
): Promise<MonthMade> {
  const work = await monthWork(database, figures, companyId, period, proving);
  const accounts = await accountsOf(database, companyId);
  const { booksFrom } = await companyOf(database, companyId);
  const made = [
    ...work.work.map(({ row: { id, version }, inPeriod, opening }) => ({ id, version, inPeriod, opening })),
    ...work.funds.map(({ fund: { id, version }, inPeriod, opening }) => ({ id, version, inPeriod, opening })),
  ];
  const toPost = made.map(({ id, inPeriod, opening }) => ({
    instrumentId: id,
    entries: opening ? [...inPeriod, opening] : inPeriod,
  }));
  const brought = await broughtByInstrument(database, companyId, booksFrom, accounts, toPost);
  const notBooked = [
    ...work.work.map((done) => [done.row.id, notBookedOf(done)] as const),
    ...work.funds.map((done) => [done.fund.id, notBookedOf(done)] as const),
  ];
  const all = {
    ...work,
    period,
    choices: await accrualChoicesOf(database, companyId, period),
    accounts,
    made,
    checks: await closeChecks(
      database,
      companyId,
      period.ends_on,
      work.work.map(({ row }) => row),
      work.funds.map(({ fund }) => fund),
      made.flatMap(({ inPeriod }) => inPeriod),
      notBookedAltogether(notBooked.map(([, of]) => of)),
    ),
    missing: missingAccounts(accounts, toPost),
    brought: await broughtIn(database, companyId, brought),
    materiality: await materialityOf(database, companyId, period.ends_on),
    notBooked,
  };
  return { ...all, ...closeDigest(all) };
}

/**
 * A month is neither handed over nor closed with an instrument that cannot be worked out or whose schedule does not
 * prove, with a role that has no account, or with figures that do not tie. Throws {@link Refusal} 409.
 */
export function refuseUnready(
  { work, funds, unworkable, missing, brought, checks }: MonthMade,
  digits: number,
): void {
  refuseUnproven(
    [
      ...work.map(({ row, failing }) => ({ name: row.name, failing })),
      ...funds.map(({ fund, failing }) => ({ name: fund.name, failing })),
    ],
    unworkable,
  );
  const money = (minor: MinorUnits): string => formatAmount(minor, digits);
  refuseMissing(missing);
  refuseUntied(brought, money);
  refuseWhatDoesNotTie(checks, money);
}

function refuseUnproven(
  proven: readonly { readonly name: string; readonly failing?: string | undefined }[],
  unworkable: readonly Unworkable[],
): void {
  const failing = proven.flatMap(({ name, failing: proof }) =>
    proof === undefined ? [] : [`${name}: a proof fails, not so is "${proof}"`],
  );
  const why = [...unworkable.map(({ name, message }) => `${name}: ${message}`), ...failing];
  if (why.length === 0) return;
  throw new Refusal(
    409,
    'not-proven',
    `Nothing was done. Correct the terms of what cannot be worked out or proven first: ${why.join('; ')}.`,
  );
}

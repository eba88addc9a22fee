import type { Knex } from 'knex';
import { monthEnd } from '@coffer/core';
import type { ConfirmCode, PaymentMade, PaymentTakenBack } from '@coffer/contract';
import { askFirst, faultyInput } from '../http/refusal.ts';
import { saveVersions } from '../instruments/change-instrument.ts';
import { newestVersionsOf, type Maker } from '../instruments/instrument-store.ts';
import { madeOf, type Worked } from '../instruments/known-instruments.ts';
import { closedMonths } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { RecordingMonths } from './ask-about-payments.ts';
import type { Placed, Recorded, WithPayments } from './kept-payments.ts';

/** How many payments of how many instruments were recorded or taken back. */
export interface Done {
  readonly payments: number;
  readonly instruments: number;
}

/**
 * Records what was paid for payments that fell due, as one new version of each instrument: all of them, or none.
 * Throws {@link Refusal} with every fault under `payments.<place>.<field>`, and 409 when an instrument was changed
 * meanwhile, cannot be worked out, or something is to be confirmed first.
 */
export async function recordPayments(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  payments: readonly PaymentMade[],
  confirm: readonly ConfirmCode[],
): Promise<Done> {
  const items = await itemsOf(database, by, payments);
  const months = await recordingMonths(database, by.companyId);
  const recorded = await figures.each('recorded-payments', months, items);
  const instruments = await save(database, by, items, recorded, confirm, 'Nothing was recorded.');
  return { payments: payments.length, instruments };
}

/** Takes back all that was recorded for payments, with the reason. Throws alike. */
export async function takeBackPayments(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  payments: readonly PaymentTakenBack[],
  reason: string,
  confirm: readonly ConfirmCode[],
): Promise<Done> {
  const items = await itemsOf(database, by, payments);
  const taken = await figures.each('taken-back-payments', reason, items);
  const instruments = await save(database, by, items, taken, confirm, 'Nothing was taken back.');
  return { payments: payments.length, instruments };
}

/** Payments with their places in what was sent, by instrument. */
async function itemsOf<Payment extends { readonly instrumentId: string }>(
  database: Knex,
  by: Maker,
  payments: readonly Payment[],
): Promise<WithPayments<Payment>[]> {
  const found = new Map<string, Placed<Payment>[]>();
  for (const [at, payment] of payments.entries()) {
    const placed = found.get(payment.instrumentId) ?? [];
    placed.push({ at, payment });
    found.set(payment.instrumentId, placed);
  }
  const stored = await newestVersionsOf(database, by.companyId, [...found.keys()]);
  return stored.map((version) => ({ version, placed: found.get(version.id) ?? [] }));
}

/** Stores what was made, unless something is at fault or to be confirmed; how many instruments it changed. */
async function save(
  database: Knex,
  by: Maker,
  items: readonly WithPayments<unknown>[],
  made: readonly Worked<Recorded>[],
  confirm: readonly ConfirmCode[],
  nothing: string,
): Promise<number> {
  const recorded = made.map(madeOf);
  const faults = recorded.flatMap((one) => (one.ok ? [] : one.faults));
  if (faults.length > 0) throw faultyInput(faults, nothing);
  const changes = recorded.flatMap((one) => (one.ok ? [one.change] : []));
  // A change made from an old version is refused, and nothing is asked about it.
  const newest = new Map(items.map(({ version: { id, version } }) => [id, version]));
  const questions = recorded.flatMap((one) => (one.ok ? one.questions : []));
  if (changes.every(({ id, from }) => newest.get(id) === from)) askFirst(questions, confirm);
  await saveVersions(database, by, changes);
  return changes.length;
}

async function recordingMonths(database: Knex, companyId: number): Promise<RecordingMonths> {
  const { to } = await closedMonths(database, companyId);
  return { opens: to + 1, ends: monthEnd(to + 1) };
}

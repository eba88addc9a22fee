import type { Knex } from 'knex';
import { monthEnd } from '@coffer/core';
import type { ConfirmCode, PaymentMade } from '@coffer/contract';
import { askFirst, faultyInput } from '../http/refusal.ts';
import { saveVersions } from '../instruments/change-instrument.ts';
import { newestVersionsOf, type Maker } from '../instruments/instrument-store.ts';
import { madeOf } from '../instruments/known-instruments.ts';
import { closedMonths } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { Placed, RecordingMonths } from './ask-about-payments.ts';

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
): Promise<{ payments: number; instruments: number }> {
  const ofInstrument = byInstrument(payments);
  const stored = await newestVersionsOf(database, by.companyId, [...ofInstrument.keys()]);
  const items = stored.map((version) => ({ version, placed: ofInstrument.get(version.id) ?? [] }));
  const recorded = (
    await figures.each('recorded-payments', await recordingMonths(database, by.companyId), items)
  ).map(madeOf);
  const faults = recorded.flatMap((one) => (one.ok ? [] : one.faults));
  if (faults.length > 0) throw faultyInput(faults, 'Nothing was recorded.');
  const changes = recorded.flatMap((one) => (one.ok ? [one.change] : []));
  // A change made from an old version is refused, and nothing is asked about it.
  const newest = new Map(stored.map(({ id, version }) => [id, version]));
  const questions = recorded.flatMap((one) => (one.ok ? one.questions : []));
  if (changes.every(({ id, from }) => newest.get(id) === from)) askFirst(questions, confirm);
  await saveVersions(database, by, changes);
  return { payments: payments.length, instruments: changes.length };
}

async function recordingMonths(database: Knex, companyId: number): Promise<RecordingMonths> {
  const { to } = await closedMonths(database, companyId);
  return { opens: to + 1, ends: monthEnd(to + 1) };
}

function byInstrument(payments: readonly PaymentMade[]): Map<string, Placed[]> {
  const found = new Map<string, Placed[]>();
  for (const [at, payment] of payments.entries()) {
    const placed = found.get(payment.instrumentId) ?? [];
    placed.push({ at, payment });
    found.set(payment.instrumentId, placed);
  }
  return found;
}

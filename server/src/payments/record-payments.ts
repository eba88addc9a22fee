import type { Knex } from 'knex';
import type { PaymentMade } from '@coffer/contract';
import { faultyInput } from '../http/refusal.ts';
import { saveVersions } from '../instruments/change-instrument.ts';
import { newestVersionsOf, type Maker } from '../instruments/instrument-store.ts';
import { madeOf } from '../instruments/known-instruments.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { Placed } from './recorded-payments.ts';

/**
 * Records what was paid for payments that fell due, as one new version of each instrument: all of them, or none.
 * Throws {@link Refusal} with every fault under `payments.<place>.<field>`, and 409 when an instrument was changed
 * meanwhile or cannot be worked out.
 */
export async function recordPayments(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  payments: readonly PaymentMade[],
): Promise<{ payments: number; instruments: number }> {
  const ofInstrument = byInstrument(payments);
  const stored = await newestVersionsOf(database, by.companyId, [...ofInstrument.keys()]);
  const items = stored.map((version) => ({ version, placed: ofInstrument.get(version.id) ?? [] }));
  const recorded = (await figures.each('recorded-payments', undefined, items)).map(madeOf);
  const faults = recorded.flatMap((one) => (one.ok ? [] : one.faults));
  if (faults.length > 0) throw faultyInput(faults, 'Nothing was recorded.');
  const changes = recorded.flatMap((one) => (one.ok ? [one.change] : []));
  await saveVersions(database, by, changes);
  return { payments: payments.length, instruments: changes.length };
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

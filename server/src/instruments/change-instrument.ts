import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import {
  confirmCodes,
  isOwed,
  type AnyDocument,
  type ConfirmCode,
  type FundDocument,
} from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import { askFirst, faultyInput } from '../http/refusal.ts';
import { closedMonths } from '../periods/period-store.ts';
import { publishedOf } from '../rates/rate-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import {
  insertInstrument,
  insertNextVersions,
  newestVersion,
  withdrawInstrument,
  type Maker,
  type NextVersion,
} from './instrument-store.ts';
import type { StoredVersion } from './known-instruments.ts';
import { reportedAmong } from './reported-positions.ts';

/** An instrument's id and the version that a change left it at. */
export interface Saved {
  readonly id: string;
  readonly version: number;
}

/** A document that somebody wants to keep. */
interface Sent {
  readonly id: string;
  readonly document: unknown;
  readonly before?: StoredVersion;
  readonly confirm: readonly ConfirmCode[];
}

/**
 * Reads a document of an instrument for a company. Throws {@link Refusal} 422 with every fault, and 409 with what is to
 * be confirmed first.
 */
async function readFor(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { id, document, before, confirm }: Sent,
): Promise<AnyDocument> {
  const version = { id, version: 0, document: JSON.stringify(document) };
  const closed = await closedMonths(database, companyId);
  const published = await publishedOf(database, companyId);
  const reading = await figures.one(
    'read-to-keep',
    { closed, published },
    { version, before, reported: (await reportedAmong(database, [id])).has(id) },
  );
  if (!reading.ok) throw faultyInput(reading.faults, 'This instrument cannot be kept as it is.');
  const { currency, name } = await companyOf(database, companyId);
  if (reading.currency !== currency) {
    const message = `Found ${reading.currency}; ${name} keeps its books in ${currency}.`;
    throw faultyInput([{ key: 'currency', message }]);
  }
  if (!isOwed(reading.document)) await refuseNothingToRepay(database, companyId, reading.document);
  askFirst(reading.questions, confirm);
  return reading.document;
}

/** A fund in the books repays something that is in the register. Throws {@link Refusal} 422. */
async function refuseNothingToRepay(
  database: Knex,
  companyId: number,
  { for: repays }: FundDocument,
): Promise<void> {
  if (repays === undefined) {
    const message = 'Say which instrument of the register the fund repays, by its name.';
    throw faultyInput([{ key: 'for', message }]);
  }
  const found = await database('instrument')
    .where({ company_id: companyId, kind: 'debt' })
    .whereNull('withdrawn_at')
    .whereRaw('lower(name) = lower(?)', repays)
    .first('id');
  if (found) return;
  const message = `There is no instrument named ${repays} in the register; take that on first, or name it as it is called there.`;
  throw faultyInput([{ key: 'for', message }]);
}

/** Takes on an instrument, or a fund, from its document. */
export async function createInstrument(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  sent: { readonly document: unknown; readonly confirm: readonly ConfirmCode[] },
  reason = 'Taken on',
): Promise<Saved> {
  const id = randomUUID();
  const document = await readFor(database, figures, by.companyId, { id, ...sent });
  await insertInstrument(database, by, id, document, reason);
  await audit(database, by, 'instrument-created', [{ subject: id, detail: { name: document.name } }]);
  return { id, version: 1 };
}

/** Replaces an instrument's terms and events by a new version. */
export async function changeInstrument(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  id: string,
  change: {
    readonly version: number;
    readonly document: unknown;
    readonly reason: string;
    readonly confirm: readonly ConfirmCode[];
  },
): Promise<Saved> {
  const before = await newestVersion(database, by.companyId, id);
  // A change made from an old version is refused, and nothing is asked about it.
  const confirm = before.version === change.version ? change.confirm : confirmCodes;
  const sent = { id, document: change.document, before, confirm };
  const document = await readFor(database, figures, by.companyId, sent);
  await saveVersions(database, by, [{ id, from: change.version, document, reason: change.reason }]);
  return { id, version: change.version + 1 };
}

/** Withdraws an instrument taken on by mistake; its entries are taken back as the open month is closed. */
export async function withdraw(
  database: Knex,
  by: Maker,
  id: string,
  change: { readonly version: number; readonly reason: string },
): Promise<{ id: string }> {
  await withdrawInstrument(database, by, id, change);
  await audit(database, by, 'instrument-withdrawn', [{ subject: id, detail: { reason: change.reason } }]);
  return { id };
}

/** Stores the next version of instruments, all or none, with its trace in the audit trail. */
export async function saveVersions(
  database: Knex,
  by: Maker,
  changes: readonly NextVersion[],
): Promise<void> {
  await insertNextVersions(database, by, changes);
  await audit(
    database,
    by,
    'instrument-changed',
    changes.map(({ id, from, reason }) => ({ subject: id, detail: { version: from + 1, reason } })),
  );
}

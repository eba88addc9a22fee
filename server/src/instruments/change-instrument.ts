import type { Knex } from 'knex';
import { formatAmount, formatDay, loanRows, recordedFor, type LoanSchedule } from '@coffer/core';
import { readInstrument, type InstrumentDocument, type ReadInstrument } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import { faultyInput } from '../http/refusal.ts';
import { insertInstrument, insertNextVersion, newestVersion, type Maker } from './instrument-store.ts';
import { knownInstrument } from './known-instruments.ts';

/** An instrument's id and the version that a change left it at. */
export interface Saved {
  readonly id: string;
  readonly version: number;
}

/** Reads a document for a company. Throws {@link Refusal} 422 with every fault. */
async function readFor(database: Knex, companyId: number, value: unknown): Promise<ReadInstrument> {
  const reading = readInstrument(value);
  if (!reading.ok) throw faultyInput(reading.faults, 'This instrument cannot be kept as it is.');
  const { currency, name } = await companyOf(database, companyId);
  if (reading.instrument.terms.currency !== currency) {
    throw faultyInput([
      {
        key: 'currency',
        message: `Found ${reading.instrument.terms.currency}; ${name} keeps its books in ${currency}.`,
      },
    ]);
  }
  return reading.instrument;
}

/** Takes on an instrument from its document. */
export async function createInstrument(
  database: Knex,
  by: Maker,
  value: unknown,
  reason = 'Taken on',
): Promise<Saved> {
  const { document } = await readFor(database, by.companyId, value);
  const id = await insertInstrument(database, by, document, reason);
  await audit(database, by, 'instrument-created', id, { name: document.name });
  return { id, version: 1 };
}

/** Replaces an instrument's terms and events by a new version. */
export async function changeInstrument(
  database: Knex,
  by: Maker,
  id: string,
  change: { readonly version: number; readonly document: unknown; readonly reason: string },
): Promise<Saved> {
  const { document } = await readFor(database, by.companyId, change.document);
  const version = await insertNextVersion(database, by, id, change.version, document, change.reason);
  await audit(database, by, 'instrument-changed', id, { version, reason: change.reason });
  return { id, version };
}

/** A payment as it left the bank. */
export interface PaymentMade {
  readonly version: number;
  readonly due: string;
  readonly on: string;
  readonly amount: string;
}

/** Records what was paid for a payment that fell due, as a new version of the instrument. */
export async function recordPayment(
  database: Knex,
  by: Maker,
  id: string,
  paid: PaymentMade,
): Promise<Saved> {
  const stored = await newestVersion(database, by.companyId, id);
  const { document, schedule } = knownInstrument(stored);
  if (schedule.kind !== 'loan' || document.kind !== 'loan') {
    throw faultyInput([
      { key: 'due', message: 'Coupons of a bond are paid on their dates; nothing is recorded.' },
    ]);
  }
  refusePaymentNotDue(schedule, paid);
  const event = { type: 'paid' as const, due: paid.due, on: paid.on, amount: paid.amount };
  const next: InstrumentDocument = { ...document, events: [...(document.events ?? []), event] };
  const reason = `Payment due ${paid.due} recorded: ${paid.amount} on ${paid.on}`;
  try {
    return await changeInstrument(database, by, id, { version: paid.version, document: next, reason });
  } catch (error) {
    throw inTermsOfThePayment(error, next.events?.length ?? 0);
  }
}

/** Faults of the event that was added, told of the fields that were filled in. */
function inTermsOfThePayment(error: unknown, events: number): unknown {
  const { faults } = error as { faults?: { key: string; message: string }[] };
  if (!faults) return error;
  const prefix = `events.${events - 1}.`;
  return faultyInput(faults.map((fault) => ({ ...fault, key: fault.key.replace(prefix, '') })));
}

function refusePaymentNotDue(schedule: LoanSchedule, { due }: PaymentMade): void {
  const rows = loanRows(schedule).filter((row) => row.n !== null);
  const found = rows.find((row) => formatDay(row.due) === due);
  if (!found) {
    throw faultyInput([
      { key: 'due', message: `No payment falls due on ${due}; choose a due date of the schedule.` },
    ]);
  }
  const recorded = recordedFor(schedule.terms.events, found.due);
  if (recorded) {
    const amount = formatAmount(recorded.amount, schedule.terms.digits);
    throw faultyInput([
      { key: 'due', message: `This payment is recorded already: ${amount} on ${formatDay(recorded.on)}.` },
    ]);
  }
}

import type { Schedule } from '@coffer/core';
import { readInstrument, type Fault, type InstrumentDocument, type Question } from '@coffer/contract';
import type { NextVersion } from '../instruments/instrument-store.ts';
import { whyNotKept } from '../instruments/keepable.ts';
import { rememberRead, type KnownInstrument, type StoredVersion } from '../instruments/known-instruments.ts';
import { askAboutOverpaid } from '../instruments/overpaid.ts';

/** Something about a payment with its place in what was sent. */
export interface Placed<Payment> {
  readonly at: number;
  readonly payment: Payment;
}

/** An instrument with what was sent about its payments. */
export interface WithPayments<Payment> {
  readonly version: StoredVersion;
  readonly placed: readonly Placed<Payment>[];
}

/** The instrument's next version with its payments changed, or every fault under `payments.<place>.<field>`. */
export type Recorded =
  | { readonly ok: true; readonly change: NextVersion; readonly questions: readonly Question[] }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** A document with its recorded payments changed. */
export interface Changed {
  /** Its events; a payment taken out leaves its place empty. */
  readonly events: readonly (object | undefined)[];
  readonly from: number;
  readonly reason: string;
  /** Which field of what was sent a fault of the document is about. */
  readonly keyOf: (fault: Fault) => string;
}

/**
 * Reads a document again with its recorded payments changed, and says whether it can be kept.
 *
 * @param ask what is asked about besides what is overpaid
 */
export function keptPayments(
  { id, document, schedule }: KnownInstrument,
  { events, from, reason, keyOf }: Changed,
  ask: (after: Schedule) => readonly Question[] = () => [],
): Recorded {
  const reading = readInstrument({ ...document, events: events.filter((event) => event !== undefined) });
  const found = reading.ok ? whyNotKept(reading.instrument) : reading.faults;
  if (!reading.ok || found.length > 0) {
    return { ok: false, faults: found.map((fault) => ({ ...fault, key: keyOf(fault) })) };
  }
  const { instrument } = reading;
  rememberRead(id, instrument);
  const kept: InstrumentDocument = instrument.document;
  const overpaid = askAboutOverpaid(kept.name, instrument.schedule, schedule);
  const questions = [...overpaid, ...ask(instrument.schedule)];
  return { ok: true, change: { id, from, document: kept, reason }, questions };
}

/** The version that all payments of an instrument were looked at in: the oldest, so that none is missed. */
export function oldestVersion(placed: readonly Placed<{ readonly version: number }>[]): number {
  return Math.min(...placed.map(({ payment }) => payment.version));
}

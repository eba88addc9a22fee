import { parseDay } from '@coffer/core';
import { readInstrument, type Fault, type InstrumentDocument, type PaymentTakenBack } from '@coffer/contract';
import { whyNotKept } from '../instruments/keepable.ts';
import {
  rememberRead,
  workedOut,
  type KnownInstrument,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';
import { askAboutOverpaid } from '../instruments/overpaid.ts';
import type { Recorded } from './recorded-payments.ts';

/** An instrument with the payments of which all that was recorded is taken back. */
export interface TakenBackInstrument {
  readonly version: StoredVersion;
  readonly placed: readonly { readonly at: number; readonly payment: PaymentTakenBack }[];
}

/** Takes recorded payments of one instrument out of its document, and reads it again. */
export function takenBackPayments(
  { version, placed }: TakenBackInstrument,
  reason: string,
): Worked<Recorded> {
  return workedOut(version, (instrument) => takenBackFrom(instrument, placed, reason));
}

function takenBackFrom(
  instrument: KnownInstrument,
  placed: TakenBackInstrument['placed'],
  reason: string,
): Recorded {
  const { document, schedule } = instrument;
  const events: (object | undefined)[] = [...((document as { events?: object[] }).events ?? [])];
  const faults: Fault[] = [];
  for (const { at, payment } of placed) {
    const receipts = schedule.kind === 'loan' ? schedule.receipts.byDue : undefined;
    const parts = receipts?.get(parseDay(payment.due) ?? 0)?.parts ?? [];
    if (parts.length === 0) {
      const message = `Nothing is recorded for the payment due ${payment.due}, so there is nothing to take back.`;
      faults.push({ key: `payments.${at}.due`, message });
    }
    for (const part of parts) {
      if (schedule.kind === 'loan') events[schedule.terms.events.indexOf(part)] = undefined;
    }
  }
  if (faults.length > 0) return { ok: false, faults };
  const reading = readInstrument({ ...document, events: events.filter((event) => event !== undefined) });
  const found = reading.ok ? whyNotKept(reading.instrument) : reading.faults;
  if (!reading.ok || found.length > 0) {
    const at = placed[0]?.at ?? 0;
    return { ok: false, faults: found.map(({ message }) => ({ key: `payments.${at}.due`, message })) };
  }
  rememberRead(instrument.id, reading.instrument);
  const kept: InstrumentDocument = reading.instrument.document;
  const change = {
    id: instrument.id,
    from: Math.min(...placed.map(({ payment }) => payment.version)),
    document: kept,
    reason: `${placed.map(({ payment }) => `Payment due ${payment.due} taken back`).join('; ')}: ${reason}`,
  };
  const questions = askAboutOverpaid(kept.name, reading.instrument.schedule, schedule);
  return { ok: true, change, questions };
}

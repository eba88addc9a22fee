import { parseDay } from '@coffer/core';
import { recordsPayments, type Fault, type PaymentTakenBack } from '@coffer/contract';
import { workedOut, type KnownInstrument, type Worked } from '../instruments/known-instruments.ts';
import {
  keptPayments,
  oldestVersion,
  type Placed,
  type Recorded,
  type WithPayments,
} from './kept-payments.ts';

/** Takes recorded payments of one instrument out of its document, and reads it again. */
export function takenBackPayments(
  { version, placed }: WithPayments<PaymentTakenBack>,
  reason: string,
): Worked<Recorded> {
  return workedOut(version, (instrument) => takenBackFrom(instrument, placed, reason));
}

function takenBackFrom(
  instrument: KnownInstrument,
  placed: readonly Placed<PaymentTakenBack>[],
  reason: string,
): Recorded {
  const { document, schedule } = instrument;
  const faults: Fault[] = [];
  const events: (object | undefined)[] = recordsPayments(document) ? [...(document.events ?? [])] : [];
  for (const { at, payment } of placed) {
    const receipt = recordsPayments(schedule)
      ? schedule.receipts.byDue.get(parseDay(payment.due) ?? 0)
      : undefined;
    if (!receipt) {
      const message = `Nothing is recorded for the payment due ${payment.due}, so there is nothing to take back.`;
      faults.push({ key: `payments.${at}.due`, message });
      continue;
    }
    for (const part of receipt.parts)
      events[(schedule.terms.events as readonly object[]).indexOf(part)] = undefined;
  }
  if (faults.length > 0) return { ok: false, faults };
  return keptPayments(instrument, {
    events,
    from: oldestVersion(placed),
    reason: `${placed.map(({ payment }) => `Payment due ${payment.due} taken back`).join('; ')}: ${reason}`,
    keyOf: () => `payments.${placed[0]?.at ?? 0}.due`,
  });
}

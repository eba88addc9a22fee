import { formatAmount, formatDay, parseDay } from '@coffer/core';
import { recordsPayments, type Fault, type PaymentMade } from '@coffer/contract';
import { workedOut, type KnownInstrument, type Worked } from '../instruments/known-instruments.ts';
import { askAboutPayments, type RecordingMonths } from './ask-about-payments.ts';
import {
  keptPayments,
  oldestVersion,
  type Changed,
  type Placed,
  type Recorded,
  type WithPayments,
} from './kept-payments.ts';

/** Records payments of one instrument in its document, and reads it again. */
export function recordedPayments(
  { version, placed }: WithPayments<PaymentMade>,
  months: RecordingMonths,
): Worked<Recorded> {
  return workedOut(version, (instrument) => {
    const faults: Fault[] = [];
    const changed = withPayments(instrument, placed, faults);
    if (!changed) return { ok: false, faults };
    return keptPayments(instrument, changed, (after) => askAboutPayments(instrument, after, placed, months));
  });
}

/** The document's events with payments added; `undefined`, with faults, when they fit no payment of it. */
function withPayments(
  { document, schedule }: KnownInstrument,
  placed: readonly Placed<PaymentMade>[],
  faults: Fault[],
): Changed | undefined {
  const before = faults.length;
  const fault = (at: number, message: string): void => {
    faults.push({ key: `payments.${at}.due`, message });
  };
  if (!recordsPayments(schedule) || !recordsPayments(document)) {
    for (const { at } of placed) fault(at, 'Coupons of a bond are paid on their dates; nothing is recorded.');
    return undefined;
  }
  const dues = new Set<string>();
  for (let row = 0; row < schedule.length; row += 1) {
    if ((schedule.n[row] as number) > 0) dues.add(formatDay(schedule.due[row] as number));
  }
  const events: (object | undefined)[] = [...(document.events ?? [])];
  const eventOf: number[] = [];
  const seen = new Set<string>();
  for (const { at, payment } of placed) {
    const { due, on, amount } = payment;
    const recorded = schedule.receipts.byDue.get(parseDay(due) ?? 0)?.parts ?? [];
    const [first] = recorded;
    if (!dues.has(due)) fault(at, `No payment falls due on ${due}; choose a due date of the schedule.`);
    else if (seen.has(due)) fault(at, `The payment due ${due} is recorded twice here.`);
    else if (first && payment.corrects !== true && payment.adds !== true) {
      const was = formatAmount(first.amount, schedule.terms.digits);
      fault(
        at,
        `This payment is recorded already: ${was} on ${formatDay(first.on)}. Correct that, or record another part of it.`,
      );
    }
    if (payment.adds !== true) seen.add(due);
    if (payment.corrects === true) {
      for (const part of recorded) events[schedule.terms.events.indexOf(part)] = undefined;
    }
    eventOf.push(events.push({ type: 'paid', due, on, amount }) - 1);
  }
  if (faults.length > before) return undefined;
  // Events taken out leave no place behind.
  const places = eventOf.map((place) => place - events.slice(0, place).filter((event) => !event).length);
  return {
    events,
    from: oldestVersion(placed),
    reason: placed.map(({ payment }) => inWords(payment)).join('; '),
    keyOf: (fault) => keyOf(fault, places, placed),
  };
}

function inWords({ due, on, amount, corrects }: PaymentMade): string {
  return `Payment due ${due} ${corrects === true ? 'corrected' : 'recorded'}: ${amount} on ${on}`;
}

/** The field of the payment that a fault of an event came from. */
function keyOf({ key }: Fault, places: readonly number[], placed: readonly Placed<PaymentMade>[]): string {
  const [, event, field] = /^events\.(\d+)\.(\w+)$/.exec(key) ?? [];
  const index = Math.max(0, places.indexOf(Number(event)));
  return `payments.${placed[index]?.at ?? 0}.${field ?? 'due'}`;
}

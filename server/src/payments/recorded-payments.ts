import { formatAmount, formatDay, parseDay } from '@coffer/core';
import {
  readInstrument,
  type Fault,
  type InstrumentDocument,
  type PaymentMade,
  type Question,
} from '@coffer/contract';
import type { NextVersion } from '../instruments/instrument-store.ts';
import { whyNotKept } from '../instruments/keepable.ts';
import { askAboutOverpaid } from '../instruments/overpaid.ts';
import { askAboutPayments, type Placed, type RecordingMonths } from './ask-about-payments.ts';
import {
  rememberRead,
  workedOut,
  type KnownInstrument,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';

/** An instrument with the payments to record for it. */
export interface PaidInstrument {
  readonly version: StoredVersion;
  readonly placed: readonly Placed[];
}

/** The instrument's next version with payments recorded, or every fault under `payments.<place>.<field>`. */
export type Recorded =
  | { readonly ok: true; readonly change: NextVersion; readonly questions: readonly Question[] }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Records payments of one instrument in its document, and reads it again. */
export function recordedPayments(
  { version, placed }: PaidInstrument,
  months: RecordingMonths,
): Worked<Recorded> {
  return workedOut(version, (instrument) => recordedIn(instrument, placed, months));
}

function recordedIn(
  instrument: KnownInstrument,
  placed: readonly Placed[],
  months: RecordingMonths,
): Recorded {
  const faults: Fault[] = [];
  const made = withPayments(instrument, placed, faults);
  if (!made) return { ok: false, faults };
  const { document, eventOf, ...change } = made;
  const reading = readInstrument(document);
  const found = reading.ok ? whyNotKept(reading.instrument) : reading.faults;
  if (!reading.ok || found.length > 0) {
    return { ok: false, faults: found.map((fault) => atPayment(fault, eventOf, placed)) };
  }
  rememberRead(instrument.id, reading.instrument);
  const { document: kept, schedule } = reading.instrument;
  const questions = askAboutOverpaid(kept.name, schedule, instrument.schedule);
  if (schedule.kind === 'loan' && instrument.schedule.kind === 'loan') {
    questions.push(...askAboutPayments(kept.name, instrument.schedule, schedule, placed, months));
  }
  return { ok: true, change: { id: instrument.id, ...change, document: kept }, questions };
}

interface Made {
  readonly document: InstrumentDocument;
  readonly from: number;
  readonly reason: string;
  /** Index among the document's events of each payment, in the order of the payments. */
  readonly eventOf: readonly number[];
}

/** The document with payments added to its events; `undefined`, with faults, when they fit no payment of it. */
function withPayments(
  { document, schedule }: KnownInstrument,
  placed: readonly Placed[],
  faults: Fault[],
): Made | undefined {
  const before = faults.length;
  const fault = (at: number, message: string): void => {
    faults.push({ key: `payments.${at}.due`, message });
  };
  if (schedule.kind !== 'loan' || document.kind === 'bond') {
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
  return {
    document: { ...document, events: events.filter((event) => event !== undefined) } as InstrumentDocument,
    from: Math.min(...placed.map(({ payment }) => payment.version)),
    reason: placed.map(({ payment }) => inWords(payment)).join('; '),
    eventOf: eventOf.map((place) => place - events.slice(0, place).filter((event) => !event).length),
  };
}

function inWords({ due, on, amount, corrects }: PaymentMade): string {
  return `Payment due ${due} ${corrects === true ? 'corrected' : 'recorded'}: ${amount} on ${on}`;
}

/** A fault of an event, told of the payment it came from. */
function atPayment(fault: Fault, eventOf: readonly number[], placed: readonly Placed[]): Fault {
  const [, event, field] = /^events\.(\d+)\.(\w+)$/.exec(fault.key) ?? [];
  const index = Math.max(0, eventOf.indexOf(Number(event)));
  return { key: `payments.${placed[index]?.at ?? 0}.${field ?? 'due'}`, message: fault.message };
}

import { debtKindOf, firstDay, formatAmount, formatDay, principalOf, type CalendarDay } from '@coffer/core';
import {
  readInstrument,
  type Fault,
  type InstrumentDocument,
  type Question,
  type ReadInstrument,
} from '@coffer/contract';
import { rememberRead, workedOut, type StoredVersion } from './known-instruments.ts';
import { askAboutOverpaid } from './overpaid.ts';
import { whyNotKept } from './keepable.ts';

/** A document that can be kept, or everything that keeps it from that. */
export type Keepable =
  | {
      readonly ok: true;
      readonly document: InstrumentDocument;
      readonly currency: string;
      /** What is asked about before it is kept. */
      readonly questions: readonly Question[];
    }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** A document that somebody wants to take on, or to change an instrument into. */
export interface Wanted {
  readonly version: StoredVersion;
  /** The version that it is made from; none where it is taken on. */
  readonly before?: StoredVersion | undefined;
}

/** The months that are closed. */
export interface ClosedMonths {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
}

/** Reads a document that somebody wants to take on or change into. */
export function readToKeep({ version, before }: Wanted, closed: ClosedMonths): Keepable {
  const reading = readInstrument(JSON.parse(version.document));
  return reading.ok ? keepable(version.id, reading.instrument, before, closed) : reading;
}

/** Whether an instrument that was read can be kept under an id. */
export function keepable(
  id: string,
  instrument: ReadInstrument,
  before: StoredVersion | undefined,
  closed: ClosedMonths,
): Keepable {
  const { document, terms } = instrument;
  const faults = whyNotKept(instrument);
  if (faults.length > 0) return { ok: false, faults };
  rememberRead(id, instrument);
  const questions = before ? askAboutChange(instrument, before) : askAboutNew(instrument, closed);
  return { ok: true, document, currency: terms.currency, questions };
}

function askAboutChange({ document, schedule }: ReadInstrument, before: StoredVersion): Question[] {
  // A version that cannot be worked out has nothing to be compared with.
  const worked = workedOut(before, (instrument) => instrument.schedule);
  return askAboutOverpaid(document.name, schedule, 'made' in worked ? worked.made : undefined);
}

function askAboutNew({ document, schedule, terms }: ReadInstrument, { from, to }: ClosedMonths): Question[] {
  const questions = askAboutOverpaid(document.name, schedule);
  const begins = firstDay(schedule);
  if (begins < from || begins > to || debtKindOf(terms).takenOn(terms)) return questions;
  const amount = formatAmount(principalOf(terms), terms.digits);
  const message =
    `${document.name} begins on ${formatDay(begins)}, in a month that is closed. Its entries since then, the ${amount} ` +
    'received among them, fall in the open month. Where the ledger has them already, take it on as already running.';
  return [...questions, { code: 'starts-in-closed-month', key: 'start', message }];
}

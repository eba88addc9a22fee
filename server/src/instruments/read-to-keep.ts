import {
  debtKindOf,
  firstDay,
  formatAmount,
  formatDay,
  principalOf,
  proofsOf,
  type CalendarDay,
} from '@coffer/core';
import {
  claimsToBeFund,
  isOwed,
  readDocument,
  readInstrument,
  withFixings,
  type AnyDocument,
  type Fault,
  type PublishedIndexes,
  type Question,
  type ReadInstrument,
} from '@coffer/contract';
import { anyDocumentOf, rememberRead, workedOut, type StoredVersion } from './known-instruments.ts';
import { askAboutOverpaid } from './overpaid.ts';
import { whyNotKept } from './keepable.ts';

/** A document that can be kept, or everything that keeps it from that. */
export type Keepable =
  | {
      readonly ok: true;
      readonly document: AnyDocument;
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

/** What is asked of every document that somebody wants to keep. */
export interface KeepAsked {
  readonly closed: ClosedMonths;
  /** What the company's indexes have published, by the key of the index. */
  readonly published: PublishedIndexes;
}

/** Reads a document that somebody wants to take on or change into. */
export function readToKeep({ version, before }: Wanted, { closed, published }: KeepAsked): Keepable {
  const value: unknown = JSON.parse(version.document);
  if (before && claimsToBeFund(value) === isOwed(anyDocumentOf(before))) {
    const message = 'What is owed stays that, and a fund a fund; take the other on by itself.';
    return { ok: false, faults: [{ key: 'kind', message }] };
  }
  if (claimsToBeFund(value)) return fundToKeep(value, before !== undefined, closed);
  const reading = readInstrument(before ? value : withFixings(value, published));
  return reading.ok ? keepable(version.id, reading.instrument, before, closed) : reading;
}

/** Reads the document of a fund that somebody wants to keep. */
function fundToKeep(value: unknown, changes: boolean, { from, to }: ClosedMonths): Keepable {
  const reading = readDocument(value);
  if (!reading.ok) return reading;
  const { document, schedule, terms } = reading;
  const failing = proofsOf(schedule).find(({ holds }) => !holds);
  if (failing) {
    const message = `A proof of its schedule fails, so it cannot be kept: not so is "${failing.name}".`;
    return { ok: false, faults: [{ key: '', message }] };
  }
  const begins = firstDay(schedule);
  const questions: Question[] = [];
  if (!changes && begins >= from && begins <= to) {
    const message =
      `${document.name} begins on ${formatDay(begins)}, in a month that is closed. Its entries since then fall in the ` +
      'open month as one opening; deposits that the ledger has already would stand there twice.';
    questions.push({ code: 'starts-in-closed-month', key: 'first', message });
  }
  return { ok: true, document, currency: terms.currency, questions };
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

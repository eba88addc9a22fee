import { debtKindOf, firstDay, formatAmount, formatDay, principalOf, proofsOf } from '@coffer/core';
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
import type { ClosedMonths } from '../periods/period-store.ts';
import { askAboutClosed } from './ask-about-closed.ts';
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
  /** Whether a closed month reports it. */
  readonly reported?: boolean;
}

/** What is asked of every document that somebody wants to keep. */
export interface KeepAsked {
  readonly closed: ClosedMonths;
  /** What the company's indexes have published, by the key of the index. */
  readonly published: PublishedIndexes;
}

/** Reads a document that somebody wants to take on or change into. */
export function readToKeep(
  { version, before, reported }: Wanted,
  { closed, published }: KeepAsked,
): Keepable {
  const value: unknown = JSON.parse(version.document);
  if (before && claimsToBeFund(value) === isOwed(anyDocumentOf(before))) {
    const message = 'What is owed stays that, and a fund a fund; take the other on by itself.';
    return { ok: false, faults: [{ key: 'kind', message }] };
  }
  if (claimsToBeFund(value)) return fundToKeep(value, before !== undefined, closed);
  const reading = readInstrument(before ? value : withFixings(value, published));
  if (!reading.ok) return reading;
  return before && reported
    ? changeable(reading.instrument, before, closed)
    : keepable(version.id, reading.instrument, before, closed);
}

/** Whether an instrument that closed months report can be changed into another, with what that makes of them. */
export function changeable(
  instrument: ReadInstrument,
  before: StoredVersion,
  closed: ClosedMonths,
): Keepable {
  const faults = otherKind(instrument, before);
  if (faults.length > 0) return { ok: false, faults };
  const kept = keepable(before.id, instrument, before, closed);
  // A version that cannot be worked out has nothing to be compared with.
  const was = workedOut(before, ({ schedule }) => schedule);
  if (!kept.ok || !('made' in was)) return kept;
  const { document, schedule } = instrument;
  const asked = askAboutClosed(document.name, was.made, schedule, closed);
  return { ...kept, questions: [...kept.questions, ...asked] };
}

/** What closed months report as one kind stays that: their entries stand in the accounts of that kind. */
function otherKind({ document }: ReadInstrument, before: StoredVersion): Fault[] {
  const was = anyDocumentOf(before);
  if (was.kind === document.kind) return [];
  const [held, wanted] = [was, document].map(({ kind }) => kind.replace('-', ' '));
  const message =
    `Closed months report ${was.name} as a ${held}, so it cannot become a ${wanted}. ` +
    'Withdraw it if it was taken on by mistake, and take the other on by itself.';
  return [{ key: 'kind', message }];
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
  if (!changes && to >= from && begins <= to) {
    const when =
      begins < from ? 'before the books, and months since then are closed' : 'in a month that is closed';
    const message =
      `${document.name} begins on ${formatDay(begins)}, ${when}. Its entries of closed months fall in the open month ` +
      'as one opening; deposits that the ledger has already would stand there twice.';
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
  if (to < from || begins > to || debtKindOf(terms).takenOn(terms)) return questions;
  const amount = formatAmount(principalOf(terms), terms.digits);
  const fall =
    begins < from
      ? `before the books, and months since then are closed. What it owed as they began comes in against opening ` +
        `balances; its interest and what was paid from ${formatDay(from)} to ${formatDay(to)} fall in the open month.`
      : `in a month that is closed. Its entries since then, the ${amount} received among them, fall in the open month.`;
  const message =
    `${document.name} begins on ${formatDay(begins)}, ${fall} Where the ledger has them already, take it on as already ` +
    `running as of ${formatDay(to)}.`;
  return [...questions, { code: 'starts-in-closed-month', key: 'start', message }];
}

import type { ConfirmCode, Fault, InstrumentDocument, Question } from '@coffer/contract';
import { askFirst, faultyInput, Refusal } from '../http/refusal.ts';
import type { NextVersion } from './instrument-store.ts';

/** An instrument as somebody looked at a change of it, and its next document where there is one that can be kept. */
export interface SeenChange {
  readonly view: {
    readonly instrumentId: string;
    readonly name: string;
    readonly version: number;
    readonly faults: readonly string[];
    readonly questions: readonly Question[];
  };
  readonly document?: InstrumentDocument;
}

/** What was sent for instruments that are to change as they were looked at. */
interface SentChanges {
  readonly instruments: readonly { readonly id: string; readonly version: number }[];
  readonly reason: string;
  readonly confirm: readonly ConfirmCode[];
}

/**
 * The next versions of the instruments named, as they were looked at. Throws {@link Refusal} 409 where one was changed
 * since or something is to be confirmed first, and 422 with what is wrong with an instrument.
 */
export function changesAsSeen(
  seen: readonly SeenChange[],
  { instruments, reason, confirm }: SentChanges,
): NextVersion[] {
  const found = new Map(seen.map((each) => [each.view.instrumentId, each]));
  const changes: NextVersion[] = [];
  const faults: Fault[] = [];
  for (const [at, { id, version }] of instruments.entries()) {
    const each = found.get(id);
    if (each?.view.version !== version || (!each.document && each.view.faults.length === 0)) {
      throw new Refusal(
        409,
        'changed-meanwhile',
        `${each?.view.name ?? 'An instrument'} was changed since this was looked at. Nothing was kept; look at it anew.`,
      );
    }
    for (const message of each.view.faults) {
      faults.push({ key: `instruments.${at}`, message: `${each.view.name}: ${message}` });
    }
    if (each.document) changes.push({ id, from: version, document: each.document, reason });
  }
  if (faults.length > 0) throw faultyInput(faults, 'Not every instrument can be so, and nothing was kept.');
  askFirst(
    changes.flatMap(({ id }) => found.get(id)?.view.questions ?? []),
    confirm,
  );
  return changes;
}

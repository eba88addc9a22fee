import { isDebt, type FundSchedule } from '@coffer/core';
import { isOwed, readDocument, type FundDocument } from '@coffer/contract';
import { KeptVersions } from '../instruments/kept-versions.ts';
import {
  attempted,
  NotWorkedOut,
  unreadable,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';

/** A stored fund, read. */
export interface KnownFund {
  readonly id: string;
  readonly version: number;
  readonly document: FundDocument;
  readonly schedule: FundSchedule;
}

/** Rows of funds kept in memory: some thousands of funds. */
const kept = new KeptVersions<KnownFund>(200_000);

/** Reads a stored version of a fund. Throws {@link NotWorkedOut} when it no longer reads, or is no fund. */
export function knownFund(stored: StoredVersion): KnownFund {
  return kept.of(stored, () => read(stored));
}

function read({ id, version, document: text }: StoredVersion): KnownFund {
  const reading = readDocument(JSON.parse(text));
  if (!reading.ok) throw unreadable(reading.faults);
  const { document, schedule } = reading;
  if (isOwed(document) || isDebt(schedule)) throw new NotWorkedOut('This is no fund.');
  return { id, version, document, schedule };
}

/** Works something out for one fund, so that one that cannot be stops no others. */
export function workedOutFund<Made>(version: StoredVersion, work: (fund: KnownFund) => Made): Worked<Made> {
  return attempted(version, () => work(knownFund(version)));
}

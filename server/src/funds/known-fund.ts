import { BeyondExact, isDebt, type FundSchedule } from '@coffer/core';
import { isOwed, readDocument, type FundDocument, type Unworkable } from '@coffer/contract';
import { NotWorkedOut, type StoredVersion, type Worked } from '../instruments/known-instruments.ts';

/** A stored fund, read. */
export interface KnownFund {
  readonly id: string;
  readonly version: number;
  readonly document: FundDocument;
  readonly schedule: FundSchedule;
}

/** Reads a stored version of a fund. Throws {@link NotWorkedOut} when it no longer reads, or is no fund. */
export function knownFund({ id, version, document: text }: StoredVersion): KnownFund {
  const reading = readDocument(JSON.parse(text));
  if (!reading.ok) {
    throw new NotWorkedOut(reading.faults.map((fault) => `${fault.key}: ${fault.message}`).join('; '));
  }
  const { document, schedule } = reading;
  if (isOwed(document) || isDebt(schedule)) throw new NotWorkedOut('This is no fund.');
  return { id, version, document, schedule };
}

/** Works something out for one fund, so that one that cannot be stops no others. */
export function workedOutFund<Made>(version: StoredVersion, work: (fund: KnownFund) => Made): Worked<Made> {
  try {
    return { made: work(knownFund(version)) };
  } catch (error) {
    if (!(error instanceof BeyondExact) && !(error instanceof NotWorkedOut)) throw error;
    const { name } = JSON.parse(version.document) as { name?: string };
    const unworkable: Unworkable = {
      instrumentId: version.id,
      name: name ?? version.id,
      message: error.message,
    };
    return { unworkable };
  }
}

import { readFileSync } from 'node:fs';
import {
  parseJson,
  readDocumentText,
  readInstrument,
  type DocumentReading,
  type Fault,
  type ReadInstrument,
} from '@coffer/contract';
import { isDebt, type AnySchedule, type Schedule } from '@coffer/core';
import type { Given } from './command.ts';
import { UsageFault } from './usage-fault.ts';

/** A document that was read. */
export type Opened = Extract<DocumentReading, { ok: true }>;

/** An instrument document that cannot be used, with everything that is wrong with it. */
export class DocumentFault extends Error {
  constructor(readonly faults: readonly Fault[]) {
    super('The instrument document cannot be used.');
  }
}

/**
 * Reads a document from a file, or from standard input where it is `-`. Throws {@link DocumentFault} for what it says
 * and {@link UsageFault} for a file that cannot be read.
 */
export function openDocument(file: string): Opened {
  return usable(readDocumentText(textOf(file)));
}

/** What was read. Throws {@link DocumentFault} where it cannot be used. */
export function usable(reading: DocumentReading): Opened {
  if (!reading.ok) throw new DocumentFault(reading.faults);
  return reading;
}

/** Something owed that was read. */
export type OpenedDebt = ReadInstrument;

/** Reads a document of something owed. Throws as {@link openDocument}, and for a fund. */
export function openDebt(file: string): OpenedDebt {
  const reading = readInstrument(jsonOf(file));
  if (reading.ok) return reading.instrument;
  throw new DocumentFault(
    reading.faults.map(({ key, message }) => ({ key, message: `${file}: ${message}` })),
  );
}

/** The value of a file of JSON. Throws {@link DocumentFault} where it is none. */
export function jsonOf(file: string): unknown {
  const { value, fault } = parseJson(textOf(file));
  if (fault) throw new DocumentFault([fault]);
  return value;
}

/** The debt that `--for` sets beside a fund. Throws {@link UsageFault} beside anything else. */
export function debtOf(given: Given, beside: AnySchedule): Schedule | undefined {
  const file = given.text('for');
  if (file === undefined) return undefined;
  if (isDebt(beside)) throw new UsageFault('--for is for a fund: it names the instrument that it repays.');
  const { document, schedule } = openDocument(file);
  if (!isDebt(schedule)) {
    throw new UsageFault(`--for ${file} is a fund; give the instrument that the fund repays.`);
  }
  if (document.currency !== beside.terms.currency) {
    throw new UsageFault(
      `--for ${file} is in ${document.currency} and the fund in ${beside.terms.currency}; a fund repays a debt in its own currency.`,
    );
  }
  return schedule;
}

function textOf(file: string): string {
  try {
    return readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    throw unreadable(file, error);
  }
}

/** Says why a file cannot be read. */
export function unreadable(file: string, error: unknown): UsageFault {
  const { code = 'error' } = error as NodeJS.ErrnoException;
  return new UsageFault(
    code === 'ENOENT' ? `There is no file ${file}.` : `${file} cannot be read (${code}).`,
  );
}

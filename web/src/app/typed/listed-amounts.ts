import { showDay, showDecimal } from '@coffer/contract';
import type { FieldReader } from '../fields/field-reader';

/**
 * Amounts listed one a line: a day, then an amount after a space, a comma with a space, or a tab.
 *
 * @param key the document's key of the list
 */
export function listedAmounts(listed: string, key: string, read: FieldReader): object[] {
  const lines = listed.split('\n').filter((line) => line.trim() !== '');
  if (lines.length === 0) read.missing.push(key);
  return lines.map((line, at) => {
    const match = /^(.*?)[\s;]+([\d.,]+\s?[km]?)$/i.exec(line.trim());
    if (!match) {
      read.fault(
        `${key}.${at}`,
        `Line ${at + 1}, “${line.trim()}”, is not understood; type a date and an amount, such as ${showDay('2026-06-15')} ${showDecimal('12000')}.`,
      );
    }
    return {
      on: read.day(`${key}.${at}.on`, match?.[1]?.replace(/[,;]$/, '') ?? line),
      amount: read.amount(`${key}.${at}.amount`, match?.[2] ?? '0'),
    };
  });
}

/** Dated amounts of a document as people type them, one a line. */
export function typedList(listed: readonly { readonly on: string; readonly amount: string }[]): string {
  return listed.map(({ on, amount }) => `${showDay(on)}  ${showDecimal(amount)}`).join('\n');
}

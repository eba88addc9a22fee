import { formatDay } from '@coffer/core';
import { readDay } from '../typed/typed-day';
import { readPercent } from '../typed/typed-number';
import { dayOf, figureOf, habitsOf, percentOfShare, type SheetHabits } from '../sheets/cells';

/** Fixings that a table tells of one index. */
export interface TableIndex {
  /** As the table names it; empty where it names none. */
  readonly name: string;
  readonly fixings: readonly { readonly on: string; readonly rate: string }[];
}

/** What was made of pasted or read lines. */
export interface ReadFixings {
  readonly indexes: readonly TableIndex[];
  /** Lines that are no fixing, each with its number and why. */
  readonly faults: readonly string[];
  /** What was taken for granted, to be looked through. */
  readonly notes: readonly string[];
}

/** A rate as people type it: `2.495`, `2.495%`, `-0.25`, `2 1/2`; as the text of a document. */
export function readRate(text: string): string | undefined {
  const typed = text.trim().replaceAll('\u2212', '-');
  const below = typed.startsWith('-');
  const plain = readPercent(below ? typed.slice(1) : typed);
  if (plain === undefined || Number(plain) > 1000) return undefined;
  return `${below && Number(plain) !== 0 ? '-' : ''}${plain}%`;
}

/** A date as the text of a document. */
export function readOn(text: string): string | undefined {
  const day = readDay(text);
  return day === undefined ? undefined : formatDay(day);
}

/**
 * Fixings from a table: a date and a rate in each line, and before them, where the table is of several, the name of the
 * index. Lines before the first date are titles. Rates are in percent; where all of them are written as shares with four
 * decimals or more, as a workbook keeps what it shows in percent, they are taken for shares and that is said.
 */
export function fixingsOfTable(rows: readonly (readonly string[])[]): ReadFixings {
  const cells = rows.map((row) => row.map((cell) => cell.trim()));
  const dates = habitsOf(cells.flat());
  const found: { line: number; name: string; on: string; text: string }[] = [];
  const faults: string[] = [];
  for (const [at, row] of cells.entries()) {
    const filled = row.filter((cell) => cell !== '');
    const place = filled.findIndex((cell) => dayOf(cell, dates) !== undefined);
    const on = place < 0 ? undefined : dayOf(filled[place] ?? '', dates);
    const text = filled[place + 1];
    if (on !== undefined && text !== undefined) {
      found.push({ line: at + 1, name: filled.slice(0, place).join(' '), on, text });
    } else if (filled.length > 0 && found.length > 0) {
      const why = on === undefined ? 'has no date' : 'has no rate beside its date';
      faults.push(`Line ${at + 1} ${why}: ${filled.join(' ')}`);
    }
  }
  const habits = { ...dates, decimals: decimalsOf(found.map(({ text }) => text)) };
  const shares = found.length > 0 && found.every(({ text }) => isShare(text, habits));
  const byName = new Map<string, Map<string, string>>();
  for (const { line, name, on, text } of found) {
    const rate = rateOfCell(text, habits, shares);
    const days = byName.get(name) ?? new Map<string, string>();
    if (rate === undefined) faults.push(`Line ${line}: “${text}” is no rate.`);
    else if (days.has(on))
      faults.push(`Line ${line}: ${on} stands there already, with ${days.get(on) ?? ''}.`);
    else days.set(on, rate);
    byName.set(name, days);
  }
  const first = found[0];
  return {
    indexes: [...byName].map(([name, days]) => ({
      name,
      fixings: [...days].map(([on, rate]) => ({ on, rate })),
    })),
    faults,
    notes:
      shares && first
        ? [
            `The rates are taken for shares of one: ${first.text} is ${rateOfCell(first.text, habits, true) ?? ''}.`,
          ]
        : [],
  };
}

/** How decimals of rates are written: none is so great that a comma could part thousands. */
function decimalsOf(texts: readonly string[]): SheetHabits['decimals'] {
  const has = (shape: RegExp): boolean => texts.some((text) => shape.test(text));
  return has(/,\d+\s*%?$/) && !has(/\.\d+\s*%?$/) ? 'comma' : 'point';
}

function isShare(text: string, habits: SheetHabits): boolean {
  const plain = figureOf(text.replace(/^[-\u2212]/, ''), habits);
  return plain !== undefined && Number(plain) < 0.3 && /\.\d{4,}$/.test(plain);
}

function rateOfCell(text: string, habits: SheetHabits, shares: boolean): string | undefined {
  const typed = text.replaceAll('\u2212', '-').trim();
  const below = typed.startsWith('-');
  const plain = figureOf(typed.replace(/^-/, '').replace(/\s*%$/, ''), habits);
  if (plain === undefined || Number(plain) > 1000) return undefined;
  const percent = shares ? percentOfShare(plain) : plain;
  return `${below && Number(plain) !== 0 ? '-' : ''}${percent}%`;
}

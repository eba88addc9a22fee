import {
  dayCountNames,
  formatDay,
  frequencies,
  type CalendarDay,
  type DayCountName,
  type Frequency,
} from '@coffer/core';
import { decimalMark, habitsNow } from '@coffer/contract';
import { readDay } from '../typed/typed-day';

/** How figures and dates stand in a sheet. */
export interface SheetHabits {
  readonly decimals: 'point' | 'comma';
  /** Of a date such as 3/4/26. */
  readonly dates: 'day-first' | 'month-first';
}

/** The habits that the cells of a sheet show; where nothing tells, the usual or those of the company. */
export function habitsOf(cells: readonly string[], usual?: SheetHabits['decimals']): SheetHabits {
  const comma = cells.some((cell) => /^\D*[\d.\s'’]*\d,(\d{1,2}|\d{4,})\s*%?$/.test(cell.trim()));
  const point = cells.some(
    (cell) => /\d\.(\d{1,2}|\d{4,})\s*%?$/.test(cell.trim()) && !/\d\.\d+\./.test(cell),
  );
  const parts = cells.flatMap((cell) => {
    const match = /^(\d{1,2})\/(\d{1,2})\/\d{2,4}$/.exec(cell.trim());
    return match ? [[Number(match[1]), Number(match[2])] as const] : [];
  });
  const monthFirst = parts.some(([, second]) => second > 12) && !parts.some(([first]) => first > 12);
  const dayFirst = parts.some(([first]) => first > 12);
  const habits = habitsNow();
  return {
    decimals:
      comma === point ? (usual ?? (decimalMark() === ',' ? 'comma' : 'point')) : comma ? 'comma' : 'point',
    dates: monthFirst || (!dayFirst && habits.dates === 'month-first') ? 'month-first' : 'day-first',
  };
}

/** A figure of a cell as a plain decimal; currency signs and spaces do not count. `undefined` where it is none. */
export function figureOf(cell: string, { decimals }: SheetHabits): string | undefined {
  const bare = cell.replaceAll(/[\s'’\u00a0]|[A-Z]{3}|[€$£¥]/g, '');
  const plain = decimals === 'comma' ? bare.replaceAll('.', '').replace(',', '.') : bare.replaceAll(',', '');
  return /^\d+(\.\d+)?$/.test(plain) ? plain : undefined;
}

/** A rate of a cell in percent; a share below one is one of a workbook that shows percent, such as 0.0425. */
export function rateOf(cell: string, habits: SheetHabits): string | undefined {
  const percent = cell.includes('%');
  const plain = figureOf(cell.replace('%', ''), habits);
  if (plain === undefined) return undefined;
  if (percent || Number(plain) >= 0.5 || Number(plain) === 0) return plain;
  return percentOfShare(plain);
}

/** A share of one as percent, moved by two places as text, so that no digit is made up. */
export function percentOfShare(share: string): string {
  const [whole = '0', decimals = ''] = share.split('.');
  const moved = `${whole}${decimals.padEnd(2, '0').slice(0, 2)}`.replace(/^0+(?=\d)/, '');
  return decimals.length > 2 ? `${moved}.${decimals.slice(2)}` : moved;
}

/** A date of a cell, also as a workbook's count of days since the end of 1899. */
export function dayOf(cell: string, { dates }: SheetHabits): string | undefined {
  const text = cell.trim();
  if (/^\d{5}$/.test(text)) return formatDay((Number(text) - 25_569) as CalendarDay);
  const slashed = text.includes('/') ? dates : 'day-first';
  const day = readDay(
    text.replaceAll('-', (each) => (/^\d{4}-/.test(text) ? each : '.')),
    undefined,
    slashed,
  );
  return day === undefined ? undefined : formatDay(day);
}

const often: readonly (readonly [Frequency, RegExp])[] = [
  ['month', /^(monthly|month|m|12|1 ?m)$/i],
  ['quarter', /^(quarterly|quarter|q|4|3 ?m)$/i],
  ['half-year', /^(half[- ]?year(ly)?|semi[- ]?annual(ly)?|s|h|2|6 ?m)$/i],
  ['year', /^(yearly|year|annual(ly)?|y|a|1|12 ?m)$/i],
  ['two-months', /^(every two months|bi-?monthly|6)$/i],
  ['week', /^(weekly|week|w|52)$/i],
];

/** How often is paid, from a word, a letter, or payments a year. */
export function frequencyOf(cell: string): Frequency | undefined {
  const text = cell.trim();
  return frequencies.find((each) => each === text) ?? often.find(([, shape]) => shape.test(text))?.[0];
}

/** A day count, by its name however it is spaced. */
export function dayCountOf(cell: string): DayCountName | undefined {
  const bare = (text: string): string =>
    text
      .toLowerCase()
      .replaceAll(/[\s._-]/g, '')
      .replace('actual', 'act');
  const text = bare(cell).replace(/^a\//, 'act/');
  const same: Readonly<Record<string, DayCountName>> = {
    evenmonths: 'even-periods',
    even: 'even-periods',
    'act/365': 'ACT/365F',
    'act/365fixed': 'ACT/365F',
    'act/act': 'ACT/ACT-ISDA',
    '30/360us': '30/360',
    '30e/360': '30E/360',
  };
  return dayCountNames.find((each) => bare(each) === text) ?? same[text];
}

/** How a loan is repaid. */
export type Repaid = 'level' | 'equal-principal' | 'interest-only';

const repaid: readonly (readonly [Repaid, RegExp])[] = [
  ['interest-only', /bullet|interest[- ]?only|at (the )?end|maturity/i],
  ['equal-principal', /equal|linear|straight|constant principal|serial/i],
  ['level', /level|annuit|constant|mortgage|equated/i],
];

/** How a loan is repaid, from a word. */
export function repaidOf(cell: string): Repaid | undefined {
  return repaid.find(([, shape]) => shape.test(cell))?.[0];
}

/** A whole number of payments; years where the word stands beside it are told apart by the caller. */
export function countOf(cell: string): number | undefined {
  const match = /^(\d{1,4})(?:\.0+)?$/.exec(cell.trim());
  return match ? Number(match[1]) : undefined;
}

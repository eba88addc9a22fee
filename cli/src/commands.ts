import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import {
  entriesJson,
  positionJson,
  readInstrumentText,
  scheduleJson,
  type Fault,
  type ReadInstrument,
} from '@coffer/contract';
import { entries, parseDay, periodLengths, position, type PeriodLength } from '@coffer/core';
import { stringify } from 'csv-stringify/sync';
import { entryTable, positionTable, scheduleTable } from './tables.ts';
import { UsageFault } from './usage-fault.ts';

/** An instrument document that cannot be used, with everything that is wrong with it. */
export class DocumentFault extends Error {
  constructor(readonly faults: readonly Fault[]) {
    super('The instrument document cannot be used.');
  }
}

const formats = { json: { type: 'boolean' }, csv: { type: 'boolean' } } as const;

function fileOf(positionals: readonly string[], command: string): string {
  const [file, ...rest] = positionals;
  if (file === undefined || rest.length > 0) {
    throw new UsageFault(`${command} takes one FILE, or - for standard input.`);
  }
  return file;
}

function read(file: string): ReadInstrument {
  let text: string;
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new UsageFault(
      code === 'ENOENT' ? `There is no file ${file}.` : `${file} cannot be read (${code ?? 'error'}).`,
    );
  }
  const reading = readInstrumentText(text);
  if (!reading.ok) throw new DocumentFault(reading.faults);
  return reading.instrument;
}

function dayOption(name: string, text: string | undefined): number {
  if (text === undefined) throw new UsageFault(`--${name} is missing; give a date such as 2026-10-31.`);
  const day = parseDay(text);
  if (day === undefined) throw new UsageFault(`--${name} ${text} is not a date such as 2026-10-31.`);
  return day;
}

function rowsOption(text: string | undefined): { from: number; to: number } | undefined {
  if (text === undefined) return undefined;
  const match = /^(\d+)-(\d+)$/.exec(text);
  const range = { from: Number(match?.[1]), to: Number(match?.[2]) };
  if (!match || range.from < 1 || range.to < range.from) {
    throw new UsageFault(`--rows ${text} is not a range of payment numbers such as 13-24.`);
  }
  return range;
}

const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

/** `schedule FILE [--json|--csv] [--rows A-B]` */
export function scheduleCommand(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { ...formats, rows: { type: 'string' } },
  });
  const range = rowsOption(values.rows);
  const { schedule } = read(fileOf(positionals, 'schedule'));
  const made = scheduleJson(schedule, range);
  if (range && (made['rows'] as object[]).length === 0) {
    throw new UsageFault(`--rows ${values.rows}: the schedule has no such payments.`);
  }
  if (values.json) return json(made);
  const rows = made['rows'] as Record<string, unknown>[];
  if (values.csv) {
    const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
    return stringify(rows, { header: true, columns });
  }
  return scheduleTable(made);
}

/** `position FILE --on DATE [--json]` */
export function positionCommand(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { json: { type: 'boolean' }, on: { type: 'string' } },
  });
  const on = dayOption('on', values.on);
  const { schedule } = read(fileOf(positionals, 'position'));
  const made = positionJson(position(schedule, on), schedule.terms.digits);
  return values.json ? json(made) : positionTable(made);
}

/** `entries FILE --from DATE --to DATE [--periods month|quarter|year|none] [--json|--csv]` */
export function entriesCommand(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { ...formats, from: { type: 'string' }, to: { type: 'string' }, periods: { type: 'string' } },
  });
  const from = dayOption('from', values.from);
  const to = dayOption('to', values.to);
  if (to < from) throw new UsageFault(`--to ${values.to} is before --from ${values.from}.`);
  const periods = values.periods ?? 'month';
  if (!periodLengths.includes(periods as PeriodLength)) {
    throw new UsageFault(`--periods ${periods} is not one of ${periodLengths.join(', ')}.`);
  }
  const { schedule } = read(fileOf(positionals, 'entries'));
  const found = entries(schedule, from, to, periods as PeriodLength);
  const made = entriesJson(found, schedule.terms.digits) as {
    date: string;
    memo: string;
    lines: { account: string; debit: string; credit: string }[];
  }[];
  if (values.json) return json(made);
  if (values.csv) {
    const lines = made.flatMap((entry, at) =>
      entry.lines.map((line) => ({ entry: at + 1, date: entry.date, memo: entry.memo, ...line })),
    );
    return stringify(lines, {
      header: true,
      columns: ['entry', 'date', 'memo', 'account', 'debit', 'credit'],
    });
  }
  return entryTable(made);
}

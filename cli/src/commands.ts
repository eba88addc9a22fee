import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import {
  entriesJson,
  positionJson,
  fundPositionJson,
  fundScheduleJson,
  readDocumentText,
  scheduleJson,
  type DocumentReading,
  type Fault,
} from '@coffer/contract';
import {
  accrualChoices,
  entries,
  fundEntries,
  fundPosition,
  parseDay,
  periodLengths,
  position,
  type AccrualChoice,
  type FundSchedule,
  type PeriodLength,
  type Schedule,
} from '@coffer/core';
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

type Read = Extract<DocumentReading, { ok: true }>;

function read(file: string): Read {
  let text: string;
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new UsageFault(
      code === 'ENOENT' ? `There is no file ${file}.` : `${file} cannot be read (${code ?? 'error'}).`,
    );
  }
  const reading = readDocumentText(text);
  if (!reading.ok) throw new DocumentFault(reading.faults);
  return reading;
}

/** The debt that a fund is set beside, from the file of `--for`. */
function debtOption(file: string | undefined, fund: FundSchedule): Schedule | undefined {
  if (file === undefined) return undefined;
  const debt = read(file);
  if ('fund' in debt)
    throw new UsageFault(`--for ${file} is a fund; give the instrument that the fund repays.`);
  const { document, schedule } = debt.instrument;
  if (document.currency !== fund.terms.currency) {
    throw new UsageFault(
      `--for ${file} is in ${document.currency} and the fund in ${fund.terms.currency}; a fund repays a debt in its own currency.`,
    );
  }
  return schedule;
}

function refuseFor(file: string | undefined): void {
  if (file !== undefined)
    throw new UsageFault('--for is for a fund: it names the instrument that it repays.');
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

/** `schedule FILE [--json|--csv] [--rows A-B] [--for FILE]` */
export function scheduleCommand(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { ...formats, rows: { type: 'string' }, for: { type: 'string' } },
  });
  const range = rowsOption(values.rows);
  const found = read(fileOf(positionals, 'schedule'));
  let made: Record<string, unknown>;
  if ('fund' in found) {
    const { schedule } = found.fund;
    made = fundScheduleJson(schedule, range, debtOption(values.for, schedule));
  } else {
    refuseFor(values.for);
    made = scheduleJson(found.instrument.schedule, range);
  }
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

/** `position FILE --on DATE [--json] [--for FILE]` */
export function positionCommand(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { json: { type: 'boolean' }, on: { type: 'string' }, for: { type: 'string' } },
  });
  const on = dayOption('on', values.on);
  const found = read(fileOf(positionals, 'position'));
  let made: Record<string, unknown>;
  if ('fund' in found) {
    const { schedule } = found.fund;
    made = fundPositionJson(schedule, fundPosition(schedule, on), debtOption(values.for, schedule));
  } else {
    refuseFor(values.for);
    const { schedule } = found.instrument;
    made = positionJson(position(schedule, on), schedule.terms.digits);
  }
  return values.json ? json(made) : positionTable(made);
}

/** `entries FILE --from DATE --to DATE [--periods month|quarter|year|none] [--accruals reversed|standing] [--json|--csv]` */
export function entriesCommand(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      ...formats,
      from: { type: 'string' },
      to: { type: 'string' },
      periods: { type: 'string' },
      accruals: { type: 'string' },
    },
  });
  const from = dayOption('from', values.from);
  const to = dayOption('to', values.to);
  if (to < from) throw new UsageFault(`--to ${values.to} is before --from ${values.from}.`);
  const periods = values.periods ?? 'month';
  if (!periodLengths.includes(periods as PeriodLength)) {
    throw new UsageFault(`--periods ${periods} is not one of ${periodLengths.join(', ')}.`);
  }
  const accruals = values.accruals ?? 'reversed';
  if (!accrualChoices.includes(accruals as AccrualChoice)) {
    throw new UsageFault(`--accruals ${accruals} is not one of ${accrualChoices.join(', ')}.`);
  }
  const choices = [from, to, periods as PeriodLength, accruals as AccrualChoice] as const;
  const opened = read(fileOf(positionals, 'entries'));
  const { schedule } = 'fund' in opened ? opened.fund : opened.instrument;
  const found = schedule.kind === 'fund' ? fundEntries(schedule, ...choices) : entries(schedule, ...choices);
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

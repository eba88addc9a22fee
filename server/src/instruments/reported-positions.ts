import type { Knex } from 'knex';
import { debtFigureKeys, type CloseRow, type DebtFigure, type FiguresView } from '@coffer/contract';
import { inChunks } from '../database/in-chunks.ts';
import { documentAsText } from './instrument-store.ts';
import type { StoredVersion } from './known-instruments.ts';

type ColumnOf<Key extends string> = Key extends `${infer First}${infer Rest}`
  ? `${First extends Lowercase<First> ? First : `_${Lowercase<First>}`}${ColumnOf<Rest>}`
  : '';

/** Where the table keeps a figure of a position. */
function columnOf<Key extends DebtFigure>(key: Key): ColumnOf<Key> {
  return key.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`) as ColumnOf<Key>;
}

/** A row of `reported_position`. */
export type ReportedRow = Readonly<Record<ColumnOf<DebtFigure>, number>> & {
  readonly period_end: string;
  readonly instrument_id: string;
  readonly instrument_version: number;
  readonly expense: number;
  readonly amortized: number;
  readonly current_change: number;
};

/** Figures, each made by its name. */
function figuresBy(of: (key: DebtFigure) => number): FiguresView {
  return Object.fromEntries(debtFigureKeys.map((key) => [key, of(key)])) as FiguresView;
}

/** The figures of what is not there. */
export const noFigures: FiguresView = figuresBy(() => 0);

/** The figures that a closed period reported. */
export function figuresOfRow(row: ReportedRow): FiguresView {
  return figuresBy((key) => row[columnOf(key)]);
}

/** What a closed period reported of an instrument, and the version that it came from. */
export interface Reported {
  readonly version: StoredVersion;
  /** As it was called then. */
  readonly row: CloseRow;
}

/** What a closed period reported, by the names that instruments had then: they and their order never change. */
export async function reportedPositions(
  database: Knex,
  companyId: number,
  periodEnd: string,
): Promise<Reported[]> {
  const rows = await database('reported_position')
    .join('instrument_version', (join) => {
      join
        .on('instrument_version.instrument_id', 'reported_position.instrument_id')
        .andOn('instrument_version.version', 'reported_position.instrument_version');
    })
    .where({ company_id: companyId, period_end: periodEnd })
    .orderByRaw(`lower(instrument_version.document ->> 'name')`)
    .select<(ReportedRow & { name: string; document: string })[]>(
      'reported_position.*',
      database.raw(`instrument_version.document ->> 'name' as name`),
      documentAsText(database),
    );
  return rows.map((row) => ({
    version: { id: row.instrument_id, version: row.instrument_version, document: row.document },
    row: {
      id: row.instrument_id,
      name: row.name,
      version: row.instrument_version,
      figures: figuresOfRow(row),
      expense: row.expense,
      amortized: row.amortized,
      currentChange: row.current_change,
    },
  }));
}

/** Keeps what closing a period reports. */
export async function keepReported(
  database: Knex,
  companyId: number,
  periodEnd: string,
  reported: readonly CloseRow[],
): Promise<void> {
  const rows = reported.map(({ id, version, figures, expense, amortized, currentChange }) => ({
    company_id: companyId,
    period_end: periodEnd,
    instrument_id: id,
    instrument_version: version,
    ...Object.fromEntries(debtFigureKeys.map((key) => [columnOf(key), figures[key]])),
    expense,
    amortized,
    current_change: currentChange,
  }));
  await inChunks(rows, (chunk) => database('reported_position').insert(chunk));
}

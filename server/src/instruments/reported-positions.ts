import type { Knex } from 'knex';
import { positionFigureKeys, type PositionFigure } from '@coffer/core';
import type { CloseRow, FiguresView } from '@coffer/contract';
import { inChunks } from '../database/in-chunks.ts';
import { columnOf, type ColumnOf, type ReportedRow } from '../database/tables.ts';
import { documentAsText } from './instrument-store.ts';
import type { StoredVersion } from './known-instruments.ts';

/** Figures, each made by its name. */
function figuresBy(of: (key: PositionFigure) => number): FiguresView {
  return Object.fromEntries(positionFigureKeys.map((key) => [key, of(key)])) as FiguresView;
}

/** Figures as the table keeps them. */
function columnsOf(figures: FiguresView): Record<ColumnOf<PositionFigure>, number> {
  const columns = positionFigureKeys.map((key) => [columnOf(key), figures[key]]);
  return Object.fromEntries(columns) as Record<ColumnOf<PositionFigure>, number>;
}

/** The figures of what is not there. */
export const noFigures: FiguresView = figuresBy(() => 0);

/** The figures that a closed period reported. */
export function figuresOfRow(row: ReportedRow): FiguresView {
  return figuresBy((key) => row[columnOf(key)]);
}

/** Those of some instruments that any closed period reports. */
export async function reportedAmong(database: Knex, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const found = database('reported_position').whereIn('instrument_id', [...ids]);
  return new Set(await found.distinct().pluck<string[]>('instrument_id'));
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
    ...columnsOf(figures),
    expense,
    amortized,
    current_change: currentChange,
  }));
  await inChunks(rows, (chunk) => database('reported_position').insert(chunk));
}

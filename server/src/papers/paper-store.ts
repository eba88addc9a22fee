import { createHash } from 'node:crypto';
import type { Knex } from 'knex';
import type { PaperType, PaperView } from '@coffer/contract';
import type { PaperRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';

type ListedRow = Pick<PaperRow, 'id' | 'name' | 'type' | 'bytes' | 'sha256' | 'kept_at'> & {
  by: string | null;
};

const listed = ['paper.id', 'paper.name', 'type', 'bytes', 'sha256', 'kept_at', 'person.name as by'] as const;

function viewOf({ id, name, type, bytes, sha256, by, kept_at: at }: ListedRow): PaperView {
  return { id, name, type, bytes, sha256: sha256.toString('hex'), by, at: at.toISOString() };
}

/** The papers of an instrument, the newest first. */
export async function papersOf(database: Knex, instrumentId: string): Promise<PaperView[]> {
  const rows = await database('paper')
    .leftJoin('person', 'person.id', 'paper.kept_by')
    .where({ instrument_id: instrumentId })
    .whereNull('taken_away_at')
    .orderBy([
      { column: 'kept_at', order: 'desc' },
      { column: 'paper.name', order: 'asc' },
    ])
    .select<ListedRow[]>(...listed);
  return rows.map(viewOf);
}

/** A file that is to be kept. */
export interface NewPaper {
  readonly instrumentId: string;
  readonly name: string;
  readonly type: PaperType;
  readonly content: Uint8Array;
}

/** Keeps a file at an instrument; the one that is there already where its bytes are the same. */
export async function insertPaper(
  database: Knex,
  by: Maker,
  { instrumentId, name, type, content }: NewPaper,
): Promise<{ paper: PaperView; isNew: boolean }> {
  const sha256 = createHash('sha256').update(content).digest();
  const made = await database('paper')
    .insert({
      company_id: by.companyId,
      instrument_id: instrumentId,
      name,
      type,
      bytes: content.byteLength,
      sha256,
      content: Buffer.from(content),
      kept_by: by.id,
    })
    .onConflict(database.raw('(instrument_id, sha256) where content is not null'))
    .ignore()
    .returning('id');
  const row = await database('paper')
    .leftJoin('person', 'person.id', 'paper.kept_by')
    .where({ instrument_id: instrumentId, sha256 })
    .whereNull('taken_away_at')
    .first<ListedRow>(...listed);
  return { paper: viewOf(row), isNew: made.length > 0 };
}

/** A paper of an instrument with its bytes. Throws {@link Refusal} 404. */
export async function contentOf(
  database: Knex,
  instrumentId: string,
  id: string,
): Promise<{ name: string; type: PaperType; content: Buffer }> {
  const row = await database('paper')
    .where({ id, instrument_id: instrumentId })
    .whereNull('taken_away_at')
    .first('name', 'type', 'content');
  if (!row?.content) throw noSuchPaper();
  return { name: row.name, type: row.type, content: row.content };
}

const noSuchPaper = (): Refusal =>
  new Refusal(404, 'no-such-paper', 'There is no such paper; it may have been taken away meanwhile.');

/** Takes a paper away: its bytes go, what it was and why stay. Gives its name and hash; throws {@link Refusal} 404. */
export async function takeAway(
  database: Knex,
  by: Maker,
  instrumentId: string,
  id: string,
  reason: string,
): Promise<{ name: string; sha256: string }> {
  const [row] = await database('paper')
    .where({ id, instrument_id: instrumentId })
    .whereNull('taken_away_at')
    .update({
      content: null,
      taken_away_at: database.fn.now(),
      taken_away_by: by.id,
      taken_away_because: reason,
    })
    .returning(['name', 'sha256']);
  if (!row) throw noSuchPaper();
  return { name: row.name, sha256: row.sha256.toString('hex') };
}

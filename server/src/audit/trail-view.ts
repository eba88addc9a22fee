import type { Knex } from 'knex';
import {
  inHabits,
  isOwed,
  versionChanges,
  type InstrumentDocument,
  type TrailEvent,
  type TrailQuery,
  type TrailView,
} from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { habitsOf } from '../company/settings.ts';
import type { AuditRow } from '../database/tables.ts';
import { anyDocumentOf, NotWorkedOut } from '../instruments/known-instruments.ts';
import { documentAsText } from '../instruments/instrument-store.ts';
import { toldChanges, trailSentence } from './trail-sentences.ts';

/** Events told at once. */
const atOnce = 100;

type Told = Readonly<Record<string, unknown>>;
type Row = Pick<AuditRow, 'id' | 'at' | 'action' | 'subject'> & {
  readonly detail: Told;
  readonly by: string | null;
};

/** What happened in a company as its audit trail tells of it: sentences, with what was changed. Newest first. */
export async function trailView(database: Knex, companyId: number, asked: TrailQuery): Promise<TrailView> {
  const rows = await rowsOf(database, companyId, asked);
  const people = await database('audit_event')
    .join('person', 'person.id', 'audit_event.person_id')
    .where({ company_id: companyId })
    .distinct('person.id', 'person.name')
    .orderBy('person.name')
    .select<{ id: number; name: string }[]>();
  const chosen = rows.slice(0, atOnce);
  return {
    events: await eventsOf(database, companyId, chosen),
    next: rows.length > atOnce ? Number(chosen.at(-1)?.id) : null,
    people: people.map(({ id, name }) => ({ id, name })),
  };
}

/** The same, all of it, page after page. */
export async function* wholeTrail(
  database: Knex,
  companyId: number,
  asked: TrailQuery,
): AsyncGenerator<TrailEvent[]> {
  let before = asked.before;
  for (;;) {
    const page = await trailView(database, companyId, { ...asked, before });
    yield page.events;
    if (page.next === null) return;
    before = page.next;
  }
}

function rowsOf(database: Knex, companyId: number, asked: TrailQuery): Promise<Row[]> {
  const { from, to, instrument, person, before } = asked;
  const query = database('audit_event')
    .leftJoin('person', 'person.id', 'audit_event.person_id')
    .where({ company_id: companyId })
    .orderBy('audit_event.id', 'desc')
    .limit(atOnce + 1);
  if (from !== undefined) void query.where('at', '>=', from);
  if (to !== undefined) void query.whereRaw(`at < ?::date + 1`, [to]);
  if (person !== undefined) void query.where({ person_id: person });
  if (before !== undefined) void query.where('audit_event.id', '<', before);
  if (instrument !== undefined) {
    void query.whereRaw(`(subject = ? or detail ->> 'instrumentId' = ?)`, [instrument, instrument]);
  }
  return query.select<Row[]>('audit_event.id', 'at', 'action', 'subject', 'detail', 'person.name as by');
}

async function eventsOf(database: Knex, companyId: number, rows: readonly Row[]): Promise<TrailEvent[]> {
  const about = (row: Row): string => {
    const told = row.detail['instrumentId'];
    return typeof told === 'string' ? told : row.subject;
  };
  const names = await namesOf(database, companyId, rows.map(about));
  const documents = await documentsOf(database, rows);
  const { habits } = await habitsOf(database, companyId);
  const { digits } = await companyOf(database, companyId);
  const told = (row: Row): TrailEvent => {
    const id = about(row);
    const name = names.get(id);
    return {
      id: Number(row.id),
      at: row.at.toISOString(),
      by: row.by,
      sentence: trailSentence(row.action, row.subject, row.detail, name ?? ''),
      instrumentId: name === undefined ? null : id,
      changes: changesOf(documents, row) ?? toldChanges(row.action, row.detail, digits),
    };
  };
  // As the company writes numbers and days.
  return inHabits(habits, () => rows.map(told));
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** What the instruments among some subjects are called now. */
async function namesOf(
  database: Knex,
  companyId: number,
  subjects: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const ids = [...new Set(subjects)].filter((subject) => uuid.test(subject));
  const rows = await database('instrument')
    .where({ company_id: companyId })
    .whereIn('id', ids)
    .select('id', 'name');
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** Documents of versions, by instrument and version. */
type Documents = ReadonlyMap<string, InstrumentDocument | undefined>;

/** The version that an event made; nothing where it made none. */
function versionMade({ action, detail }: Row): number | undefined {
  const { version } = detail;
  return action === 'instrument-changed' && typeof version === 'number' ? version : undefined;
}

/** What a new version changed of the one before. */
function changesOf(documents: Documents, row: Row): TrailEvent['changes'] | undefined {
  const version = versionMade(row);
  if (version === undefined) return undefined;
  const [was, is] = [version - 1, version].map((each) => documents.get(`${row.subject} ${each}`));
  return was && is ? versionChanges(was, is) : undefined;
}

/** The versions that events made, and those before. */
async function documentsOf(database: Knex, rows: readonly Row[]): Promise<Documents> {
  const wanted = rows.flatMap((row) => {
    const version = versionMade(row);
    return version === undefined ? [] : [version - 1, version].map((each) => [row.subject, each] as const);
  });
  if (wanted.length === 0) return new Map();
  const stored = await database('instrument_version')
    .whereIn(
      ['instrument_id', 'version'],
      wanted.map(([id, version]) => [id, version]),
    )
    .select<{ id: string; version: number; document: string }[]>(
      'instrument_id as id',
      'version',
      documentAsText(database),
    );
  return new Map(stored.map((each) => [`${each.id} ${each.version}`, debtOf(each)]));
}

/** A document of what is owed; nothing for a fund, or for one that no longer reads. */
function debtOf(stored: { readonly document: string }): InstrumentDocument | undefined {
  try {
    const document = anyDocumentOf(stored);
    return isOwed(document) ? document : undefined;
  } catch (error) {
    if (error instanceof NotWorkedOut) return undefined;
    throw error;
  }
}

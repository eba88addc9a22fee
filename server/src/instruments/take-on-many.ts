import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { isOwed, type AnyDocument, type ConfirmCode, type Fault, type Question } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import { askFirst, faultyInput, Refusal } from '../http/refusal.ts';
import { closedMonths } from '../periods/period-store.ts';
import { publishedOf } from '../rates/rate-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { insertInstruments, takenNames, type Maker, type NewInstrument } from './instrument-store.ts';

/** Documents worked out before it is looked whether somebody still waits for them. */
const atATime = 250;
/** Names told where a question is about many. */
const named = 4;

/** Whose call it is, and whether anybody waits for its answer. */
interface Caller {
  readonly key: string;
  gone(): boolean;
}

interface SoFar {
  readonly done: number;
  readonly of: number;
}

/** Takes many instruments on in one transaction, and tells meanwhile how far it has come. */
export class TakingOn {
  private readonly under = new Map<string, SoFar>();

  /** How far a call has come; nothing of nothing for one that is not under way. */
  soFar(personId: number, key: string): SoFar {
    return this.under.get(`${personId} ${key}`) ?? { done: 0, of: 0 };
  }

  /**
   * Takes all of them on or none. Faults stand at `documents.N.…`.
   *
   * @throws Refusal 422 with every fault, 409 with what is to be confirmed first, 499 when nobody waits any more
   */
  async all(
    database: Knex,
    figures: FigureThreads,
    by: Maker,
    sent: { readonly documents: readonly unknown[]; readonly confirm: readonly ConfirmCode[] },
    caller: Caller,
  ): Promise<{ instruments: number }> {
    const place = `${by.id} ${caller.key}`;
    const of = sent.documents.length;
    try {
      const tell = (done: number): void => {
        if (caller.gone())
          throw new Refusal(499, 'cancelled', 'Taking on was cancelled; nothing was taken on.');
        this.under.set(place, { done, of });
      };
      tell(0);
      const read = await readAll(database, figures, by.companyId, sent.documents, tell);
      askFirst(together(read.questions), sent.confirm);
      await insertInstruments(database, by, read.instruments, 'Taken on with others');
      await audit(
        database,
        by,
        'instrument-created',
        read.instruments.map(({ id, document }) => ({ subject: id, detail: { name: document.name } })),
      );
      tell(of);
      return { instruments: read.instruments.length };
    } finally {
      this.under.delete(place);
    }
  }
}

async function readAll(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  documents: readonly unknown[],
  tell: (done: number) => void,
): Promise<{ instruments: NewInstrument[]; questions: { name: string; asked: Question }[] }> {
  const closed = await closedMonths(database, companyId);
  const { currency, name: company } = await companyOf(database, companyId);
  const published = await publishedOf(database, companyId);
  const faults: Fault[] = [];
  const instruments: NewInstrument[] = [];
  const questions: { name: string; asked: Question }[] = [];
  for (let from = 0; from < documents.length; from += atATime) {
    const share = documents.slice(from, from + atATime).map((document) => {
      const version = { id: randomUUID(), version: 0, document: JSON.stringify(document ?? null) };
      return { version };
    });
    const readings = await figures.each('read-to-keep', { closed, published }, share);
    for (const [at, reading] of readings.entries()) {
      const key = `documents.${from + at}`;
      if (!reading.ok) {
        faults.push(...reading.faults.map((fault) => ({ ...fault, key: `${key}.${fault.key}` })));
      } else if (reading.currency !== currency) {
        const message = `Found ${reading.currency}; ${company} keeps its books in ${currency}.`;
        faults.push({ key: `${key}.currency`, message });
      } else if (!isOwed(reading.document)) {
        faults.push({
          key: `${key}.kind`,
          message: 'Take a fund on by itself, once what it repays is there.',
        });
      } else {
        instruments.push({ id: share[at]?.version.id ?? '', document: reading.document });
        questions.push(...reading.questions.map((asked) => ({ name: nameOf(reading.document), asked })));
      }
    }
    tell(Math.min(documents.length, from + atATime));
  }
  faults.push(...(await takenFaults(database, companyId, documents)));
  if (faults.length > 0) throw faultyInput(faults, 'Some of these cannot be taken on, so none was.');
  return { instruments, questions };
}

const nameOf = ({ name }: AnyDocument): string => name;

/** Names that come twice among the documents, or that something in the register has. */
async function takenFaults(
  database: Knex,
  companyId: number,
  documents: readonly unknown[],
): Promise<Fault[]> {
  const taken = await takenNames(database, companyId);
  const seen = new Map<string, number>();
  return documents.flatMap((document, at) => {
    const name = (document as { name?: unknown } | null)?.name;
    if (typeof name !== 'string') return [];
    const key = `documents.${at}.name`;
    const before = seen.get(name.toLowerCase());
    seen.set(name.toLowerCase(), at);
    if (taken.has(name.toLowerCase()))
      return [{ key, message: `The register has an instrument named ${name}.` }];
    return before === undefined ? [] : [{ key, message: `Document ${before + 1} has the name ${name} too.` }];
  });
}

/** The same question about several, put once. */
function together(questions: readonly { name: string; asked: Question }[]): Question[] {
  const byCode = new Map<Question['code'], { name: string; asked: Question }[]>();
  for (const each of questions) {
    byCode.set(each.asked.code, [...(byCode.get(each.asked.code) ?? []), each]);
  }
  return [...byCode.values()].map((same) => {
    const [first] = same;
    if (!first || same.length === 1) return (first as { asked: Question }).asked;
    const names = same.slice(0, named).map(({ name }) => name);
    const rest = same.length > named ? ` and ${same.length - named} more` : '';
    const message = `Of ${same.length} (${names.join(', ')}${rest}) the same is asked as of the first. ${first.asked.message}`;
    return { ...first.asked, message };
  });
}

import type { Knex } from 'knex';
import { companyOf } from '../company/company-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { wrongForm } from '../database/form.ts';
import { wrongEntries } from './wrong-entries.ts';
import { wrongInstruments } from './wrong-instruments.ts';
import { wrongPapers } from './wrong-papers.ts';
import { wrongReports } from './wrong-reports.ts';
import { wrongSeals } from './wrong-seals.ts';
import { wrongTrail } from '../audit/trail.ts';

/** Something that does not agree, in a sentence. */
export interface Disagreement {
  readonly company: string;
  readonly message: string;
}

/**
 * Holds everything that is kept against everything it should agree with: entries balance and are numbered without gaps;
 * the ledger stands at what each closed month reported, account by account; what was reported is what the version it
 * came from gives, worked out anew; the books hold the cash and everything else of the documents; every proof holds; papers are the bytes that were brought; the database has the form that this version gives it; every row is as it was sealed
 * when Coffer wrote it; and the audit trail is a chain from its first event to its last.
 */
export async function verifyBooks(database: Knex, figures: FigureThreads): Promise<Disagreement[]> {
  const ids = await database('company').orderBy('id').pluck<number[]>('id');
  const found: Disagreement[] = [];
  for (const id of ids) {
    found.push(...(await verifyCompany(database, figures, id)));
  }
  const ofInstallation = [...(await wrongForm(database)), ...(await wrongTrail(database))];
  found.push(...(await wrongSeals(database)));
  return [...found, ...ofInstallation.map((message) => ({ company: 'Installation', message }))];
}

/** The same of one company. */
export async function verifyCompany(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
): Promise<Disagreement[]> {
  const company = await companyOf(database, companyId);
  const messages = [
    ...(await wrongEntries(database, company)),
    ...(await wrongReports(database, figures, company)),
    ...(await wrongInstruments(database, figures, company)),
    ...(await wrongPapers(database, company)),
  ];
  return messages.map((message) => ({ company: company.name, message }));
}

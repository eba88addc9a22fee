import type { Knex } from 'knex';
import { inChunks } from '../database/in-chunks.ts';

/** Writes events of one kind to the audit trail, in the transaction of what they tell of; those of the installation are of no company. */
export async function audit(
  database: Knex,
  by: { readonly companyId: number | null; readonly id: number | null },
  action: string,
  events: readonly { readonly subject: string; readonly detail: object }[],
): Promise<void> {
  const rows = events.map(({ subject, detail }) => ({
    company_id: by.companyId,
    person_id: by.id,
    action,
    subject,
    detail: JSON.stringify(detail),
  }));
  await inChunks(rows, (chunk) => database('audit_event').insert(chunk));
}

import type { Knex } from 'knex';

/** Writes one event to the audit trail, in the transaction of what it tells of. */
export async function audit(
  database: Knex,
  by: { readonly companyId: number; readonly id: number | null },
  action: string,
  subject: string,
  detail: object,
): Promise<void> {
  await database('audit_event').insert({
    company_id: by.companyId,
    person_id: by.id,
    action,
    subject,
    detail: JSON.stringify(detail),
  });
}

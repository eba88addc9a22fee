import type { Knex } from 'knex';
import type { AccrualChoice } from '@coffer/core';
import { audit } from '../audit/audit.ts';
import { Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import { holdPeriod } from './period-store.ts';

/**
 * Chooses what becomes of the accruals of the open month alone; months open as the settings have it. Throws
 * {@link Refusal} 409 for a closed month, whose accruals are booked.
 */
export async function chooseAccruals(
  database: Knex,
  by: Maker,
  endsOn: string,
  accruals: AccrualChoice,
): Promise<{ endsOn: string; accruals: AccrualChoice }> {
  const period = await holdPeriod(database, by.companyId, endsOn);
  if (period.state === 'closed') {
    throw new Refusal(
      409,
      'already-locked',
      `The period to ${endsOn} is locked and its accruals are booked; choose for the open period.`,
    );
  }
  if (period.accruals !== accruals) {
    await database('period')
      .where({ company_id: by.companyId, ends_on: endsOn })
      .update({ accruals, accruals_by: by.id });
    await audit(database, by, 'accruals-chosen', [{ subject: endsOn, detail: { accruals } }]);
  }
  return { endsOn, accruals };
}

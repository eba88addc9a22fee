import type { Knex } from 'knex';
import { currencyDigits, formatDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import { usualSettings, type NewCompany } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { keepSettings } from './change-settings.ts';
import { takenName } from './taken-name.ts';
import { faultyInput } from '../http/refusal.ts';

/**
 * Makes a company whose first month is open; gives its id. Tells of it in the company's own audit trail.
 *
 * @param by the id of who makes it and administers it from then on
 * @param key of the company's name where it was typed
 * @throws Refusal 422 where the name is taken
 */
export async function makeCompany(
  database: Knex,
  by: number,
  { name, currency, fiscalYearEndMonth, booksFrom, habits, closing }: NewCompany,
  key: string,
): Promise<number> {
  const taken = await takenName(database, name, key);
  if (taken.length > 0) throw faultyInput(taken);
  const [made] = await database('company')
    .insert({
      name,
      currency,
      digits: currencyDigits(currency) ?? 2,
      fiscal_year_end_month: fiscalYearEndMonth,
      books_from: booksFrom,
    })
    .returning('id');
  if (!made) throw new Error('The company was not made.');
  const endsOn = formatDay(monthEnd(parseDay(booksFrom) as CalendarDay));
  await database('period').insert({ company_id: made.id, ends_on: endsOn, state: 'open' });
  await database('member').insert({ company_id: made.id, person_id: by, role: ['prepare', 'administer'] });
  const asked = { ...habits, ...(closing && { closing }) };
  const chosen = (['numbers', 'belowZero', 'dates', 'closing'] as const).flatMap((key) => {
    const value = asked[key];
    const was = usualSettings[key];
    return value === undefined || value === was ? [] : [{ key, was, value, from: booksFrom }];
  });
  if (chosen.length > 0) {
    await keepSettings(database, { companyId: made.id, id: by }, chosen, 'As the company was set up');
  }
  await audit(database, { companyId: made.id, id: by }, 'company-made', [
    { subject: name, detail: { currency, fiscalYearEndMonth, booksFrom } },
  ]);
  return made.id;
}

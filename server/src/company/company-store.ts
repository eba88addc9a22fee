import type { Knex } from 'knex';

/** The company whose books are kept, as stored. */
export interface Company {
  readonly id: number;
  readonly name: string;
  readonly currency: string;
  readonly digits: number;
  readonly fiscalYearEndMonth: number;
  readonly booksFrom: string;
}

/** A company by its id. */
export async function companyOf(database: Knex, companyId: number): Promise<Company> {
  const row = await database('company').where({ id: companyId }).first();
  if (!row) throw new Error(`There is no company ${companyId}.`);
  return {
    id: row.id,
    name: row.name,
    currency: row.currency,
    digits: row.digits,
    fiscalYearEndMonth: row.fiscal_year_end_month,
    booksFrom: row.books_from,
  };
}

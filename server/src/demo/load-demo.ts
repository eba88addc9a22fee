import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import * as v from 'valibot';
import { accountRoles, formatDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import {
  amountText,
  closingWays,
  currencyCode,
  dayText,
  role,
  shortText,
  signedRateText,
} from '@coffer/contract';
import { createInstrument } from '../instruments/change-instrument.ts';
import { recordPayments } from '../payments/record-payments.ts';
import { keepSettings } from '../company/change-settings.ts';
import { approveMonth, lockPeriod } from '../periods/close-month.ts';
import { closeView } from '../periods/close-view.ts';
import { handOver } from '../periods/hand-over.ts';
import { keepFixings } from '../rates/rate-store.ts';
import { hashPassword } from '../session/passwords.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** A company to set up: who works there, its accounts, and how far its books are closed. */
const demoCompany = v.strictObject({
  name: shortText,
  currency: currencyCode,
  digits: v.number(),
  fiscalYearEndMonth: v.number(),
  booksFrom: dayText,
  closedThrough: dayText,
  closing: v.optional(v.picklist(closingWays), 'two-people'),
  /** The day that it is for the company, where the clock is not the machine's. */
  today: dayText,
  people: v.array(v.strictObject({ name: shortText, logIn: shortText, role, password: shortText })),
  accounts: v.array(v.strictObject({ role: v.picklist(accountRoles), code: shortText, name: shortText })),
  indexes: v.array(
    v.strictObject({
      name: shortText,
      fixings: v.array(v.strictObject({ on: dayText, rate: signedRateText })),
    }),
  ),
});
type DemoCompany = v.InferOutput<typeof demoCompany>;

/** Payments recorded after the last closed month. */
const demoPayments = v.array(
  v.strictObject({ instrument: shortText, due: dayText, on: dayText, amount: amountText }),
);

function readJson(folder: string, name: string): unknown {
  return JSON.parse(readFileSync(join(folder, name), 'utf8'));
}

/** Loads a demo company into a database that holds none, all or nothing. */
export async function loadDemo(
  database: Knex,
  figures: FigureThreads,
  folder: string,
  logger: Logger,
): Promise<void> {
  await database.transaction(async (on) => {
    await on.raw(`select pg_advisory_xact_lock(hashtext('demo'))`);
    if (await on('company').first()) return;
    const name = await loadCompany(on, figures, folder);
    logger.info({ company: name }, 'demo company loaded');
  });
}

/**
 * Loads a company from its folder: its instruments from their documents, its closed months by closing them one after
 * another, then the payments recorded since. Gives its name.
 */
export async function loadCompany(on: Knex, figures: FigureThreads, folder: string): Promise<string> {
  const company = v.parse(demoCompany, readJson(folder, 'company.json'));
  const { by, reviewer } = await insertCompany(on, company);
  const { companyId } = by;
  if (company.closing === 'one-person') {
    const alone = {
      key: 'closing',
      was: 'two-people',
      value: company.closing,
      from: company.booksFrom,
    } as const;
    await keepSettings(on, by, [alone], 'One person keeps these books');
  }
  const ids = new Map<string, string>();
  for (const file of readdirSync(join(folder, 'instruments')).sort()) {
    const document = readJson(join(folder, 'instruments'), file);
    const reason = 'Taken on when the books began';
    const { id } = await createInstrument(on, figures, by, { document, confirm: [] }, reason);
    ids.set((document as { name: string }).name, id);
  }
  for (const { name: index, fixings } of company.indexes) {
    const reason = 'Published before the books began';
    await keepFixings(on, by, { index, fixings, revision: 0, source: 'sheet', reason });
  }
  let end = monthEnd(parseDay(company.booksFrom) as CalendarDay);
  await on('period').insert({ company_id: companyId, ends_on: formatDay(end), state: 'open' });
  while (formatDay(end) <= company.closedThrough) {
    end = await closeThrough(on, figures, { by, reviewer }, end);
  }
  const payments = v
    .parse(demoPayments, readJson(folder, 'payments.json'))
    .map(({ instrument, ...paid }) => ({ instrumentId: ids.get(instrument) ?? '', version: 1, ...paid }));
  await recordPayments(on, figures, by, payments, []);
  return company.name;
}

/** Closes a month as the company has it, a day after its end: by two people, or by one. Gives the end of the next. */
async function closeThrough(
  on: Knex,
  figures: FigureThreads,
  { by, reviewer }: Closers,
  end: CalendarDay,
): Promise<CalendarDay> {
  const endsOn = formatDay(end);
  const { digest, review } = await closeView(on, figures, by, endsOn);
  const seen = { digest: digest ?? '', confirm: ['payments-unrecorded', 'fixings-missing'] as const };
  if (!review.twoPeople) {
    const { opens } = await lockPeriod(on, figures, by, endsOn, seen, end + 1);
    return parseDay(opens) as CalendarDay;
  }
  await handOver(on, figures, by, endsOn, seen, end + 1);
  const { opens } = await approveMonth(on, figures, reviewer, endsOn, seen, end + 1);
  return parseDay(opens) as CalendarDay;
}

/** Who prepares the months of a company, and who approves them. */
interface Closers {
  readonly by: { readonly companyId: number; readonly id: number };
  readonly reviewer: { readonly companyId: number; readonly id: number };
}

/** Stores the company, its people and its accounts; gives who closes its months. */
async function insertCompany(database: Knex, company: DemoCompany): Promise<Closers> {
  const [made] = await database('company')
    .insert({
      name: company.name,
      currency: company.currency,
      digits: company.digits,
      fiscal_year_end_month: company.fiscalYearEndMonth,
      books_from: company.booksFrom,
    })
    .returning('id');
  const companyId = made?.id ?? 0;
  let [closer, reviewer] = [0, 0];
  for (const person of company.people) {
    const [row] = await database('person')
      .insert({
        log_in: person.logIn,
        name: person.name,
        password_hash: await hashPassword(person.password),
      })
      .returning('id');
    await database('member').insert({
      company_id: companyId,
      person_id: row?.id ?? 0,
      role: person.role,
    });
    if (person.role.includes('prepare')) closer = row?.id ?? 0;
    if (person.role.includes('review')) reviewer = row?.id ?? 0;
  }
  await database('account').insert(
    company.accounts.map(({ code, name }) => ({ company_id: companyId, code, name })),
  );
  await database('account_of_role').insert(
    company.accounts.map(({ role: of, code }) => ({ company_id: companyId, role: of, code })),
  );
  return { by: { companyId, id: closer }, reviewer: { companyId, id: reviewer } };
}

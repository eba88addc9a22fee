import type { Knex } from 'knex';
import { accountRoles } from '@coffer/core';
import type { ChartBody, ChartView, ConfirmCode, OwnAccounts } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import { inChunks } from '../database/in-chunks.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import type { Person } from '../http/route.ts';
import { newestVersion } from '../instruments/instrument-store.ts';
import { nameOf } from '../instruments/known-instruments.ts';
import type { Accounts } from './accounts.ts';
import { askAboutKinds } from './ask-about-kinds.ts';

/** The chart of a company, by code. */
export async function chartOf(database: Knex, companyId: number): Promise<Omit<ChartView, 'broughtIn'>> {
  const of = { company_id: companyId };
  const company = await database('company').where({ id: companyId }).first('accounts_revision');
  const rows = await database('account').where(of).orderBy('code').select('code', 'name');
  const posted = new Set(
    await database('entry_line').where(of).distinct('account_code').pluck('account_code'),
  );
  const own = await database('account_of_instrument')
    .where(of)
    .groupBy('code')
    .select<{ code: string; many: number }[]>('code', database.raw('count(*)::int as many'));
  const uses = new Map(own.map(({ code, many }) => [code, many]));
  const defaults = await database('account_of_role').where(of).select('role', 'code');
  return {
    revision: company?.accounts_revision ?? 1,
    accounts: rows.map((row) => ({
      ...row,
      posted: posted.has(row.code),
      instruments: uses.get(row.code) ?? 0,
    })),
    defaults: accountRoles.flatMap((role) => defaults.filter((each) => each.role === role)),
  };
}

/** Replaces the chart, in a transaction. Gives its new revision; throws {@link Refusal} with each fault at its place. */
export async function keepChart(database: Knex, by: Person, body: ChartBody): Promise<{ revision: number }> {
  const { companyId } = by;
  const held = await database('company').where({ id: companyId }).forUpdate().first('accounts_revision');
  if (held?.accounts_revision !== body.revision) {
    throw new Refusal(
      409,
      'stale-version',
      'Somebody else changed the chart of accounts meanwhile, and nothing was changed. Look at it anew.',
    );
  }
  const before = await chartOf(database, companyId);
  refuseFaults(body, before);
  const names = new Map(body.accounts.map(({ code, name }) => [code, name]));
  const stood = new Map(before.defaults.map(({ role, code }) => [role, code]));
  const given = body.defaults.filter(({ role, code }) => stood.get(role) !== code);
  askAboutKinds(given, body.defaults, names, body.confirm);
  const gone = before.accounts.filter(({ code }) => !names.has(code)).map(({ code }) => code);
  const of = { company_id: companyId };
  await inChunks(
    body.accounts.map((account) => ({ ...of, ...account })),
    (chunk) => database('account').insert(chunk).onConflict(['company_id', 'code']).merge(['name']),
  );
  await database('account_of_role').where(of).delete();
  if (body.defaults.length > 0) {
    await database('account_of_role').insert(body.defaults.map((each) => ({ ...of, ...each })));
  }
  await database('ledger_balance').where(of).whereIn('code', gone).delete();
  await database('account').where(of).whereIn('code', gone).delete();
  const revision = body.revision + 1;
  await database('company').where({ id: companyId }).update({ accounts_revision: revision });
  await audit(database, by, 'accounts-changed', [{ subject: 'chart', detail: changeOf(before, body) }]);
  return { revision };
}

function refuseFaults({ accounts, defaults }: ChartBody, before: Omit<ChartView, 'broughtIn'>): void {
  const faults = [];
  const seen = new Map<string, number>();
  for (const [at, { code }] of accounts.entries()) {
    const first = seen.get(code);
    if (first === undefined) seen.set(code, at);
    else
      faults.push({
        key: `accounts.${at}.code`,
        message: `The code ${code} stands in line ${first + 1} already.`,
      });
  }
  const used = before.accounts.filter(
    ({ code, posted, instruments }) => !seen.has(code) && (posted || instruments > 0),
  );
  for (const { code, name, posted } of used) {
    const why = posted ? 'entries are posted in it' : 'an instrument has it of its own';
    faults.push({ key: 'accounts', message: `The account ${code} ${name} cannot go away: ${why}.` });
  }
  const roles = new Set<string>();
  for (const [at, { role, code }] of defaults.entries()) {
    const key = `defaults.${at}`;
    if (!seen.has(code)) faults.push({ key, message: `There is no account ${code} in the chart.` });
    if (roles.has(role)) faults.push({ key, message: 'This role has an account already.' });
    roles.add(role);
  }
  if (faults.length > 0) throw faultyInput(faults, 'The chart cannot be kept so, and nothing was changed.');
}

/** What a change does to the chart, for the audit trail. */
function changeOf(before: Omit<ChartView, 'broughtIn'>, { accounts, defaults }: ChartBody): object {
  const were = new Map(before.accounts.map(({ code, name }) => [code, name]));
  const are = new Map(accounts.map(({ code, name }) => [code, name]));
  const stood = new Map(before.defaults.map(({ role, code }) => [role, code]));
  const stand = new Map(defaults.map(({ role, code }) => [role, code]));
  return {
    added: accounts.filter(({ code }) => !were.has(code)),
    renamed: accounts
      .filter(({ code, name }) => were.has(code) && were.get(code) !== name)
      .map(({ code, name }) => ({ code, from: were.get(code), to: name })),
    removed: before.accounts.filter(({ code }) => !are.has(code)).map(({ code, name }) => ({ code, name })),
    roles: accountRoles
      .filter((role) => stood.get(role) !== stand.get(role))
      .map((role) => ({ role, from: stood.get(role) ?? null, to: stand.get(role) ?? null })),
  };
}

/** Gives an instrument its own accounts and cost centre, in a transaction. Throws {@link Refusal} 404 or 422. */
export async function keepOwnAccounts(
  database: Knex,
  by: Person,
  id: string,
  { accounts, costCentre, confirm }: OwnAccounts & { readonly confirm: readonly ConfirmCode[] },
  before: Accounts,
): Promise<void> {
  const { companyId } = by;
  const version = await newestVersion(database, companyId, id);
  const rows = await database('account').where({ company_id: companyId }).select('code', 'name');
  const chart = new Map(rows.map(({ code, name }) => [code, name]));
  const faults = accounts.flatMap(({ role, code }, at) => {
    const twice = accounts.findIndex((each) => each.role === role) < at;
    if (twice) return [{ key: `accounts.${at}`, message: 'This role has an account already.' }];
    return chart.has(code)
      ? []
      : [{ key: `accounts.${at}`, message: `There is no account ${code} in the chart.` }];
  });
  if (faults.length > 0) throw faultyInput(faults);
  const given = accounts.filter(({ role, code }) => before.of(id, role)?.code !== code);
  const defaults = await database('account_of_role').where({ company_id: companyId }).select('role', 'code');
  const replaced = new Set(accounts.map(({ role }) => role));
  const others = [...accounts, ...defaults.filter(({ role }) => !replaced.has(role))];
  askAboutKinds(given, others, chart, confirm);
  await database('account_of_instrument').where({ instrument_id: id }).delete();
  if (accounts.length > 0) {
    await database('account_of_instrument').insert(
      accounts.map((each) => ({ company_id: companyId, instrument_id: id, ...each })),
    );
  }
  await database('instrument').where({ id }).update({ cost_centre: costCentre });
  const was = accountRoles.flatMap((role) =>
    before.isOwn(id, role) ? [{ role, code: before.of(id, role)?.code }] : [],
  );
  await audit(database, by, 'own-accounts-changed', [
    {
      subject: nameOf(version),
      detail: {
        instrumentId: id,
        accounts,
        costCentre,
        before: { accounts: was, costCentre: before.costCentre(id) },
      },
    },
  ]);
}

/** Keeps what the ledger held, in a transaction. Throws {@link Refusal} 409 once the first month is closed, 422 otherwise. */
export async function keepLedger(
  database: Knex,
  by: Person,
  balances: readonly { readonly code: string; readonly balance: number | null }[],
): Promise<void> {
  const { companyId } = by;
  const { booksFrom } = await companyOf(database, companyId);
  const closed = await database('period').where({ company_id: companyId, state: 'closed' }).first('ends_on');
  if (closed) {
    throw new Refusal(
      409,
      'period-closed',
      `What the books began with on ${booksFrom} stands since the first month was closed.`,
    );
  }
  const chart = new Set(await database('account').where({ company_id: companyId }).pluck<string[]>('code'));
  const faults = balances.flatMap(({ code }, at) =>
    chart.has(code) ? [] : [{ key: `balances.${at}`, message: `There is no account ${code} in the chart.` }],
  );
  if (faults.length > 0) throw faultyInput(faults);
  const codes = balances.map(({ code }) => code);
  await database('ledger_balance').where({ company_id: companyId }).whereIn('code', codes).delete();
  const known = balances.flatMap(({ code, balance }) =>
    balance === null ? [] : [{ company_id: companyId, code, balance }],
  );
  await inChunks(known, (chunk) =>
    database('ledger_balance').insert(chunk).onConflict(['company_id', 'code']).merge(),
  );
  await audit(database, by, 'ledger-balances', [{ subject: booksFrom, detail: { balances } }]);
}

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer } from '../testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

/** In the demo company September is closed and October open; its first instrument stands for any. */
const closed = '2026-09-30';
const open = '2026-10-31';
const one = `(select id from instrument where company_id = 1 order by id limit 1)`;
const next = '(select last_entry_number + 1 from company where id = 1)';
const entry = (number: string, end = open, date = end, forPeriod = 'null'): string =>
  `insert into entry (company_id, number, period_end, date, kind, memo, instrument_id, instrument_version, for_period)
   select 1, ${number}, '${end}', '${date}', 'accrual', 'x', ${one}, 1, ${forPeriod}::date`;
const lines = (...amounts: [debit: number, credit: number, line?: number][]): string =>
  `insert into entry_line (company_id, number, line, role, debit, credit, account_code) values ${amounts
    .map(
      ([debit, credit, line], at) => `(1, ${next}, ${line ?? at + 1}, 'cash', ${debit}, ${credit}, '1010')`,
    )
    .join(', ')}`;
const reported = (end: string, more: Record<string, number>, of = one): string => {
  const figures = { outstanding: 10, carrying: 10, current: 4, non_current: 6, ...more };
  const zeros = ['accrued_interest', 'unpaid_interest', 'unamortized_discount', 'unamortized_premium']
    .concat(['unamortized_issue_costs', 'expense', 'amortized', 'current_change'])
    .filter((name) => !(name in figures));
  return `insert into reported_position
    (company_id, period_end, instrument_id, instrument_version, ${[...Object.keys(figures), ...zeros].join(', ')})
    values (1, '${end}', ${of}, 1, ${[...Object.values(figures), ...zeros.map(() => 0)].join(', ')})`;
};
const reportedFund = (end: string): string =>
  `insert into reported_fund values (1, '${end}', ${one}, 1, 10, 0, 10, 0, 0)`;
const leftOut = (end: string, amount = 5): string =>
  `insert into left_out values (1, '${end}', ${one}, false, 'interest-expense', ${amount})`;
const told = (end: string, of = one, told = '{}'): string =>
  `insert into told_at_close values (1, '${end}', ${of}, '${told}')`;
const paper = (more: Record<string, string> = {}): string => {
  const content = `'x'::bytea`;
  const row = {
    name: `'x'`,
    type: `'image/png'`,
    bytes: '1',
    sha256: `sha256(${content})`,
    content,
    ...more,
  };
  return `insert into paper (company_id, instrument_id, ${Object.keys(row).join(', ')})
    values (1, ${one}, ${Object.values(row).join(', ')})`;
};
/** An instrument of which January reported nothing. */
const takenOnLater = `(select id from instrument where company_id = 1 and id not in (
  select instrument_id from reported_position where period_end = '2026-01-31') limit 1)`;
const never = 'CF002';
const setting = (key: string, reason: string): string =>
  `insert into setting (company_id, key, was, value, holds_from, reason)
   values (1, '${key}', '1', '2', '2026-10-01', '${reason}')`;

const person = (logIn: string): string => `(select id from person where log_in = '${logIn}')`;
const step = (more: Record<string, string> = {}): string => {
  const row = {
    company_id: '1',
    period_end: `'${open}'`,
    step: `'handed-over'`,
    digest: `sha256('x')`,
    parts: `'{}'`,
    taken_by: person('ilka'),
    ...more,
  };
  return `insert into period_step (${Object.keys(row).join(', ')}) values (${Object.values(row).join(', ')})`;
};
const comment = (text: string, end = open): string =>
  `insert into period_comment (company_id, period_end, text) values (1, '${end}', '${text}')`;
const closing = (as: string, by: string): string =>
  `update period set state = 'closed', closed_at = now(), closed_as = '${as}', seen_to = (select max(id) from audit_event),
     closed_by = ${by === '' ? 'null' : person(by)} where company_id = 1 and ends_on = '${open}'`;
const prepared = `update period set state = 'prepared' where company_id = 1 and ends_on = '${open}'`;
const handed = `${step()}; ${prepared}`;

/** What the database refuses by each of its triggers, and how: a statement for each, whatever the application does. */
const triggers: Record<string, [sql: string, code: string]> = {
  audit_event_append_only: [`delete from audit_event`, never],
  audit_event_no_truncate: [`truncate audit_event`, never],
  company_stays: [`update company set id = 99 where id = 1`, never],
  person_stays: [`delete from person where log_in = 'tobiah'`, never],
  company_keeps_facts: [`update company set currency = 'USD' where id = 1`, 'CF008'],
  entry_append_only: [`update entry set memo = 'other'`, never],
  entry_must_balance: [entry(next), 'CF004'],
  entry_no_truncate: [`truncate entry cascade`, never],
  entry_numbers_without_gaps: [entry(`${next} + 1`), 'CF005'],
  entry_period_open: [entry(next, closed), 'CF001'],
  entry_line_append_only: [`update entry_line set debit = debit + 1 where debit > 0`, never],
  entry_line_no_truncate: [`truncate entry_line`, never],
  entry_line_period_open: [
    `insert into entry_line select company_id, number, 99, role, debit, credit, account_code from entry_line
     where (company_id, number) = (1, 1) limit 1`,
    'CF001',
  ],
  entry_lines_must_balance: [`${entry(next)}; ${lines([5, 0], [0, 4])}`, 'CF004'],
  setting_append_only: [`${setting('numbers', 'x')}; update setting set reason = 'y'`, never],
  setting_no_truncate: [`truncate setting`, never],
  fixing_append_only: [`update fixing set rate = '1%'`, never],
  fixing_no_truncate: [`truncate fixing`, never],
  instrument_stays_withdrawn: [
    `update instrument set withdrawn_at = now(), withdrawn_because = 'x' where id = ${one};
     update instrument set withdrawn_at = null, withdrawn_because = null where id = ${one}`,
    never,
  ],
  instrument_version_append_only: [`update instrument_version set reason = 'other'`, never],
  instrument_version_in_currency: [
    `insert into instrument_version (instrument_id, version, document, reason)
     values (${one}, 99, '{"currency":"USD"}', 'x')`,
    'CF007',
  ],
  instrument_version_follows: [`update instrument set version = version + 2 where id = ${one}`, 'CF003'],
  instrument_version_no_truncate: [`truncate instrument_version cascade`, never],
  member_administrator_stays: [
    `update member set role = array['prepare'] where company_id = 1 and 'administer' = any (role)`,
    'CF006',
  ],
  paper_no_truncate: [`truncate paper`, never],
  paper_stays: [`${paper()}; update paper set name = 'other'`, never],
  period_closed_by_whom: [closing('alone', 'ilka'), 'CF009'],
  period_comment_append_only: [`${comment('x')}; update period_comment set text = 'y'`, never],
  period_comment_no_truncate: ['truncate period_comment', never],
  period_comment_period_open: [comment('x', closed), 'CF001'],
  period_step_append_only: [`delete from period_step`, never],
  period_step_no_truncate: ['truncate period_step', never],
  period_step_period_open: [step({ period_end: `'${closed}'` }), 'CF001'],
  period_keeps_closed: [
    `update period set state = 'open', closed_at = null where company_id = 1 and ends_on = '${closed}'`,
    'CF001',
  ],
  told_at_close_append_only: [`${told(open)}; update told_at_close set told = '{}'`, never],
  told_at_close_no_truncate: [`truncate told_at_close`, never],
  told_at_close_period_open: [told('2026-01-31', takenOnLater), 'CF001'],
  left_out_append_only: [`${leftOut(open)}; update left_out set amount = 1`, never],
  left_out_no_truncate: [`truncate left_out`, never],
  left_out_period_open: [leftOut(closed), 'CF001'],
  reported_fund_append_only: [`${reportedFund(open)}; update reported_fund set earned = 0`, never],
  reported_fund_no_truncate: [`truncate reported_fund`, never],
  reported_fund_period_open: [reportedFund(closed), 'CF001'],
  reported_position_append_only: [`update reported_position set expense = 0`, never],
  reported_position_no_truncate: [`truncate reported_position`, never],
  seal_append_only: [`update seal set hash = null`, never],
  seal_no_truncate: [`truncate seal`, never],
  reported_position_period_open: [reported('2026-01-31', {}, takenOnLater), 'CF001'],
};

const company = (more: Record<string, string | number>): string => {
  const of = { name: `'x'`, currency: `'EUR'`, digits: 2, fiscal_year_end_month: 12, ...more };
  const row = { books_from: `'2026-01-01'`, ...of };
  return `insert into company (${Object.keys(row).join(', ')}) values (${Object.values(row).join(', ')})`;
};
const version = (number: number, reason: string): string =>
  `insert into instrument_version (instrument_id, version, document, reason) values (${one}, ${number}, '{}', '${reason}')`;
const period = (end: string, state: string, more = 'null', accruals = 'reversed'): string =>
  `insert into period (company_id, ends_on, state, closed_at, accruals) values (1, '${end}', '${state}', ${more}, '${accruals}')`;
const link = (kind: string, role = 'review'): string =>
  `insert into link (company_id, kind, token_hash, log_in, name, role, expires_at)
   values (1, '${kind}', 'x', 'x', 'x', array['${role}'], now())`;
const account = (code: string, name: string): string =>
  `insert into account values (1, '${code}', '${name}')`;
const fixing = (source: string, reason: string): string =>
  `insert into fixing (index_id, on_day, rate, source, reason)
   select id, '2026-10-15', '1%', '${source}', '${reason}' from rate_index limit 1`;
const withEntry = (statement: string): string => `${entry(next)}; ${statement}`;

/** What it refuses by each check of its tables. */
const checks: Record<string, string> = {
  account_code_check: account('', 'x'),
  account_name_check: account('x', ''),
  company_books_from_check: company({ books_from: `'2026-01-02'` }),
  company_digits_check: company({ digits: 5 }),
  company_fiscal_year_end_month_check: company({ fiscal_year_end_month: 13 }),
  entry_check: entry(next, open, '2026-11-01'),
  entry_number_check: entry('0'),
  setting_key_check: setting('', 'x'),
  setting_reason_check: setting('numbers', ''),
  fixing_reason_check: fixing('typed', ''),
  fixing_source_check: fixing('heard', 'x'),
  for_an_earlier_period: entry(next, open, open, `'${open}'`),
  entry_line_check: withEntry(lines([5, 5], [0, 0])),
  entry_line_credit_check: withEntry(lines([0, -5], [-5, 0])),
  entry_line_debit_check: withEntry(lines([-5, 0], [0, 5])),
  entry_line_line_check: withEntry(lines([5, 0, 0], [0, 5])),
  instrument_cost_centre_check: `update instrument set cost_centre = ''`,
  instrument_kind_check: `insert into instrument (company_id, name, kind, version) values (1, 'x', 'share', 1)`,
  instrument_version_check: `insert into instrument (company_id, name, kind, version) values (1, 'x', 'debt', 0)`,
  instrument_withdrawn_because_check: `update instrument set withdrawn_at = now(), withdrawn_because = '' where id = ${one}`,
  scenario_name_check: `insert into scenario (company_id, name) values (1, '')`,
  scenario_revision_check: `insert into scenario (company_id, name, revision) values (1, 'x', 0)`,
  withdrawn_with_its_reason: `update instrument set withdrawn_at = now() where id = ${one}`,
  instrument_version_reason_check: version(2, ''),
  instrument_version_version_check: version(0, 'x'),
  minor_units_check: withEntry(lines([9_007_199_254_740_991 + 1, 0], [0, 5])),
  paper_bytes_check: paper({ bytes: '0', content: 'null' }),
  paper_is_what_it_was: paper({ sha256: `sha256('y'::bytea)` }),
  paper_name_check: paper({ name: `''` }),
  paper_taken_away_because_check: paper({
    content: 'null',
    taken_away_at: 'now()',
    taken_away_because: `''`,
  }),
  paper_type_check: paper({ type: `'text/html'` }),
  taken_away_with_its_reason: paper({ content: 'null' }),
  period_accruals_check: period('2027-01-31', 'open', 'null', 'kept'),
  period_check: period('2027-01-31', 'open', 'now()'),
  period_closed_as_check: `update period set closed_as = 'somehow' where company_id = 1 and ends_on = '${open}'`,
  period_closed_somehow: `update period set closed_as = 'alone' where company_id = 1 and ends_on = '${open}'`,
  period_comment_text_check: comment(''),
  period_ends_on_check: period('2027-01-30', 'open'),
  period_state_known: `update period set state = 'ajar' where company_id = 1 and ends_on = '${open}'`,
  period_step_said: step({ step: `'returned'` }),
  second_factor_wrong_in_row_check: `insert into second_factor (person_id, secret, wrong_in_row) values (${person('bram')}, 'x', -1)`,
  second_factor_wrong_since_check: `insert into second_factor (person_id, secret, wrong_since) values (${person('bram')}, 'x', -1)`,
  period_seen: `update period set seen_to = 0 where company_id = 1 and ends_on = '${open}'`,
  period_step_check1: step({ parts: 'null' }),
  period_step_comment_check: step({ step: `'returned'`, comment: `''` }),
  period_step_digest_check: step({ digest: `'x'::bytea` }),
  period_step_step_check: step({ step: `'ajar'` }),
  link_check: `${link('invitation')}; update link set used_at = now(), taken_back_at = now()`,
  link_kind_check: link('visit'),
  link_role_check: link('invitation', 'owner'),
  member_role_check: `update member set role = array['owner'] where company_id = 1`,
  person_named: `update person set name = '' where log_in = 'bram'`,
  rate_index_key_check: `insert into rate_index (company_id, name, key) values (1, 'x', '')`,
  rate_index_name_check: `insert into rate_index (company_id, name, key) values (1, '', 'x')`,
  rate_index_revision_check: `update rate_index set revision = -1`,
  told_at_close_told_check: told(open, one, '[]'),
  left_out_amount_check: leftOut(open, 0),
  reported_position_check: reported(open, { current: 5 }),
  reported_position_check1: reported(open, { outstanding: 11 }),
};

const catalogue = async (sql: string): Promise<string[]> => {
  const { rows } = await server.database.raw(sql);
  return (rows as { name: string }[]).map(({ name }) => name).sort();
};
/** As whoever owns the database would: the guards hold for them, too. */
const refused = (sql: string): Promise<unknown> => server.owned.transaction((on) => on.raw(sql));

describe('the database itself', () => {
  it.each(Object.entries(triggers))('refuses by %s', async (_, [sql, code]) => {
    await expect(refused(sql)).rejects.toMatchObject({ code });
  });

  // 23514: a check is violated (PostgreSQL, appendix A, class 23).
  it.each(Object.entries(checks))('refuses by %s', async (constraint, sql) => {
    await expect(refused(sql)).rejects.toMatchObject({ code: '23514', constraint });
  });

  it('has no guard that no statement here was refused by', async () => {
    // What chains the trail and seals rows refuses nothing (verify/every-column.test.ts).
    const guards = await catalogue(
      `select tgname as name from pg_trigger where not tgisinternal and tgname <> 'audit_event_chain'
         and tgname !~ '_sealed_(added|changed|removed)$' and tgname not in ('seals_are_told', 'period_month_sealed')`,
    );
    expect(Object.keys(triggers).sort()).toEqual(guards);
    const found = await catalogue(
      `select conname as name from pg_constraint where contype = 'c' and connamespace = 'public'::regnamespace`,
    );
    expect(Object.keys(checks).sort()).toEqual(found);
  });

  // Two pairs of eyes (duties kept apart; common practice): neither who prepared, nor who may not, nor nobody.
  it.each([
    ['by nobody', closing('reviewed', '')],
    ['as brought in, in a company that was not', closing('brought', '')],
    ['before it was handed over', closing('reviewed', 'bram')],
    ['that says so and nobody handed over', `${prepared}; ${closing('reviewed', 'bram')}`],
    ['by who does not review', `${handed}; ${closing('reviewed', 'tobiah')}`],
    [
      'by who handed it over, though they review by now',
      `update member set role = array['prepare', 'review'] where person_id = ${person('tobiah')};
       ${step({ taken_by: person('tobiah') })}; ${prepared}; ${closing('reviewed', 'tobiah')}`,
    ],
    [
      'by who chose for it',
      `update period set accruals_by = ${person('bram')} where company_id = 1 and ends_on = '${open}';
       ${handed}; ${closing('reviewed', 'bram')}`,
    ],
    [
      'by who changed an instrument for it',
      `insert into instrument_version (instrument_id, version, document, reason, made_by, made_at)
         select instrument_id, max(version) + 1, '{"currency":"EUR"}', 'x', ${person('bram')}, now()
         from instrument_version where instrument_id = ${one} group by 1;
       ${handed}; ${closing('reviewed', 'bram')}`,
    ],
    [
      'by who withdrew one',
      `update instrument set withdrawn_at = now(), withdrawn_because = 'x', withdrawn_by = ${person('bram')}
         where id = ${one};
       ${handed}; ${closing('reviewed', 'bram')}`,
    ],
    [
      'by who gave an instrument accounts of its own',
      `insert into audit_event (company_id, person_id, action, subject, detail)
         values (1, ${person('bram')}, 'own-accounts-changed', 'x', '{}');
       ${handed}; ${closing('reviewed', 'bram')}`,
    ],
    [
      'by who is suspended',
      `update member set suspended_at = now() where person_id = ${person('bram')}; ${handed}; ${closing('reviewed', 'bram')}`,
    ],
    ['as it begins', period('2027-01-31', 'closed', 'now()')],
  ])('closes no month %s', async (_, sql) => {
    await expect(refused(sql)).rejects.toMatchObject({ code: 'CF009' });
  });

  it('closes one that somebody else handed over', async () => {
    const on = await server.owned.transaction();
    await on.raw(`${handed}; ${closing('reviewed', 'bram')}`);
    const found = await on('period').where({ company_id: 1, ends_on: open }).first('state');
    await on.rollback();
    expect(found).toEqual({ state: 'closed' });
  });

  it('opens one month at a time, and keeps names and log-ins apart', async () => {
    // 23505: a unique key is violated.
    const twice = [
      period('2027-01-31', 'open'),
      `insert into instrument (company_id, name, kind, version) select company_id, upper(name), 'debt', 1 from instrument limit 1`,
      `insert into person (log_in, name, password_hash) values ('ILKA', 'x', 'x')`,
      `insert into company (name, currency, digits, fiscal_year_end_month, books_from)
       select upper(name), 'EUR', 2, 12, '2026-01-01' from company limit 1`,
    ];
    for (const sql of twice) await expect(refused(sql)).rejects.toMatchObject({ code: '23505' });
  });
});

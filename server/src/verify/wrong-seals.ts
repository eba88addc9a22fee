import type { Knex } from 'knex';
import type { Disagreement } from './verify-books.ts';

/** What a row of each sealed table is, in words. */
const words: Readonly<Record<string, string>> = {
  account: 'The account',
  account_of_instrument: 'The account of an instrument’s own',
  account_of_role: 'The default account',
  company: 'The company',
  entry: 'The entries',
  entry_line: 'The lines of the entries',
  fixing: 'The fixing',
  instrument: 'The instrument',
  instrument_version: 'The version of an instrument',
  ledger_balance: 'The ledger’s balance before the books',
  left_out: 'What the close left out as too small',
  link: 'The one-time link',
  member: 'The role of',
  paper: 'The paper',
  period: 'The month',
  period_comment: 'The comment on a month',
  period_step: 'The step of a month',
  person: 'The person',
  rate_index: 'The reference rate',
  recovery_code: 'A recovery code of',
  reported_fund: 'What the close reported of funds',
  reported_position: 'What the close reported',
  second_factor: 'The second factor of',
  seal: 'The seal',
  setting: 'The setting',
  told_at_close: 'What the close told of differences, payments and rates',
};

/** Tables whose keys tell of a person by number. */
const ofPeople: ReadonlySet<string> = new Set(['member', 'person', 'recovery_code', 'second_factor']);

/** Tables whose keys begin with the company. */
const ofCompanies: ReadonlySet<string> = new Set([
  ...['account', 'account_of_role', 'company', 'entry', 'entry_line', 'ledger_balance', 'left_out', 'member'],
  ...['period', 'reported_fund', 'reported_position', 'told_at_close'],
]);

interface Found {
  readonly of_table: string;
  readonly key: string;
  readonly company_id: number | null;
  readonly wrong: 'added' | 'removed' | 'changed' | 'again' | 'untold';
  readonly sealed_at: Date | null;
}

function wrongs({ wrong, sealed_at: at }: Found): string {
  const after = at === null ? '' : ` after ${at.toISOString().slice(0, 16).replace('T', ' at ')} UTC`;
  if (wrong === 'untold') return 'no event of the audit trail tells of it';
  if (wrong === 'again') return 'sealed more than once, though it never changes';
  if (wrong === 'added') return 'put there otherwise than by Coffer';
  return `${wrong === 'removed' ? 'taken away' : 'changed'} otherwise than by Coffer${after}`;
}

/** What was added, changed or taken away otherwise than by Coffer since it was sealed, by company. */
export async function wrongSeals(database: Knex): Promise<Disagreement[]> {
  const { rows } = await database.raw<{ rows: Found[] }>(
    'select * from not_as_sealed() order by company_id, of_table, key',
  );
  if (rows.length === 0) return [];
  const names = async (table: 'company' | 'instrument' | 'person'): Promise<Map<string, string>> => {
    const named = await database(table).select<{ id: number | string; name: string }[]>('id', 'name');
    return new Map(named.map(({ id, name }) => [String(id), name]));
  };
  const [companies, instruments, people] = [
    await names('company'),
    await names('instrument'),
    await names('person'),
  ];
  return rows.map((found) => {
    const { of_table: table, key } = found;
    const [first = '', ...others] = key.split(' ');
    const id = ofCompanies.has(table) ? first : String(found.company_id);
    const parts = ofCompanies.has(table) ? others : [first, ...others];
    const said = ofPeople.has(table)
      ? (people.get(parts[0] ?? '') ?? key)
      : parts.map((part) => instruments.get(part) ?? part).join(table.startsWith('entry') ? ' to ' : ' ');
    return {
      company: companies.get(id) ?? 'Installation',
      message: `${[words[table] ?? table, said].filter(Boolean).join(' ')}: ${wrongs(found)}.`,
    };
  });
}

/** The day (`YYYY-MM-DD`) on which what was there already was sealed as it was found; nothing where all was sealed as it came. */
export async function sealedAsFoundOn(database: Knex): Promise<string | undefined> {
  const found = await database('audit_event')
    .where({ action: 'sealed' })
    .whereRaw(`detail -> 'found' is not null`)
    .orderBy('id')
    .first('at');
  return found?.at.toISOString().slice(0, 10);
}

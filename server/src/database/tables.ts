import type { Knex } from 'knex';
import type { AccountRole, AccrualChoice, EntryKind, PositionFigure } from '@coffer/core';
import type {
  ClosedWay,
  ConfirmCode,
  fixingSources,
  MonthStep,
  PaperType,
  PeriodState,
  Permission,
} from '@coffer/contract';

/** A figure's name in words of the database. */
export type ColumnOf<Key extends string> = Key extends `${infer First}${infer Rest}`
  ? `${First extends Lowercase<First> ? First : `_${Lowercase<First>}`}${ColumnOf<Rest>}`
  : '';

/** Where a table keeps a figure of a position: its name in words of the database. */
export function columnOf<Key extends PositionFigure>(key: Key): ColumnOf<Key> {
  return key.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`) as ColumnOf<Key>;
}

/** The company whose books are kept. */
export interface CompanyRow {
  readonly id: number;
  readonly name: string;
  readonly currency: string;
  readonly digits: number;
  readonly fiscal_year_end_month: number;
  /** `YYYY-MM-DD`, as every date. */
  readonly books_from: string;
  readonly last_entry_number: number;
  readonly second_factor_required: boolean;
  readonly accounts_revision: number;
}

/** Somebody who may log in. */
export interface PersonRow {
  readonly id: number;
  readonly log_in: string;
  readonly name: string;
  readonly password_hash: string;
  readonly password_since: Date;
  readonly last_log_in: Date | null;
}

/** A person in a company. */
export interface MemberRow {
  readonly company_id: number;
  readonly person_id: number;
  readonly role: readonly Permission[];
  readonly suspended_at: Date | null;
}

/** A person's second factor; it counts once it has a day. */
export interface SecondFactorRow {
  readonly person_id: number;
  /** Encrypted. */
  readonly secret: Buffer;
  readonly since: Date | null;
  readonly last_step: number;
  readonly wrong_in_row: number;
  readonly wait_until: Date | null;
  /** Wrong codes since the last log-in. */
  readonly wrong_since: number;
}

/** A recovery code, of which a hash is kept. */
export interface RecoveryCodeRow {
  readonly person_id: number;
  readonly hash: Buffer;
  readonly used_at: Date | null;
}

/** A one-time link, of whose token a hash is kept. */
export interface LinkRow {
  readonly id: number;
  readonly company_id: number;
  readonly kind: 'invitation' | 'new-password';
  readonly token_hash: Buffer;
  readonly log_in: string;
  readonly name: string;
  readonly role: readonly Permission[];
  readonly made_by: number | null;
  readonly made_at: Date;
  readonly expires_at: Date;
  readonly used_at: Date | null;
  readonly taken_back_at: Date | null;
}

/** An account of the chart. */
export interface AccountRow {
  readonly company_id: number;
  readonly code: string;
  readonly name: string;
}

/** The account of a role, unless an instrument has its own. */
export interface AccountOfRoleRow {
  readonly company_id: number;
  readonly role: AccountRole;
  readonly code: string;
}

/** The account that an instrument has of its own for a role. */
export interface AccountOfInstrumentRow extends AccountOfRoleRow {
  readonly instrument_id: string;
}

/** What the ledger held in an account on the day before the books; minor units, debits positive. */
export interface LedgerBalanceRow {
  readonly company_id: number;
  readonly code: string;
  readonly balance: number;
}

/** A fiscal month. */
export interface PeriodRow {
  readonly company_id: number;
  readonly ends_on: string;
  readonly state: PeriodState;
  readonly closed_at: Date | null;
  readonly closed_by: number | null;
  readonly closed_as: ClosedWay | null;
  /** The last event of the audit trail that its close saw. */
  readonly seen_to: number | null;
  /** The hash of that event. */
  readonly seen_hash: Buffer | null;
  readonly accruals: AccrualChoice;
  /** Who chose that for the month alone. */
  readonly accruals_by: number | null;
  /** Once it is closed: instruments settled before it, and reversals that the next month opened with. */
  readonly settled: number | null;
  readonly reversals: number | null;
}

/** A step of a month from one state to another. */
export interface PeriodStepRow {
  readonly id: number;
  readonly company_id: number;
  readonly period_end: string;
  readonly step: MonthStep['step'];
  readonly digest: Buffer | null;
  /** What the digest was made of, as JSON; written as text. */
  readonly parts: unknown;
  readonly comment: string | null;
  readonly confirmed: readonly ConfirmCode[];
  readonly taken_by: number | null;
  readonly taken_at: Date;
}

/** A comment on a month, or on an instrument in it. */
export interface PeriodCommentRow {
  readonly id: number;
  readonly company_id: number;
  readonly period_end: string;
  readonly instrument_id: string | null;
  readonly text: string;
  readonly said_by: number | null;
  readonly said_at: Date;
}

/** An instrument, at its newest version. */
export interface InstrumentRow {
  readonly id: string;
  readonly company_id: number;
  readonly name: string;
  /** What is owed, or a fund that repays it. */
  readonly kind: 'debt' | 'fund';
  readonly version: number;
  readonly created_at: Date;
  readonly withdrawn_at: Date | null;
  readonly withdrawn_by: number | null;
  readonly withdrawn_because: string | null;
  readonly cost_centre: string | null;
}

/** A version of an instrument. */
export interface VersionRow {
  readonly instrument_id: string;
  readonly version: number;
  /** JSON; written as text, and read as text where it is needed. */
  readonly document: unknown;
  readonly reason: string;
  readonly made_by: number | null;
  readonly made_at: Date;
}

/** A scenario. */
export interface ScenarioRow {
  readonly id: string;
  readonly company_id: number;
  readonly name: string;
  readonly revision: number;
  readonly changed_by: number | null;
  readonly changed_at: Date;
}

/** A file that is kept at an instrument; one that was taken away has no content. */
export interface PaperRow {
  readonly id: string;
  readonly company_id: number;
  readonly instrument_id: string;
  readonly name: string;
  readonly type: PaperType;
  readonly bytes: number;
  readonly sha256: Buffer;
  readonly content: Buffer | null;
  readonly kept_by: number | null;
  readonly kept_at: Date;
  readonly taken_away_at: Date | null;
  readonly taken_away_by: number | null;
  readonly taken_away_because: string | null;
}

/** A reference rate of a company. */
export interface RateIndexRow {
  readonly id: number;
  readonly company_id: number;
  readonly name: string;
  readonly key: string;
  readonly revision: number;
}

/** A setting as it was decided; what it was and is, as JSON. */
export interface SettingRow {
  readonly id: string;
  readonly company_id: number;
  readonly key: string;
  readonly was: string;
  readonly value: string;
  readonly holds_from: string;
  readonly reason: string;
  readonly kept_by: number | null;
  readonly kept_at: Date;
}

/** A fixing as it was kept; one without a rate takes the day back. */
export interface FixingRow {
  readonly id: number;
  readonly index_id: number;
  readonly on_day: string;
  readonly rate: string | null;
  readonly source: (typeof fixingSources)[number];
  readonly reason: string;
  readonly kept_by: number | null;
  readonly kept_at: Date;
}

/** What a scenario changes of an instrument, made from one of its versions. */
export interface ScenarioChangeRow {
  readonly scenario_id: string;
  /** In the order of the scenario. */
  readonly place: number;
  readonly instrument_id: string;
  readonly instrument_version: number;
  /** JSON; written as text. */
  readonly change: unknown;
}

/** A posted entry. */
export interface EntryRow {
  readonly company_id: number;
  readonly number: number;
  readonly period_end: string;
  readonly date: string;
  readonly kind: EntryKind;
  readonly memo: string;
  readonly instrument_id: string;
  readonly instrument_version: number;
  readonly row_number: number | null;
  readonly posted_by: number | null;
  readonly posted_at: Date;
  readonly for_period: string | null;
  readonly cost_centre: string | null;
}

/** A line of a posted entry; minor units. */
export interface EntryLineRow {
  readonly company_id: number;
  readonly number: number;
  readonly line: number;
  readonly role: AccountRole;
  readonly debit: number;
  readonly credit: number;
  readonly account_code: string;
}

/** What a closed month reported of an instrument; minor units. */
export type ReportedRow = Readonly<Record<ColumnOf<PositionFigure>, number>> & {
  readonly company_id: number;
  readonly period_end: string;
  readonly instrument_id: string;
  readonly instrument_version: number;
  readonly expense: number;
  readonly amortized: number;
  readonly current_change: number;
};

/** What a closed month reported of a fund; minor units. */
export interface ReportedFundRow {
  readonly company_id: number;
  readonly period_end: string;
  readonly instrument_id: string;
  readonly instrument_version: number;
  readonly balance: number;
  readonly accrued_interest: number;
  readonly deposited: number;
  readonly earned: number;
  readonly to_goal: number;
}

/** What of an account a close did not book. */
export interface LeftOutRow {
  readonly company_id: number;
  readonly period_end: string;
  readonly instrument_id: string;
  /** Left out by the month before, and charged in this one. */
  readonly made_good: boolean;
  readonly role: AccountRole;
  readonly amount: number;
}

/** What a close told of an instrument beside its figures. */
export interface ToldAtCloseRow {
  readonly company_id: number;
  readonly period_end: string;
  readonly instrument_id: string;
  /** JSON; written as text. */
  readonly told: unknown;
}

/** A link of the audit trail. */
export interface AuditRow {
  readonly id: number;
  /** None for what happens to the installation, such as a log-in. */
  readonly company_id: number | null;
  readonly at: Date;
  readonly person_id: number | null;
  readonly action: string;
  readonly subject: string;
  /** JSON; written as text. */
  readonly detail: unknown;
  readonly previous_hash: Buffer;
  readonly hash: Buffer;
}

/** A call that must not act twice, and how it was answered. */
export interface IdempotencyRow {
  readonly person_id: number;
  readonly key: string;
  readonly request_hash: string;
  /** JSON; none while the call runs. */
  readonly answer: unknown;
  readonly at: Date;
}

/** A failed log-in, by what it is counted under. */
export interface FailureRow {
  readonly id: number;
  readonly key: string;
  readonly at: Date;
}

/** What a row may be written with: what the database gives of itself can be left out, and times be made by it. */
type Written<Row, Given extends keyof Row> = {
  readonly [Key in Exclude<keyof Row, Given>]: Row[Key] | Knex.Raw;
} & { readonly [Key in Given]?: Row[Key] | Knex.Raw };

type Table<Row, Given extends keyof Row = never> = Knex.CompositeTableType<
  Row,
  Written<Row, Given>,
  Partial<Written<Row, never>>
>;

declare module 'knex/types/tables' {
  interface Tables {
    company: Table<CompanyRow, 'id' | 'last_entry_number' | 'second_factor_required' | 'accounts_revision'>;
    person: Table<PersonRow, 'id' | 'password_since' | 'last_log_in'>;
    member: Table<MemberRow, 'suspended_at'>;
    second_factor: Table<SecondFactorRow>;
    recovery_code: Table<RecoveryCodeRow>;
    link: Table<LinkRow, 'id' | 'made_at' | 'used_at' | 'taken_back_at'>;
    account: Table<AccountRow>;
    account_of_role: Table<AccountOfRoleRow>;
    account_of_instrument: Table<AccountOfInstrumentRow>;
    ledger_balance: Table<LedgerBalanceRow>;
    period: Table<
      PeriodRow,
      | 'closed_at'
      | 'closed_by'
      | 'closed_as'
      | 'accruals'
      | 'accruals_by'
      | 'seen_to'
      | 'seen_hash'
      | 'settled'
      | 'reversals'
    >;
    period_step: Table<PeriodStepRow, 'id' | 'digest' | 'parts' | 'comment' | 'confirmed' | 'taken_at'>;
    period_comment: Table<PeriodCommentRow, 'id' | 'said_at'>;
    instrument: Table<
      InstrumentRow,
      'id' | 'created_at' | 'withdrawn_at' | 'withdrawn_by' | 'withdrawn_because' | 'cost_centre'
    >;
    instrument_version: Table<VersionRow, 'made_at'>;
    paper: Table<PaperRow, 'id' | 'kept_at' | 'taken_away_at' | 'taken_away_by' | 'taken_away_because'>;
    rate_index: Table<RateIndexRow, 'id' | 'revision'>;
    fixing: Table<FixingRow, 'id' | 'kept_at'>;
    setting: Table<SettingRow, 'id' | 'kept_at'>;
    scenario: Table<ScenarioRow, 'id' | 'revision' | 'changed_at'>;
    scenario_change: Table<ScenarioChangeRow>;
    entry: Table<EntryRow, 'posted_at' | 'for_period' | 'row_number' | 'cost_centre'>;
    entry_line: Table<EntryLineRow>;
    reported_position: Table<ReportedRow>;
    reported_fund: Table<ReportedFundRow>;
    left_out: Table<LeftOutRow>;
    told_at_close: Table<ToldAtCloseRow>;
    audit_event: Table<AuditRow, 'id' | 'at' | 'previous_hash' | 'hash'>;
    idempotency_key: Table<IdempotencyRow, 'answer' | 'at'>;
    log_in_failure: Table<FailureRow, 'id' | 'at'>;
  }
}

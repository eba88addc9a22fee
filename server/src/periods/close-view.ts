import type { Knex } from 'knex';
import { entryKinds, type AccountRole, type Entry, type EntryKind } from '@coffer/core';
import type { CloseCheck, CloseView, EntryLineView, EntrySum } from '@coffer/contract';
import { accountsOf, type Accounts } from '../accounts/accounts.ts';
import { broughtByInstrument, broughtIn, untied } from '../accounts/brought-in.ts';
import { missingAccounts } from '../accounts/missing-accounts.ts';
import { companyOf } from '../company/company-store.ts';
import { periodsOf } from '../company/company-view.ts';
import { reportedFunds } from '../funds/reported-funds.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
import { entryLines } from '../journal/entry-lines.ts';
import { lineView } from '../journal/entry-view.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { closeChecks } from './close-checks.ts';
import { monthWork, type MonthWork } from './month-work.ts';
import type { PeriodRow } from '../database/tables.ts';
import { periodEnding } from './period-store.ts';

/** What closing a month makes: worked out while it is open, as it was kept once it is closed. */
export async function closeView(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
): Promise<CloseView> {
  const period = await periodEnding(database, companyId, endsOn);
  const accounts = await accountsOf(database, companyId);
  return period.state === 'open'
    ? openView(database, figures, companyId, period, accounts)
    : closedView(database, companyId, period, accounts);
}

async function openView(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  accounts: Accounts,
): Promise<CloseView> {
  const endsOn = period.ends_on;
  const { work, funds, unworkable } = await monthWork(database, figures, companyId, period, false);
  const totals = await postedTotals(database, companyId, endsOn);
  const made = madeBy(work, funds);
  const drafts = made.flatMap(({ inPeriod }) => inPeriod);
  for (const { instrumentId, inPeriod } of made) {
    for (const { kind, lines } of inPeriod) {
      for (const { account: role, code, debit, credit } of lines) {
        totals.add(kind, role, code ?? accounts.of(instrumentId, role)?.code, debit, credit);
      }
      totals.count(kind, 1);
    }
  }
  const { booksFrom } = await companyOf(database, companyId);
  const toPost = made.map(({ instrumentId, inPeriod, opening }) => ({
    instrumentId,
    entries: opening ? [...inPeriod, opening] : inPeriod,
  }));
  return {
    endsOn,
    state: 'open',
    accruals: period.accruals,
    ...checked(
      await closeChecks(
        database,
        companyId,
        endsOn,
        work.map(({ row }) => row),
        funds.map(({ fund }) => fund),
        drafts,
      ),
    ),
    closedAt: null,
    closedBy: null,
    rows: work.map(({ row }) => row),
    funds: funds.map(({ fund }) => fund),
    unworkable: [...unworkable],
    ...totals.view(accounts),
    draftCount: drafts.length,
    reversalCount: [...work, ...funds].filter((done) => done.opening).length,
    payments: {
      due: work.reduce((sum, { payments }) => sum + payments.due, 0),
      recorded: work.reduce((sum, { payments }) => sum + payments.recorded, 0),
    },
    unrecorded: work.flatMap(({ unrecorded }) => unrecorded),
    attention: work.flatMap(({ attention }) => attention),
    missingAccounts: missingAccounts(accounts, toPost),
    untied: untied(
      await broughtIn(
        database,
        companyId,
        await broughtByInstrument(database, companyId, booksFrom, accounts, toPost),
      ),
    ),
  };
}

async function closedView(
  database: Knex,
  companyId: number,
  { ends_on: endsOn, accruals, reversals }: PeriodRow,
  accounts: Accounts,
): Promise<CloseView> {
  const period = (await periodsOf(database, companyId)).find((candidate) => candidate.endsOn === endsOn);
  const rows = (await reportedPositions(database, companyId, endsOn)).map(({ row }) => row);
  const funds = (await reportedFunds(database, companyId, endsOn)).map(({ fund }) => fund);
  const totals = await postedTotals(database, companyId, endsOn);
  return {
    endsOn,
    state: 'closed',
    accruals,
    ...checked(await closeChecks(database, companyId, endsOn, rows, funds, [])),
    closedAt: period?.closedAt ?? null,
    closedBy: period?.closedBy ?? null,
    rows,
    funds,
    unworkable: [],
    ...totals.view(accounts),
    draftCount: 0,
    reversalCount: reversals ?? 0,
    payments: null,
    unrecorded: [],
    attention: [],
    missingAccounts: [],
    untied: [],
  };
}

/** What the month makes of everything owed and of all funds, by whom it is. */
function madeBy(
  work: MonthWork['work'],
  funds: MonthWork['funds'],
): { instrumentId: string; inPeriod: readonly Entry[]; opening: Entry | undefined }[] {
  return [
    ...work.map(({ row, inPeriod, opening }) => ({ instrumentId: row.id, inPeriod, opening })),
    ...funds.map(({ fund, inPeriod, opening }) => ({ instrumentId: fund.id, inPeriod, opening })),
  ];
}

/** The checks, and what interest payable comes to. */
function checked(checks: CloseCheck[]): Pick<CloseView, 'checks' | 'interestPayable'> {
  const payable = checks.find(({ of }) => of === 'interest-payable');
  return { interestPayable: payable?.journal ?? 0, checks };
}

/** What is posted in a period already, by kind and account. */
async function postedTotals(database: Knex, companyId: number, endsOn: string): Promise<Totals> {
  const totals = new Totals();
  const sums = await entryLines(database, companyId)
    .where({ period_end: endsOn })
    .groupBy('kind', 'role', 'account_code')
    .select<{ kind: EntryKind; role: AccountRole; code: string; debit: string; credit: string }[]>(
      'kind',
      'role',
      'account_code as code',
      database.raw('sum(debit::numeric) as debit'),
      database.raw('sum(credit::numeric) as credit'),
    );
  for (const { kind, role, code, debit, credit } of sums) {
    totals.add(kind, role, code, Number(debit), Number(credit));
  }
  const counts = await database('entry')
    .where({ company_id: companyId, period_end: endsOn })
    .groupBy('kind')
    .select<{ kind: EntryKind; many: number }[]>('kind', database.raw('count(*) as many'));
  for (const { kind, many } of counts) totals.count(kind, many);
  return totals;
}

interface Sum {
  readonly role: AccountRole;
  readonly code: string | undefined;
  readonly debit: number;
  readonly credit: number;
}

/** Adds up lines by kind of entry and account. Sums of amounts stay exact below 2^53. */
class Totals {
  private readonly lines = new Map<EntryKind, Map<string, Sum>>();
  private readonly counts = new Map<EntryKind, number>();

  count(kind: EntryKind, many: number): void {
    this.counts.set(kind, (this.counts.get(kind) ?? 0) + many);
  }

  add(kind: EntryKind, role: AccountRole, code: string | undefined, debit: number, credit: number): void {
    const ofKind = this.lines.get(kind) ?? new Map<string, Sum>();
    this.lines.set(kind, ofKind);
    const key = `${role} ${code ?? ''}`;
    const sum = ofKind.get(key) ?? { role, code, debit: 0, credit: 0 };
    ofKind.set(key, { ...sum, debit: sum.debit + debit, credit: sum.credit + credit });
  }

  /** Sums in the order in which entries are posted, debits before credits, by account code. */
  view(accounts: Accounts): Pick<CloseView, 'sums' | 'entryCount' | 'debits' | 'credits'> {
    const sums = entryKinds.flatMap((kind): EntrySum[] => {
      const ofKind = this.lines.get(kind);
      if (!ofKind) return [];
      const lines = [...ofKind.values()].flatMap(({ role, code, debit, credit }): EntryLineView[] => [
        ...(debit > 0 ? [lineView(accounts, code, { role, debit, credit: 0 })] : []),
        ...(credit > 0 ? [lineView(accounts, code, { role, debit: 0, credit })] : []),
      ]);
      lines.sort((a, b) => Number(a.credit > 0) - Number(b.credit > 0) || a.code.localeCompare(b.code));
      return [{ kind, count: this.counts.get(kind) ?? 0, lines }];
    });
    const all = sums.flatMap((sum) => sum.lines);
    return {
      sums,
      entryCount: [...this.counts.values()].reduce((total, many) => total + many, 0),
      debits: all.reduce((total, line) => total + line.debit, 0),
      credits: all.reduce((total, line) => total + line.credit, 0),
    };
  }
}

import type { Knex } from 'knex';
import { entryKinds, type AccountRole, type EntryKind } from '@coffer/core';
import type { CloseCheck, CloseView, EntryLineView, EntrySum } from '@coffer/contract';
import { accountsOf, periodsOf, type Accounts } from '../company/company-store.ts';
import { reportedFunds } from '../funds/reported-funds.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
import { entryLines } from '../journal/entry-lines.ts';
import { lineView } from '../journal/entry-view.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { closeChecks } from './close-checks.ts';
import { monthWork } from './month-work.ts';
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
  const drafts = [...work, ...funds].flatMap((done) => done.inPeriod);
  for (const entry of drafts) {
    for (const line of entry.lines) totals.add(entry.kind, line.account, line.debit, line.credit);
    totals.count(entry.kind, 1);
  }
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
  };
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
    .groupBy('kind', 'role')
    .select<{ kind: EntryKind; role: AccountRole; debit: string; credit: string }[]>(
      'kind',
      'role',
      database.raw('sum(debit::numeric) as debit'),
      database.raw('sum(credit::numeric) as credit'),
    );
  for (const { kind, role, debit, credit } of sums) totals.add(kind, role, Number(debit), Number(credit));
  const counts = await database('entry')
    .where({ company_id: companyId, period_end: endsOn })
    .groupBy('kind')
    .select<{ kind: EntryKind; many: number }[]>('kind', database.raw('count(*) as many'));
  for (const { kind, many } of counts) totals.count(kind, many);
  return totals;
}

/** Adds up lines by kind of entry and account. Sums of amounts stay exact below 2^53. */
class Totals {
  private readonly lines = new Map<EntryKind, Map<AccountRole, { debit: number; credit: number }>>();
  private readonly counts = new Map<EntryKind, number>();

  count(kind: EntryKind, many: number): void {
    this.counts.set(kind, (this.counts.get(kind) ?? 0) + many);
  }

  add(kind: EntryKind, role: AccountRole, debit: number, credit: number): void {
    const ofKind = this.lines.get(kind) ?? new Map<AccountRole, { debit: number; credit: number }>();
    this.lines.set(kind, ofKind);
    const sum = ofKind.get(role) ?? { debit: 0, credit: 0 };
    ofKind.set(role, { debit: sum.debit + debit, credit: sum.credit + credit });
  }

  /** Sums in the order in which entries are posted, debits before credits, by account code. */
  view(accounts: Accounts): Pick<CloseView, 'sums' | 'entryCount' | 'debits' | 'credits'> {
    const sums = entryKinds.flatMap((kind): EntrySum[] => {
      const ofKind = this.lines.get(kind);
      if (!ofKind) return [];
      const lines = [...ofKind].flatMap(([role, { debit, credit }]): EntryLineView[] => [
        ...(debit > 0 ? [lineView(accounts, role, debit, 0)] : []),
        ...(credit > 0 ? [lineView(accounts, role, 0, credit)] : []),
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

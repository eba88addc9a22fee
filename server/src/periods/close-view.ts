import type { Knex } from 'knex';
import { entryKinds, type AccountRole, type Balances, type EntryKind } from '@coffer/core';
import type {
  CloseCheck,
  CloseView,
  EntryLineView,
  EntrySum,
  LeftOutAccrual,
  MonthReview,
  NotBookedFigures,
  ToldAtClose,
} from '@coffer/contract';
import { accountsOf, type Accounts } from '../accounts/accounts.ts';
import { broughtByInstrument, broughtIn } from '../accounts/brought-in.ts';
import { companyOf } from '../company/company-store.ts';
import { periodsOf } from '../company/company-view.ts';
import type { PeriodRow } from '../database/tables.ts';
import { reportedFunds } from '../funds/reported-funds.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
import { entryLines } from '../journal/entry-lines.ts';
import { lineView } from '../journal/entry-view.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { closeChecks } from './close-checks.ts';
import { changedParts } from './close-digest.ts';
import { figuresNotBooked, notBookedAltogether, type NotBooked } from './left-out.ts';
import { keptLeftOut, materialityOf } from './left-out-store.ts';
import { monthMade, type MonthMade } from './month-made.ts';
import { closedDigest, commentsOn, handedOver, stepsOf } from './month-steps.ts';
import { periodEnding } from './period-store.ts';
import { approversOf, asksForTwo } from './second-person.ts';
import { toldBy } from './told-at-close.ts';
import { unansweredOn } from './unanswered.ts';

/** What closing a month makes, for who asks: worked out while it is not closed, as it was kept once it is. */
export async function closeView(
  database: Knex,
  figures: FigureThreads,
  asking: Maker,
  endsOn: string,
): Promise<CloseView> {
  const { companyId } = asking;
  const period = await periodEnding(database, companyId, endsOn);
  if (period.state === 'closed') return closedView(database, companyId, period);
  return unclosedView(database, asking, await monthMade(database, figures, companyId, period, false));
}

/** What closing a month makes that was worked out, for who asks. */
export async function unclosedView(database: Knex, asking: Maker, month: MonthMade): Promise<CloseView> {
  return { ...(await openView(database, month)), review: await reviewOf(database, asking, month) };
}

async function openView(database: Knex, month: MonthMade): Promise<Omit<CloseView, 'review'>> {
  const { period, work, funds, unworkable, accounts, made } = month;
  const totals = await postedTotals(database, period.company_id, period.ends_on);
  const drafts = made.flatMap(({ inPeriod }) => inPeriod);
  for (const { id, inPeriod } of made) {
    for (const { kind, lines } of inPeriod) {
      for (const { account: role, code, debit, credit } of lines) {
        totals.add(kind, role, code ?? accounts.of(id, role)?.code, debit, credit);
      }
      totals.count(kind, 1);
    }
  }
  return {
    endsOn: period.ends_on,
    state: period.state,
    accruals: period.accruals,
    ...checked(month.checks),
    closedAt: null,
    closedBy: null,
    closedAs: null,
    digest: month.digest,
    rows: work.map(({ row }) => row),
    funds: funds.map(({ fund }) => fund),
    unworkable: [...unworkable],
    ...totals.view(accounts),
    draftCount: drafts.length,
    draftDebits: drafts.reduce((sum, { lines }) => lines.reduce((total, { debit }) => total + debit, sum), 0),
    reversalCount: made.filter(({ opening }) => opening).length,
    payments: {
      due: work.reduce((sum, { payments }) => sum + payments.due, 0),
      recorded: work.reduce((sum, { payments }) => sum + payments.recorded, 0),
    },
    unrecorded: work.flatMap(({ unrecorded }) => unrecorded),
    attention: work.flatMap(({ attention }) => attention),
    leftOut: largestFirst([
      ...work.map(({ row, leftOut }) => ({ id: row.id, name: row.name, amount: leftOut?.amount ?? 0 })),
      ...funds.map(({ fund, leftOut }) => ({ id: fund.id, name: fund.name, amount: leftOut?.amount ?? 0 })),
    ]),
    notBooked: listedNotBooked(month.notBooked),
    materiality: month.materiality,
    missingAccounts: [...month.missing],
    brought: month.brought.filter(({ ledger }) => ledger !== null),
  };
}

/** What a closed month kept. */
export async function closedView(
  database: Knex,
  companyId: number,
  { ends_on: endsOn, accruals, reversals }: PeriodRow,
): Promise<CloseView> {
  const period = (await periodsOf(database, companyId)).find((candidate) => candidate.endsOn === endsOn);
  const rows = (await reportedPositions(database, companyId, endsOn)).map(({ row }) => row);
  const funds = (await reportedFunds(database, companyId, endsOn)).map(({ fund }) => fund);
  const totals = await postedTotals(database, companyId, endsOn);
  const notBooked = await keptLeftOut(database, companyId, endsOn);
  const together = notBookedAltogether([...notBooked.values()]);
  const accounts = await accountsOf(database, companyId);
  const { booksFrom } = await companyOf(database, companyId);
  const brought = await broughtByInstrument(database, companyId, booksFrom, accounts, [], endsOn);
  return {
    endsOn,
    state: 'closed',
    accruals,
    ...checked(await closeChecks(database, companyId, endsOn, rows, funds, [], together)),
    closedAt: period?.closedAt ?? null,
    closedBy: period?.closedBy ?? null,
    closedAs: period?.closedAs ?? null,
    digest: (await closedDigest(database, companyId, endsOn)) ?? null,
    review: await closedReview(database, companyId, endsOn),
    rows,
    funds,
    unworkable: [],
    ...totals.view(accounts),
    draftCount: 0,
    draftDebits: 0,
    reversalCount: reversals ?? 0,
    ...paymentsTold(await toldBy(database, companyId, endsOn)),
    leftOut: largestFirst(
      [...rows, ...funds].map(({ id, name }) => ({ id, name, amount: amountOf(notBooked.get(id)?.leftOut) })),
    ),
    notBooked: listedNotBooked([...notBooked]),
    materiality: await materialityOf(database, companyId, endsOn),
    missingAccounts: [],
    brought: (await broughtIn(database, companyId, brought)).filter(({ ledger }) => ledger !== null),
  };
}

/** What a closed month was approved with: payments that were not recorded, rates that were not fixed. */
function paymentsTold(
  told: ReadonlyMap<string, ToldAtClose> | undefined,
): Pick<CloseView, 'payments' | 'unrecorded' | 'attention'> {
  if (!told) return { payments: null, unrecorded: [], attention: [] };
  const all = [...told].map(([instrumentId, one]) => ({ instrumentId, ...one }));
  const counted = (of: 'due' | 'recorded'): number =>
    all.reduce((sum, { payments }) => sum + payments[of], 0);
  return {
    payments: { due: counted('due'), recorded: counted('recorded') },
    unrecorded: all
      .flatMap(({ instrumentId, name, unrecorded }) =>
        unrecorded.map((one) => ({ instrumentId, name, ...one })),
      )
      .sort((one, other) => one.due.localeCompare(other.due) || one.name.localeCompare(other.name)),
    attention: all.flatMap(({ instrumentId, name, fixingMissing: on }) =>
      on === undefined ? [] : [{ instrumentId, name, kind: 'fixing-due' as const, on }],
    ),
  };
}

function listedNotBooked(all: readonly (readonly [id: string, of: NotBooked])[]): NotBookedFigures[] {
  return all
    .map(([id, of]) => ({ id, ...figuresNotBooked(of) }))
    .filter(({ id: _, ...of }) => Object.values(of).some((amount) => amount !== 0));
}

/** What an accrual comes to on each side; minor units. */
function amountOf(lines: Balances = new Map()): number {
  return [...lines.values()].reduce((sum, amount) => sum + Math.max(0, amount), 0);
}

function largestFirst(accruals: readonly LeftOutAccrual[]): LeftOutAccrual[] {
  return accruals
    .filter(({ amount }) => amount > 0)
    .sort((one, other) => other.amount - one.amount || one.name.localeCompare(other.name));
}

/** The second pair of eyes on a month that is not closed. */
async function reviewOf(database: Knex, asking: Maker, month: MonthMade): Promise<MonthReview> {
  const { companyId } = asking;
  const endsOn = month.period.ends_on;
  const approvers = await approversOf(database, companyId, endsOn);
  const handed =
    month.period.state === 'prepared' ? await handedOver(database, companyId, endsOn) : undefined;
  return {
    ...(await closedReview(database, companyId, endsOn)),
    changed: handed ? changedParts(handed.parts, month.parts) : [],
    approvers: [...approvers.names],
    barred: approvers.why(asking) ?? null,
    named:
      approvers.why(asking) === undefined
        ? [...approvers.named(asking), ...(await unansweredOn(database, companyId, endsOn))]
        : [],
  };
}

/** What was done and said about a month. */
async function closedReview(database: Knex, companyId: number, endsOn: string): Promise<MonthReview> {
  return {
    twoPeople: await asksForTwo(database, companyId),
    steps: await stepsOf(database, companyId, endsOn),
    comments: await commentsOn(database, companyId, endsOn),
    changed: [],
    approvers: [],
    barred: null,
    named: [],
  };
}

/** The checks, and what interest payable comes to. */
function checked(checks: readonly CloseCheck[]): Pick<CloseView, 'checks' | 'interestPayable'> {
  const payable = checks.find(({ of }) => of === 'interest-payable');
  return { interestPayable: payable?.journal ?? 0, checks: [...checks] };
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

import {
  type CalendarDay,
  formatAmount,
  formatDay,
  fundAndDebt,
  type FundNotice,
  type FundPosition,
  type FundSchedule,
  fundTotal,
  type MinorUnits,
  netDebt,
  type Schedule,
} from '@coffer/core';
import * as v from 'valibot';
import { proofsJson } from '../../document/proofs-json.ts';
import {
  publishedAmount,
  publishedCount,
  publishedDay,
  publishedDecimal,
} from '../../document/published-scalars.ts';
import {
  amountsOf,
  publishedNotice,
  publishedProofs,
  publishedRange,
} from '../../document/published-schedule.ts';
import { publishedRow, rowSchema } from '../../document/schedule-column.ts';
import { fundScheduleColumns } from './fund-schedule-columns.ts';
import { inRange, type RowRange } from '../../document/row-range.ts';

/** What a fund's notice says, in a sentence. */
export function fundNoticeText({ terms }: FundSchedule, notice: FundNotice): string {
  const on = formatDay(notice.on);
  switch (notice.kind) {
    case 'short':
      return `The fund falls ${formatAmount(notice.amount, terms.digits)} short of its goal with the last deposit, ${on}.`;
    case 'reached-early':
      return `The goal is reached on ${on}; ${notice.deposits} of the deposits are not needed.`;
    case 'passed-by-interest':
      return `The interest of ${on} alone carries the fund ${formatAmount(notice.amount, terms.digits)} past its goal.`;
  }
}

const ofDebt = [
  'debtInterest',
  'earned',
  'netInterest',
  'paidOnDebt',
  'deposits',
  'released',
  'outlay',
] as const;

/** The published form of a fund's schedule. */
export const fundScheduleSchema = v.strictObject({
  kind: v.literal('fund'),
  goal: v.exactOptional(publishedAmount),
  /** The instrument that it repays. */
  for: v.exactOptional(v.string()),
  regularDeposit: v.nullable(publishedAmount),
  depositCount: publishedCount,
  finalDeposit: publishedAmount,
  /** The day that the fund holds its goal. */
  reached: v.nullable(publishedDay),
  /** What was left open in the terms, worked out. */
  solved: v.strictObject({
    deposit: v.exactOptional(publishedDecimal),
    count: v.exactOptional(publishedCount),
    goal: v.exactOptional(publishedDecimal),
  }),
  rows: v.array(rowSchema(fundScheduleColumns)),
  range: v.exactOptional(
    v.strictObject({ ...publishedRange, ...amountsOf(['interest', 'deposit', 'closing']) }),
  ),
  totals: v.strictObject(amountsOf(['interest', 'deposit'])),
  /** What the debt and the fund that repays it come to. */
  together: v.exactOptional(
    v.strictObject({ ...amountsOf(ofDebt), debtEnds: publishedDay, fundEnds: publishedDay }),
  ),
  notices: v.exactOptional(v.array(v.strictObject(publishedNotice))),
  proofs: publishedProofs,
});

/** A fund's schedule in its published form. */
export type FundScheduleJson = v.InferOutput<typeof fundScheduleSchema>;

/** The published form of a fund's position, with the debt it repays where that is known. */
export const fundPositionSchema = v.strictObject({
  on: publishedDay,
  ...amountsOf(['balance', 'accruedInterest', 'deposited', 'earned', 'toGoal']),
  owed: v.exactOptional(publishedAmount),
  netDebt: v.exactOptional(publishedAmount),
  next: v.nullable(v.strictObject({ due: publishedDay, deposit: publishedAmount })),
});

/** A fund's position in its published form. */
export type FundPositionJson = v.InferOutput<typeof fundPositionSchema>;

/**
 * A fund's schedule in the published form: amounts as strings with the currency's decimals. With the debt it repays
 * each row also tells what is owed and the net debt, and `together` what both come to.
 */
export function fundScheduleJson(
  schedule: FundSchedule,
  range?: RowRange,
  debt?: Schedule,
): FundScheduleJson {
  const { terms, rows, deposit, reached, solved, notices } = schedule;
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const chosen = inRange([...rows], range);
  const sums = { terms, rows: chosen };
  const last = chosen.at(-1);
  return {
    kind: 'fund',
    ...(terms.goal !== undefined && { goal: money(terms.goal) }),
    ...(terms.repays !== undefined && { for: terms.repays }),
    regularDeposit: deposit === null ? null : money(deposit),
    depositCount: rows.length,
    finalDeposit: money(rows.at(-1)?.deposit ?? 0),
    reached: reached === undefined ? null : formatDay(reached),
    solved: solved ? { [solved.unknown]: solved.unknown === 'count' ? rows.length : solved.value } : {},
    rows: chosen.map((row) => publishedRow(fundScheduleColumns, row, { schedule, debt }, terms.digits)),
    ...(range && {
      range: {
        from: range.from,
        to: range.to,
        interest: money(fundTotal(sums, 'interest')),
        deposit: money(fundTotal(sums, 'deposit')),
        closing: money(last?.closing ?? 0),
      },
    }),
    totals: {
      interest: money(fundTotal(schedule, 'interest')),
      deposit: money(fundTotal(schedule, 'deposit')),
    },
    ...(debt && { together: togetherJson(schedule, debt, money) }),
    ...(notices.length > 0 && {
      notices: notices.map((notice) => ({
        on: formatDay(notice.on),
        kind: notice.kind,
        message: fundNoticeText(schedule, notice),
      })),
    }),
    proofs: proofsJson(schedule),
  };
}

/** A fund's position in the published form, with the debt it repays where that is known. */
export function fundPositionJson(
  schedule: FundSchedule,
  at: FundPosition,
  debt?: Schedule,
): FundPositionJson {
  const money = (minor: MinorUnits): string => formatAmount(minor, schedule.terms.digits);
  return {
    on: formatDay(at.on),
    balance: money(at.balance),
    accruedInterest: money(at.accruedInterest),
    deposited: money(at.deposited),
    earned: money(at.earned),
    toGoal: money(at.toGoal),
    ...(debt && againstDebt(schedule, debt, at.on, money)),
    next: at.next && { due: formatDay(at.next.due), deposit: money(at.next.deposit) },
  };
}

type Money = (minor: MinorUnits) => string;

function againstDebt(
  schedule: FundSchedule,
  debt: Schedule,
  on: CalendarDay,
  money: Money,
): { owed: string; netDebt: string } {
  const { owed, net } = netDebt(schedule, debt, on);
  return { owed: money(owed), netDebt: money(net) };
}

function togetherJson(
  schedule: FundSchedule,
  debt: Schedule,
  money: Money,
): NonNullable<FundScheduleJson['together']> {
  const sums = fundAndDebt(schedule, debt);
  return {
    debtInterest: money(sums.debtInterest),
    earned: money(sums.earned),
    netInterest: money(sums.netInterest),
    paidOnDebt: money(sums.paidOnDebt),
    deposits: money(sums.deposits),
    released: money(sums.released),
    outlay: money(sums.outlay),
    debtEnds: formatDay(sums.debtEnds),
    fundEnds: formatDay(sums.fundEnds),
  };
}

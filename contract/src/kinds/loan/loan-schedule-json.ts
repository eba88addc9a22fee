import {
  type AmountColumn,
  formatAmount,
  formatDay,
  formatPercent,
  loanRow,
  type LoanRow,
  type LoanSchedule,
  minorOf,
  type MinorUnits,
  PeriodGrowths,
  totalDrawn,
  financeCost,
  totalOf,
  unroundedPayment,
} from '@coffer/core';
import * as v from 'valibot';
import {
  publishedAmount,
  publishedCount,
  publishedDay,
  publishedDecimal,
  publishedPercent,
  publishedResidual,
} from '../../document/published-scalars.ts';
import {
  amountsOf,
  publishedNotice,
  publishedProofs,
  publishedRange,
} from '../../document/published-schedule.ts';
import { publishedRow, rowSchema } from '../../document/schedule-column.ts';
import { loanColumnsOf, loanScheduleColumns } from './loan-schedule-columns.ts';
import { noticeText } from './notice-text.ts';
import { proofsJson } from '../../document/proofs-json.ts';
import { inRange, type RowRange } from '../../document/row-range.ts';

const totalled = ['payment', 'interest', 'principal', 'extra'] as const;
const amount = publishedAmount;

/** The published form of the schedule of a loan or a line. */
export const loanScheduleSchema = v.strictObject({
  kind: v.picklist(['loan', 'credit-line']),
  regularPayment: v.nullable(amount),
  paymentCount: publishedCount,
  finalPayment: amount,
  /** The day it is repaid. */
  clears: v.nullable(publishedDay),
  /** What was left open in the terms, worked out. */
  solved: v.strictObject({
    amount: v.exactOptional(publishedDecimal),
    annual: v.exactOptional(publishedPercent),
    residual: v.exactOptional(publishedResidual),
    count: v.exactOptional(publishedCount),
    payment: v.exactOptional(publishedDecimal),
  }),
  /** Left after the last payment. */
  left: v.exactOptional(amount),
  /** Each rate that held, where there was more than one. */
  rates: v.exactOptional(
    v.array(v.strictObject({ from: publishedDay, annual: publishedPercent, because: v.string() })),
  ),
  rows: v.array(rowSchema(loanScheduleColumns)),
  range: v.exactOptional(v.strictObject({ ...publishedRange, ...amountsOf([...totalled, 'closing']) })),
  totals: v.strictObject({
    ...amountsOf(totalled),
    drawn: v.exactOptional(amount),
    addedInterest: v.exactOptional(amount),
    fee: v.exactOptional(amount),
  }),
  purchase: v.exactOptional(v.strictObject(amountsOf(['price', 'downPayment', 'financeCost']))),
  settlement: v.exactOptional(v.strictObject({ on: publishedDay, ...amountsOf(['owed', 'paid']) })),
  notices: v.exactOptional(
    v.array(v.strictObject({ ...publishedNotice, ...amountsOf(['stated', 'applied']) })),
  ),
  proofs: publishedProofs,
});

/** A loan's or a line's schedule in its published form. */
export type LoanScheduleJson = v.InferOutput<typeof loanScheduleSchema>;

/** A loan's schedule in the published form: amounts as strings with the currency's decimals. */
export function loanScheduleJson(schedule: LoanSchedule, range?: RowRange): LoanScheduleJson {
  const { terms, length, notices, settlement } = schedule;
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const rows = Array.from({ length }, (_, index) => loanRow(schedule, index));
  const numbered = rows.filter((row) => row.n !== null);
  const last = rows.filter((row) => row.n !== null || row.kind === 'settlement').at(-1);
  const end = rows.at(-1);
  const chosen = inRange(rows, range);
  const of = loanColumnsOf(schedule);
  const purchase = financeCost(schedule);
  return {
    kind: schedule.kind,
    regularPayment: regularPayment(schedule, money),
    paymentCount: numbered.length,
    finalPayment: money(last?.payment ?? 0),
    clears: end && end.closing + end.unpaid === 0 ? formatDay(end.date) : null,
    solved: solved(schedule, numbered),
    ...(end && end.closing > 0 && { left: money(end.closing) }),
    ...(schedule.rates.length > 1 && {
      rates: schedule.rates.map(({ from, annualRate, because }) => ({
        from: formatDay(from),
        annual: formatPercent(annualRate),
        because,
      })),
    }),
    rows: chosen.map((row) => publishedRow(loanScheduleColumns, row, of, terms.digits)),
    ...(range && { range: { from: range.from, to: range.to, ...rangeSums(schedule, chosen, money) } }),
    totals: totals(schedule, money),
    ...(purchase && {
      purchase: {
        price: money(purchase.price),
        downPayment: money(purchase.downPayment),
        financeCost: money(purchase.cost),
      },
    }),
    ...(settlement && {
      settlement: {
        on: formatDay(settlement.on),
        owed: money(settlement.owed),
        paid: money(settlement.paid),
      },
    }),
    ...(notices.length > 0 && {
      notices: notices.map((notice) => ({
        on: formatDay(notice.on),
        kind: notice.kind,
        stated: money(notice.stated),
        applied: money(notice.applied),
        message: noticeText(schedule, notice),
      })),
    }),
    proofs: proofsJson(schedule),
  };
}

type Money = (minor: MinorUnits) => string;

function regularPayment({ settings, terms }: LoanSchedule, money: Money): string | null {
  const regular = settings.find(({ kind, amount }) => (kind === 'level' || kind === 'agreed') && amount > 0n);
  return regular ? money(minorOf(terms, regular.amount)) : null;
}

function solved(schedule: LoanSchedule, numbered: readonly LoanRow[]): LoanScheduleJson['solved'] {
  const { terms, rates, stretches, settings } = schedule;
  if (terms.solved?.unknown === 'amount') return { amount: terms.solved.value };
  if (terms.solved?.unknown === 'annual') {
    const { value, residual } = terms.solved;
    return { annual: value, ...(residual !== undefined && { residual }) };
  }
  if (terms.solved?.unknown === 'count') {
    const before = stretches.slice(0, -1).reduce((sum, { count }) => sum + count, 0);
    return { count: numbered.length - before };
  }
  // One payment for several stretches is solved before; any other level payment, from the balance as it begins.
  if (terms.solved?.phases) return { payment: terms.solved.value };
  const level = settings.find(({ kind }) => kind === 'level');
  if (!level) return {};
  return { payment: unroundedPayment(terms, new PeriodGrowths(terms, rates), stretches, level) };
}

type Sums = Record<(typeof totalled)[number], string>;

function sums(schedule: LoanSchedule, money: Money, from?: number, end?: number): Sums {
  const of = (column: AmountColumn): string => money(totalOf(schedule, column, from, end));
  return {
    payment: of('payment'),
    interest: of('interest'),
    principal: of('principal'),
    extra: of('extra'),
  };
}

function rangeSums(
  schedule: LoanSchedule,
  rows: readonly LoanRow[],
  money: Money,
): Sums & { readonly closing: string } {
  const [first, last] = [rows[0]?.index ?? 0, (rows.at(-1)?.index ?? -1) + 1];
  return { ...sums(schedule, money, first, last), closing: money(rows.at(-1)?.closing ?? 0) };
}

function totals(schedule: LoanSchedule, money: Money): LoanScheduleJson['totals'] {
  const drawn = totalDrawn(schedule);
  const added = totalOf(schedule, 'added') - drawn;
  return {
    ...sums(schedule, money),
    ...(drawn > 0 && { drawn: money(drawn) }),
    ...(added > 0 && { addedInterest: money(added) }),
    ...(schedule.terms.creditLine && { fee: money(totalOf(schedule, 'fee')) }),
  };
}

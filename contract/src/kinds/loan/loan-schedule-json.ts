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
  totalOf,
  unroundedPayment,
} from '@coffer/core';
import type { PublishedSchedule } from '../../document/published-schedule.ts';
import { publishedRow } from '../../document/schedule-column.ts';
import { loanScheduleColumns } from './loan-schedule-columns.ts';
import { noticeText } from './notice-text.ts';
import { proofsJson } from '../../document/proofs-json.ts';
import { inRange, type RowRange } from '../../document/row-range.ts';

const totalled = ['payment', 'interest', 'principal', 'extra'] as const;

/** A loan's or a line's schedule in its published form. */
export interface LoanScheduleJson extends PublishedSchedule {
  readonly regularPayment: string | null;
  readonly paymentCount: number;
  readonly finalPayment: string;
  /** The day it is repaid. */
  readonly clears: string | null;
  /** Left after the last payment. */
  readonly left?: string;
  readonly rates?: readonly { readonly from: string; readonly annual: string; readonly because: string }[];
  readonly purchase?: {
    readonly price: string;
    readonly downPayment: string;
    readonly financeCost: string;
  };
  readonly settlement?: { readonly on: string; readonly owed: string; readonly paid: string };
}

/** A loan's schedule in the published form: amounts as strings with the currency's decimals. */
export function loanScheduleJson(schedule: LoanSchedule, range?: RowRange): LoanScheduleJson {
  const { terms, length, notices, settlement } = schedule;
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const rows = Array.from({ length }, (_, index) => loanRow(schedule, index));
  const numbered = rows.filter((row) => row.n !== null);
  const last = rows.filter((row) => row.n !== null || row.kind === 'settlement').at(-1);
  const end = rows.at(-1);
  const chosen = inRange(rows, range);
  const columns = loanScheduleColumns(schedule);
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
    rows: chosen.map((row) => publishedRow(columns, row)),
    ...(range && { range: { from: range.from, to: range.to, ...rangeSums(schedule, chosen, money) } }),
    totals: totals(schedule, money),
    ...(terms.purchase && {
      purchase: {
        price: money(terms.purchase.price),
        downPayment: money(terms.purchase.downPayment),
        financeCost: money(totalOf(schedule, 'interest')),
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

function solved(
  schedule: LoanSchedule,
  numbered: readonly LoanRow[],
): NonNullable<PublishedSchedule['solved']> {
  const { terms, rates, stretches, settings } = schedule;
  if (terms.solved?.unknown === 'amount') return { amount: terms.solved.value };
  if (terms.solved?.unknown === 'annual') {
    return { annual: terms.solved.value, residual: terms.solved.residual };
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

function rangeSums(schedule: LoanSchedule, rows: readonly LoanRow[], money: Money): Record<string, string> {
  const [first, last] = [rows[0]?.index ?? 0, (rows.at(-1)?.index ?? -1) + 1];
  return {
    ...Object.fromEntries(totalled.map((column) => [column, money(totalOf(schedule, column, first, last))])),
    closing: money(rows.at(-1)?.closing ?? 0),
  };
}

function totals(schedule: LoanSchedule, money: Money): Record<string, string> {
  const total = (column: AmountColumn): string => money(totalOf(schedule, column));
  const drawn = totalDrawn(schedule);
  const added = totalOf(schedule, 'added') - drawn;
  return {
    ...Object.fromEntries(totalled.map((column) => [column, total(column)])),
    ...(drawn > 0 && { drawn: money(drawn) }),
    ...(added > 0 && { addedInterest: money(added) }),
    ...(schedule.terms.creditLine && { fee: total('fee') }),
  };
}

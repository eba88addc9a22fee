import {
  formatAmount,
  formatDay,
  type BondSchedule,
  type Entry,
  type Position,
  type Schedule,
} from '@coffer/core';
import { proofsJson } from './proofs-json.ts';
import { loanScheduleJson } from './loan-schedule-json.ts';
import { inRange, type RowRange } from './row-range.ts';

/** A schedule in the published form: amounts as strings with the currency's decimals. */
export function scheduleJson(schedule: Schedule, range?: RowRange): Record<string, unknown> {
  return schedule.kind === 'loan' ? loanScheduleJson(schedule, range) : bondJson(schedule, range);
}

function bondJson(schedule: BondSchedule, range?: RowRange): Record<string, unknown> {
  const { terms } = schedule;
  const money = (minor: number): string => formatAmount(minor, terms.digits);
  const chosen = inRange([...schedule.rows], range);
  const sum = (rows: readonly (typeof chosen)[number][], of: 'coupon' | 'expense' | 'amortization'): string =>
    money(rows.reduce((total, row) => total + row[of], 0));
  return {
    kind: 'bond',
    proceeds: money(schedule.proceeds),
    price: schedule.price.times(100).toSignificantDigits(30).toFixed(),
    effectiveRate: `${schedule.effectiveRate.times(100).toSignificantDigits(30).toFixed()}%`,
    residual: schedule.residual.toExponential(3),
    rows: chosen.map((row) => ({
      n: row.n,
      due: formatDay(row.due),
      opening: money(row.opening),
      coupon: money(row.coupon),
      expense: money(row.expense),
      amortization: money(row.amortization),
      unamortized: money(row.unamortized),
      closing: money(row.closing),
    })),
    ...(range && {
      range: {
        from: range.from,
        to: range.to,
        coupon: sum(chosen, 'coupon'),
        expense: sum(chosen, 'expense'),
        amortization: sum(chosen, 'amortization'),
        closing: money(chosen.at(-1)?.closing ?? 0),
      },
    }),
    totals: {
      coupon: sum(schedule.rows, 'coupon'),
      expense: sum(schedule.rows, 'expense'),
      amortization: sum(schedule.rows, 'amortization'),
    },
    proofs: proofsJson(schedule),
  };
}

/** A position in the published form. */
export function positionJson(at: Position, digits: number): Record<string, unknown> {
  const money = (minor: number): string => formatAmount(minor, digits);
  return {
    on: formatDay(at.on),
    outstanding: money(at.outstanding),
    accruedInterest: money(at.accruedInterest),
    unpaidInterest: money(at.unpaidInterest),
    unamortizedDiscount: money(at.unamortizedDiscount),
    unamortizedPremium: money(at.unamortizedPremium),
    unamortizedIssueCosts: money(at.unamortizedIssueCosts),
    carrying: money(at.carrying),
    current: money(at.current),
    nonCurrent: money(at.nonCurrent),
    next: at.next && { due: formatDay(at.next.due), payment: money(at.next.payment) },
  };
}

/** Entries in the published form. */
export function entriesJson(found: readonly Entry[], digits: number): object[] {
  return found.map((entry) => ({
    date: formatDay(entry.date),
    memo: entry.memo,
    lines: entry.lines.map((line) => ({
      account: line.account,
      debit: formatAmount(line.debit, digits),
      credit: formatAmount(line.credit, digits),
    })),
  }));
}

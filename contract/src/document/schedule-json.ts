import {
  formatAmount,
  formatDay,
  loanRow,
  proofsOf,
  solvedPayment,
  sumColumn,
  type BondSchedule,
  type Entry,
  type LoanSchedule,
  type Position,
  type Schedule,
} from '@coffer/core';

/** Rows from one payment number to another, both included. */
export interface RowRange {
  readonly from: number;
  readonly to: number;
}

/** A schedule in the published form: amounts as strings with the currency's decimals. */
export function scheduleJson(schedule: Schedule, range?: RowRange): Record<string, unknown> {
  return schedule.kind === 'loan' ? loanJson(schedule, range) : bondJson(schedule, range);
}

function proofsJson(schedule: Schedule): object[] {
  return proofsOf(schedule).map(({ name, holds, difference }) => ({
    name,
    holds,
    difference: formatAmount(difference, schedule.terms.digits),
  }));
}

function loanJson(schedule: LoanSchedule, range?: RowRange): Record<string, unknown> {
  const { terms, length } = schedule;
  const money = (minor: number): string => formatAmount(minor, terms.digits);
  const rows = Array.from({ length }, (_, index) => loanRow(schedule, index));
  const numbered = rows.filter((row) => row.n !== null);
  const last = numbered.at(-1);
  const levelAt = terms.phases.findIndex((phase) => phase.type === 'level' && phase.payment === undefined);
  const levelSolved = levelAt >= 0 && schedule.phasePayments[levelAt] !== undefined;
  const chosen = inRange(rows, range);
  const sum = (of: 'payment' | 'interest' | 'principal' | 'extra'): number =>
    chosen.reduce((total, row) => total + row[of], 0);
  const total = (of: 'payment' | 'interest' | 'principal' | 'extra'): string =>
    money(sumColumn(schedule[of], length));
  const regular = schedule.phasePayments.find((payment) => payment > 0);
  return {
    kind: 'loan',
    regularPayment: regular === undefined ? null : money(regular),
    paymentCount: numbered.length,
    finalPayment: money(last?.payment ?? 0),
    clears: last && last.closing === 0 ? formatDay(rows.at(-1)?.date ?? last.date) : null,
    solved: levelSolved ? { payment: solvedPayment(schedule, levelAt).text } : {},
    rows: chosen.map((row) => ({
      n: row.n,
      due: formatDay(row.n === null ? row.date : row.due),
      ...(row.n !== null && row.date !== row.due && { paid: formatDay(row.date) }),
      opening: money(row.opening),
      payment: money(row.payment),
      interest: money(row.interest),
      principal: money(row.principal),
      extra: money(row.extra),
      closing: money(row.closing),
      ...(row.unpaid > 0 && { unpaidInterest: money(row.unpaid) }),
    })),
    ...(range && {
      range: {
        from: range.from,
        to: range.to,
        payment: money(sum('payment')),
        interest: money(sum('interest')),
        principal: money(sum('principal')),
        extra: money(sum('extra')),
        closing: money(chosen.at(-1)?.closing ?? 0),
      },
    }),
    totals: {
      payment: total('payment'),
      interest: total('interest'),
      principal: total('principal'),
      extra: total('extra'),
    },
    ...(schedule.notices.length > 0 && {
      notices: schedule.notices.map((notice) => ({
        on: formatDay(notice.on),
        kind: notice.kind,
        stated: money(notice.stated),
        applied: money(notice.applied),
      })),
    }),
    proofs: proofsJson(schedule),
  };
}

/** Rows whose number is in the range, with the unnumbered rows between them. */
function inRange<Row extends { n: number | null }>(rows: Row[], range?: RowRange): Row[] {
  if (!range) return rows;
  const first = rows.findIndex((row) => row.n !== null && row.n >= range.from);
  const last = rows.findLastIndex((row) => row.n !== null && row.n <= range.to);
  return first < 0 ? [] : rows.slice(first, last + 1);
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

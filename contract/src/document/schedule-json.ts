import {
  formatAmount,
  formatDay,
  type AccountRole,
  type Entry,
  type Position,
  type Schedule,
} from '@coffer/core';
import { loanScheduleJson } from './loan-schedule-json.ts';
import { bondScheduleJson } from './bond-schedule-json.ts';
import type { RowRange } from './row-range.ts';

/** A schedule in the published form: amounts as strings with the currency's decimals. */
export function scheduleJson(schedule: Schedule, range?: RowRange): Record<string, unknown> {
  return schedule.kind === 'loan' ? loanScheduleJson(schedule, range) : bondScheduleJson(schedule, range);
}

/** A position in the published form. */
export function positionJson(at: Position, digits: number): Record<string, unknown> {
  const money = (minor: number): string => formatAmount(minor, digits);
  return {
    on: formatDay(at.on),
    outstanding: money(at.outstanding),
    accruedInterest: money(at.accruedInterest),
    accruedFee: money(at.accruedFee),
    unpaidInterest: money(at.unpaidInterest),
    deferredInterest: money(at.deferredInterest),
    unamortizedDiscount: money(at.unamortizedDiscount),
    unamortizedPremium: money(at.unamortizedPremium),
    unamortizedIssueCosts: money(at.unamortizedIssueCosts),
    deferredCosts: money(at.deferredCosts),
    overpaid: money(at.overpaid),
    carrying: money(at.carrying),
    current: money(at.current),
    nonCurrent: money(at.nonCurrent),
    next: at.next && { due: formatDay(at.next.due), payment: money(at.next.payment) },
  };
}

/** A journal entry in its published form; amounts are strings with the currency's decimals. */
export interface EntryJson {
  readonly date: string;
  readonly memo: string;
  readonly lines: readonly {
    readonly account: AccountRole;
    readonly debit: string;
    readonly credit: string;
  }[];
}

/** Entries in the published form. */
export function entriesJson(found: readonly Entry[], digits: number): EntryJson[] {
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

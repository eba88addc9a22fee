import {
  type BondRow,
  type BondSchedule,
  bondTotalOf,
  discountAtIssue,
  discountShare,
  formatAmount,
  type MinorUnits,
  type TotalledBondColumn,
} from '@coffer/core';
import { proofsJson } from '../../document/proofs-json.ts';
import type { PublishedSchedule } from '../../document/published-schedule.ts';
import { publishedRow } from '../../document/schedule-column.ts';
import { bondScheduleColumns } from './bond-schedule-columns.ts';
import { inRange, type RowRange } from '../../document/row-range.ts';

/** A bond's schedule in its published form; rates are percents a year, compounded as often as coupons are paid. */
export interface BondScheduleJson extends PublishedSchedule {
  readonly proceeds: string;
  readonly accruedReceived?: string;
  readonly issueCosts?: string;
  /** Negative for a premium. */
  readonly discount: string;
  readonly discountOfFace: string;
  readonly price: string;
  readonly effectiveRate: string;
  /** The rate of the price, where expense runs at another. */
  readonly yield?: string;
  readonly residual: string;
}

/** A bond's schedule in the published form: amounts as strings with the currency's decimals. */
export function bondScheduleJson(schedule: BondSchedule, range?: RowRange): BondScheduleJson {
  const { terms, rates, rows, accruedReceived } = schedule;
  const columns = bondScheduleColumns(schedule);
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const numbered = rows.map((row) => ({ row, n: row.kind === 'redemption' ? null : row.n }));
  const chosen = inRange(numbered, range).map(({ row }) => row);
  const percent = (rate: typeof rates.effective): string =>
    `${rate.times(100).toSignificantDigits(30).toFixed()}%`;
  const totals = (of: readonly BondRow[]): Record<string, string> => {
    const sum = (key: TotalledBondColumn): string => money(bondTotalOf({ rows: of }, key));
    return { coupon: sum('coupon'), expense: sum('expense'), amortization: sum('amortization') };
  };
  return {
    kind: 'bond',
    proceeds: money(schedule.proceeds),
    ...(accruedReceived !== 0 && { accruedReceived: money(accruedReceived) }),
    ...(terms.issueCosts && { issueCosts: money(terms.issueCosts.amount) }),
    discount: money(discountAtIssue(schedule)),
    discountOfFace: discountShare(schedule),
    price: rates.price.times(100).toSignificantDigits(30).toFixed(),
    effectiveRate: percent(rates.effective),
    ...(!rates.ofPrice.eq(rates.effective) && { yield: percent(rates.ofPrice) }),
    residual: rates.residual.toExponential(3),
    rows: chosen.map((row) => publishedRow(columns, row)),
    ...(range && {
      range: {
        from: range.from,
        to: range.to,
        ...totals(chosen),
        closing: money(chosen.at(-1)?.closing ?? 0),
      },
    }),
    totals: totals(rows),
    proofs: proofsJson(schedule),
  };
}

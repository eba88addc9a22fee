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
import * as v from 'valibot';
import { proofsJson } from '../../document/proofs-json.ts';
import {
  publishedAmount,
  publishedDecimal,
  publishedPercent,
  publishedResidual,
} from '../../document/published-scalars.ts';
import { amountsOf, publishedProofs, publishedRange } from '../../document/published-schedule.ts';
import { publishedRow, rowSchema } from '../../document/schedule-column.ts';
import { bondScheduleColumns } from './bond-schedule-columns.ts';
import { inRange, type RowRange } from '../../document/row-range.ts';

const totalled = ['coupon', 'expense', 'amortization'] as const;

/** The published form of a bond's schedule; rates are percents a year, compounded as often as coupons are paid. */
export const bondScheduleSchema = v.strictObject({
  kind: v.literal('bond'),
  proceeds: publishedAmount,
  accruedReceived: v.exactOptional(publishedAmount),
  issueCosts: v.exactOptional(publishedAmount),
  /** Negative for a premium. */
  discount: publishedAmount,
  /** Of the face, a percent. */
  discountOfFace: publishedPercent,
  /** Percent of the face. */
  price: publishedDecimal,
  effectiveRate: publishedPercent,
  /** The rate of the price, where expense runs at another. */
  yield: v.exactOptional(publishedPercent),
  residual: publishedResidual,
  rows: v.array(rowSchema(bondScheduleColumns)),
  range: v.exactOptional(v.strictObject({ ...publishedRange, ...amountsOf([...totalled, 'closing']) })),
  totals: v.strictObject(amountsOf(totalled)),
  proofs: publishedProofs,
});

/** A bond's schedule in its published form. */
export type BondScheduleJson = v.InferOutput<typeof bondScheduleSchema>;

/** A bond's schedule in the published form: amounts as strings with the currency's decimals. */
export function bondScheduleJson(schedule: BondSchedule, range?: RowRange): BondScheduleJson {
  const { terms, rates, rows, accruedReceived } = schedule;
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const numbered = rows.map((row) => ({ row, n: row.kind === 'redemption' ? null : row.n }));
  const chosen = inRange(numbered, range).map(({ row }) => row);
  const percent = (rate: typeof rates.effective): string =>
    `${rate.times(100).toSignificantDigits(30).toFixed()}%`;
  const totals = (of: readonly BondRow[]): BondScheduleJson['totals'] => {
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
    rows: chosen.map((row) => publishedRow(bondScheduleColumns, row, schedule, terms.digits)),
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

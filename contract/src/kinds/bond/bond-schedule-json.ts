import {
  bondTotalOf,
  discountAtIssue,
  discountShare,
  formatAmount,
  formatDay,
  type BondRow,
  type BondSchedule,
  type TotalledBondColumn,
} from '@coffer/core';
import { proofsJson } from '../../document/proofs-json.ts';
import { inRange, type RowRange } from '../../document/row-range.ts';

/**
 * A bond's schedule in the published form. Rows have what the format always has; accrued coupon received at issue,
 * issue costs, instalments and redemptions only where there are any.
 */
export function bondScheduleJson(schedule: BondSchedule, range?: RowRange): Record<string, unknown> {
  const { terms, rates, rows, accruedReceived } = schedule;
  const money = (minor: number): string => formatAmount(minor, terms.digits);
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
    rows: chosen.map((row) => rowJson(schedule, row, money)),
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

function rowJson(
  { terms, rows, accruedReceived }: BondSchedule,
  row: BondRow,
  money: (minor: number) => string,
): Record<string, unknown> {
  const redeemed = row.faceBefore - row.faceAfter;
  const early = row.kind === 'redemption';
  return {
    n: early ? null : row.n,
    due: formatDay(row.due),
    ...(early && { event: 'redemption' }),
    opening: money(row.opening),
    coupon: money(row.coupon),
    ...(accruedReceived !== 0 && { accruedReceived: money(row.received) }),
    expense: money(row.expense),
    amortization: money(row.amortization),
    ...(terms.issueCosts && { issueCosts: money(row.costsAmortized) }),
    ...(rows.some((each) => each.faceBefore !== each.faceAfter) && {
      redeemed: money(redeemed),
      ...(terms.redemptions.length > 0 && { redemptionPaid: money(row.paid), gain: money(row.gain) }),
      face: money(row.faceAfter),
    }),
    unamortized: money(row.unamortized),
    closing: money(row.closing),
  };
}

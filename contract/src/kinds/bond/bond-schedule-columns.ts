import { type BondRow, type BondSchedule, formatAmount, formatDay, type MinorUnits } from '@coffer/core';
import type { ScheduleColumn } from '../../document/schedule-column.ts';

/**
 * The columns of a bond's schedule. Accrued coupon received at issue, issue costs, instalments and redemptions have
 * theirs only where there are any.
 */
export function bondScheduleColumns({
  terms,
  rows,
  accruedReceived,
}: BondSchedule): readonly ScheduleColumn<BondRow>[] {
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const amount = (
    key: string,
    title: string,
    value: (row: BondRow) => number,
    more: Pick<ScheduleColumn<BondRow>, 'always' | 'before'> = {},
  ): ScheduleColumn<BondRow> => ({ key, title, type: 'amount', value: (row) => money(value(row)), ...more });
  const where = (
    there: boolean,
    ...columns: ScheduleColumn<BondRow>[]
  ): readonly ScheduleColumn<BondRow>[] => (there ? columns : []);
  const early = ({ kind }: BondRow): boolean => kind === 'redemption';
  const always = { always: true } as const;
  const repaid = rows.some((row) => row.faceBefore !== row.faceAfter);
  return [
    { key: 'n', title: 'No.', type: 'count', value: (row) => (early(row) ? null : row.n), ...always },
    { key: 'due', title: 'Date', type: 'day', value: ({ due }) => formatDay(due), ...always },
    { key: 'event', title: 'Event', type: 'text', value: (row) => (early(row) ? 'redemption' : undefined) },
    amount('opening', 'Opening', ({ opening }) => opening, always),
    amount('coupon', 'Coupon', ({ coupon }) => coupon),
    ...where(
      accruedReceived !== 0,
      amount('accruedReceived', 'Of it received', ({ received }) => received),
    ),
    amount('expense', 'Expense', ({ expense }) => expense),
    amount('amortization', 'Amortized', ({ amortization }) => amortization),
    ...where(
      terms.issueCosts !== undefined,
      amount('issueCosts', 'Costs', ({ costsAmortized }) => costsAmortized, { before: 'closing' }),
    ),
    ...where(
      repaid,
      amount('redeemed', 'Face redeemed', ({ faceBefore, faceAfter }) => faceBefore - faceAfter, {
        before: 'closing',
      }),
      ...where(
        terms.redemptions.length > 0,
        amount('redemptionPaid', 'Paid for it', ({ paid }) => paid, { before: 'closing' }),
        amount('gain', 'Gain or loss', ({ gain }) => gain, { before: 'closing' }),
      ),
      amount('face', 'Face', ({ faceAfter }) => faceAfter, { before: null }),
    ),
    amount('unamortized', 'Unamortized', ({ unamortized }) => unamortized),
    amount('closing', 'Carrying', ({ closing }) => closing, always),
  ];
}

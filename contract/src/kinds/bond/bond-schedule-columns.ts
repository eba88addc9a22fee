import type { BondRow, BondSchedule, MinorUnits } from '@coffer/core';
import { columnsOf } from '../../document/schedule-column.ts';

const { each, some } = columnsOf<BondRow, BondSchedule>();
const always = { always: true } as const;
const beforeClosing = { before: 'closing' } as const;

const isEarly = ({ kind }: BondRow): boolean => kind === 'redemption';
const isRepaidBefore = ({ rows }: BondSchedule): boolean =>
  rows.some((row) => row.faceBefore !== row.faceAfter);

/** An amount where a schedule has the column at all. */
const where =
  (there: (schedule: BondSchedule) => boolean, value: (row: BondRow) => MinorUnits) =>
  (row: BondRow, schedule: BondSchedule): MinorUnits | undefined =>
    there(schedule) ? value(row) : undefined;
const redeemsEarly = (schedule: BondSchedule): boolean =>
  isRepaidBefore(schedule) && schedule.terms.redemptions.length > 0;

/**
 * The columns of a bond's schedule. Accrued coupon received at issue, issue costs, instalments and redemptions have
 * theirs only where there are any.
 */
export const bondScheduleColumns = [
  each('n', 'No.', 'count', (row) => (isEarly(row) ? null : row.n), always),
  each('due', 'Date', 'day', ({ due }) => due, always),
  some('event', 'Event', 'text', (row) => (isEarly(row) ? 'redemption' : undefined)),
  each('opening', 'Opening', 'amount', ({ opening }) => opening, always),
  each('coupon', 'Coupon', 'amount', ({ coupon }) => coupon),
  some(
    'accruedReceived',
    'Of it received',
    'amount',
    where(
      ({ accruedReceived }) => accruedReceived !== 0,
      ({ received }) => received,
    ),
  ),
  each('expense', 'Expense', 'amount', ({ expense }) => expense),
  each('amortization', 'Amortized', 'amount', ({ amortization }) => amortization),
  some(
    'issueCosts',
    'Costs',
    'amount',
    where(
      ({ terms }) => terms.issueCosts !== undefined,
      ({ costsAmortized }) => costsAmortized,
    ),
    beforeClosing,
  ),
  some(
    'redeemed',
    'Face redeemed',
    'amount',
    where(isRepaidBefore, ({ faceBefore, faceAfter }) => faceBefore - faceAfter),
    beforeClosing,
  ),
  some(
    'redemptionPaid',
    'Paid for it',
    'amount',
    where(redeemsEarly, ({ paid }) => paid),
    beforeClosing,
  ),
  some(
    'gain',
    'Gain or loss',
    'amount',
    where(redeemsEarly, ({ gain }) => gain),
    beforeClosing,
  ),
  some(
    'face',
    'Face',
    'amount',
    where(isRepaidBefore, ({ faceAfter }) => faceAfter),
    { before: null },
  ),
  each('unamortized', 'Unamortized', 'amount', ({ unamortized }) => unamortized),
  each('closing', 'Carrying', 'amount', ({ closing }) => closing, always),
] as const;

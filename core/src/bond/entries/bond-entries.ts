import { formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import {
  bookedExpense,
  discountAtIssue,
  lastCouponRow,
  type BondRow,
  type BondSchedule,
} from '../schedule/bond-schedule.ts';
import { formatPrice } from '../../rates/annual-rate.ts';
import { bondAccrual } from '../position/bond-position.ts';
import { entryOf, type Entry, type Posting } from '../../entries/entry.ts';

/** A debit to the discount, or a credit to the premium, by the side that the bond was issued on. */
function discountPosting(schedule: BondSchedule, amount: number): Posting {
  return [discountRole(schedule), amount];
}

/** The account that holds what is unamortized, by the side that the bond was issued on. */
export function discountRole(schedule: BondSchedule): 'bond-discount' | 'bond-premium' {
  return discountAtIssue(schedule) < 0 ? 'bond-premium' : 'bond-discount';
}

/** Issue at the price received: for cash net of issue costs, or for goods at their present value. */
export function bondIssueEntry(schedule: BondSchedule): Entry | undefined {
  const { terms, proceeds, accruedReceived } = schedule;
  const costs = terms.issueCosts?.amount ?? 0;
  const goods = terms.issuedFor === 'goods';
  return entryOf(terms.issued, 'issue', goods ? 'Note issued for goods' : 'Bonds issued', null, [
    ['asset', goods ? proceeds : 0],
    ['cash', (goods ? 0 : proceeds) - costs],
    discountPosting(schedule, discountAtIssue(schedule)),
    ['issue-costs', costs],
    ['bonds-payable', -terms.face],
    ['interest-payable', -accruedReceived],
  ]);
}

/** What a row charges: coupon paid, coupon received at issue settled, discount and costs amortized. */
function chargedPostings(schedule: BondSchedule, { booked }: BondRow): Posting[] {
  return [
    ['interest-expense', bookedExpense(booked)],
    ['interest-payable', booked.received],
    discountPosting(schedule, -booked.discount),
    ['issue-costs', -booked.costs],
    ['cash', -booked.coupon],
  ];
}

/** The entries of a row: a coupon and the instalment due with it, or a redemption and the coupon accrued on it. */
export function bondRowEntries(schedule: BondSchedule, row: BondRow): (Entry | undefined)[] {
  const at = row.n || null;
  if (row.kind === 'issue') return [bondIssueEntry(schedule)];
  const face = row.faceBefore - row.faceAfter;
  if (row.kind === 'coupon') {
    const name = schedule.terms.zeroCoupon ? `Discount amortized, period ${row.n}` : `Coupon ${row.n}`;
    return [
      entryOf(row.due, 'coupon', name, at, chargedPostings(schedule, row)),
      entryOf(row.due, 'redemption', `Instalment with coupon ${row.n}`, at, [
        ['bonds-payable', face],
        ['cash', -row.paid],
      ]),
    ];
  }
  const terms = schedule.terms.redemptions.find((each) => each.at === row.redemption);
  const priced = terms ? ` at ${formatPrice(terms.price)}` : '';
  const refunded = terms?.refundedBy === undefined ? '' : `, refunded by ${terms.refundedBy}`;
  return [
    entryOf(row.due, 'coupon', 'Coupon and amortization to redemption', at, chargedPostings(schedule, row)),
    entryOf(row.due, 'redemption', `Redemption${priced} before maturity${refunded}`, at, [
      ['bonds-payable', face],
      discountPosting(schedule, -row.booked.discountWrittenOff),
      ['issue-costs', -row.booked.costsWrittenOff],
      ['redemption-gain-loss', row.paid - face + row.booked.discountWrittenOff + row.booked.costsWrittenOff],
      ['cash', -row.paid],
    ]),
  ];
}

/** Redemption at maturity of the face that is left. */
export function bondRedemptionEntry(schedule: BondSchedule): Entry | undefined {
  const last = lastCouponRow(schedule);
  if (!last) return undefined;
  return entryOf(schedule.terms.matures, 'redemption', 'Redemption at maturity', last.n, [
    ['bonds-payable', last.faceAfter],
    ['cash', -last.faceAfter],
  ]);
}

/** Coupon accrued, and discount or premium and issue costs amortized, to a period end between coupons. */
export function bondAccrualEntry(schedule: BondSchedule, on: CalendarDay): Entry | undefined {
  const accrual = bondAccrual(schedule, on);
  if (!accrual) return undefined;
  const { coupon, received, discount, costs, basis } = accrual;
  const what = discountRole(schedule) === 'bond-premium' ? 'premium' : 'discount';
  const amortized = [...(discount === 0 ? [] : [what]), ...(costs === 0 ? [] : ['issue costs'])];
  const parts = [
    ...(coupon - received === 0 ? [] : ['coupon accrued']),
    ...(amortized.length === 0 ? [] : [`${amortized.join(' and ')} amortized`]),
  ].join(' and ');
  const memo = `${parts.charAt(0).toUpperCase()}${parts.slice(1)} to ${formatDay(on)}`;
  return entryOf(on, 'accrual', memo, basis.n, [
    ['interest-expense', coupon - received + discount + costs],
    discountPosting(schedule, -discount),
    ['issue-costs', -costs],
    ['interest-payable', received - coupon],
  ]);
}

/** What a bond books by itself from one day to another, both included: its rows, and its end. */
export function bondOwnEntries(
  schedule: BondSchedule,
  from: CalendarDay,
  to: CalendarDay,
): (Entry | undefined)[] {
  const within = (day: CalendarDay): boolean => day >= from && day <= to;
  const found = schedule.rows
    .filter(({ due }) => within(due))
    .flatMap((row) => bondRowEntries(schedule, row));
  return within(schedule.terms.matures) ? [...found, bondRedemptionEntry(schedule)] : found;
}

import { exactMinor, minorOf, toGrains } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import { carryingOf, type Carried, type PeriodAmounts } from './bond-amortization.ts';
import type { BondRow, BondRowKind } from './bond-schedule.ts';
import type { BondTerms, EarlyRedemption } from '../terms/bond-terms.ts';

/** What a row charges and amortizes, grains. */
type Charged = Pick<PeriodAmounts, 'coupon' | 'discount' | 'costs'>;

interface RowParts {
  readonly kind: BondRowKind;
  readonly n: number;
  readonly due: CalendarDay;
  readonly before: Carried;
  readonly after: Carried;
  readonly charged: Charged;
  /** Grains. */
  readonly paid: bigint;
  readonly exactExpense: Ratio;
  readonly redemption?: number;
}

const nothing: Charged = { coupon: 0n, discount: 0n, costs: 0n };

/** Writes a bond's rows from grains: each figure rounded for showing, and what the books carry of it. */
export class BondRowWriter {
  readonly rows: BondRow[] = [];
  private coupons = 0n;

  constructor(private readonly terms: BondTerms) {}

  minor(grains: bigint): number {
    return minorOf(this.terms, grains);
  }

  issue(carried: Carried): void {
    this.write({
      kind: 'issue',
      n: 0,
      due: this.terms.issued,
      before: carried,
      after: carried,
      charged: nothing,
      paid: 0n,
      exactExpense: ratio(0n),
    });
  }

  /** A coupon and the instalment that falls due with it. */
  coupon(n: number, due: CalendarDay, before: Carried, after: Carried, amounts: PeriodAmounts): void {
    const paid = before.face - after.face;
    const { exactExpense } = amounts;
    this.write({ kind: 'coupon', n, due, before, after, charged: amounts, paid, exactExpense });
  }

  /** Face redeemed early, with the coupon accrued on it. */
  redemption(redemption: EarlyRedemption, before: Carried, after: Carried, charged: Charged): void {
    const face = exactMinor(this.terms, before.face - after.face);
    const paid = toGrains(this.terms, multiplyRatios(face, redemption.price));
    const expense = charged.coupon - (before.received - after.received) + charged.discount + charged.costs;
    this.write({
      kind: 'redemption',
      n: 0,
      due: redemption.on,
      before,
      after,
      charged,
      paid,
      exactExpense: exactMinor(this.terms, expense),
      redemption: redemption.at,
    });
  }

  private write({ kind, n, due, before, after, charged, paid, exactExpense, redemption }: RowParts): void {
    const amortization = charged.discount + charged.costs;
    const received = before.received - after.received;
    const opening = carryingOf(before);
    const closing = carryingOf(after);
    const retired = opening + amortization - closing;
    const exact = {
      faceAfter: after.face,
      opening,
      coupon: charged.coupon,
      received,
      expense: charged.coupon - received + amortization,
      amortization,
      retired,
      unamortized: after.discount + after.costs,
      closing,
    };
    const minor = (grains: bigint): number => this.minor(grains);
    // Face less what is unamortized as shown, so that the two always add up to the face, half cents and all.
    const carrying = (of: Carried): number => minor(of.face) - minor(of.discount + of.costs);
    this.rows.push({
      kind,
      n,
      due,
      faceBefore: minor(before.face),
      faceAfter: minor(after.face),
      opening: carrying(before),
      coupon: minor(charged.coupon),
      received: minor(received),
      expense: minor(exact.expense),
      amortization: minor(amortization),
      costsAmortized: minor(charged.costs),
      retired: minor(retired),
      paid: minor(paid),
      gain: minor(retired) - minor(paid),
      unamortized: minor(exact.unamortized),
      unamortizedCosts: minor(after.costs),
      closing: carrying(after),
      exactExpense,
      ...(redemption !== undefined && { redemption }),
      booked: this.booked(before, after, charged),
      exact,
    });
    this.coupons += charged.coupon;
  }

  /** Differences of rounded totals, so that no sum of them drifts from what is carried. */
  private booked(before: Carried, after: Carried, charged: Charged): BondRow['booked'] {
    const gone = (of: 'discount' | 'costs' | 'received'): number =>
      this.minor(before[of]) - this.minor(after[of]);
    const amortized = (of: 'discount' | 'costs'): number =>
      this.minor(before[of]) - this.minor(before[of] - charged[of]);
    const discount = amortized('discount');
    const costs = amortized('costs');
    return {
      coupon: this.minor(this.coupons + charged.coupon) - this.minor(this.coupons),
      received: gone('received'),
      discount,
      costs,
      discountWrittenOff: gone('discount') - discount,
      costsWrittenOff: gone('costs') - costs,
    };
  }
}

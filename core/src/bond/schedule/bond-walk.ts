import { grainsOf, partOf, toGrains } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { compareRatios, multiplyRatios, ratio } from '../../money/ratio.ts';
import { BondAmortization, type Carried, type EvenBase } from './bond-amortization.ts';
import { accruedCoupon, exactDecimal } from '../price/bond-price.ts';
import { bondRates } from '../price/bond-rates.ts';
import { BondRowWriter } from './bond-row-writer.ts';
import { amortizedShare, type AccrualBasis, type BondSchedule } from './bond-schedule.ts';
import type { BondTerms, EarlyRedemption, FaceDue } from '../terms/bond-terms.ts';
import { checkBondTerms, checkInstalments, refuseAboveOutstanding } from '../terms/check-bond-terms.ts';
import { contractualFlows, type ContractualFlow } from '../terms/contractual-flows.ts';
import { couponPeriods, periodsAfter, yearsWithin, type CouponPeriod } from '../terms/coupon-periods.ts';

/** Walks a bond from its issue over its coupon periods, redemptions in between. Amounts in grains. */
class BondWalk {
  private readonly grains: bigint;
  private readonly amortization: BondAmortization;
  private readonly writer: BondRowWriter;
  private readonly bases: AccrualBasis[] = [];
  private readonly rates: BondSchedule['rates'];
  private readonly atIssue: Carried;
  private carried: Carried;
  private even: EvenBase;
  private dues: readonly FaceDue[];

  constructor(
    private readonly terms: BondTerms,
    private readonly flows: readonly ContractualFlow[],
  ) {
    this.grains = grainsOf(terms);
    const rates = bondRates(terms, flows);
    this.rates = rates;
    this.writer = new BondRowWriter(terms);
    const face = ratio(BigInt(terms.face));
    const clean = toGrains(terms, multiplyRatios(face, exactDecimal(rates.price)));
    const first = flows[0] as ContractualFlow;
    const received = toGrains(terms, multiplyRatios(face, accruedCoupon(terms, first, terms.issued)));
    const whole = BigInt(terms.face) * this.grains;
    const costs = BigInt(terms.issueCosts?.amount ?? 0) * this.grains;
    this.carried = this.atIssue = { face: whole, discount: whole - clean, costs, received };
    this.even = { from: 0, carried: this.carried };
    this.amortization = new BondAmortization(terms, flows, rates, atPar(terms, this.atIssue));
    const later = terms.instalments.filter(({ on }) => on > terms.issued && on < terms.matures);
    const rest = later.reduce((left, { face: part }) => left - part, terms.face);
    this.dues = [...later, { on: terms.matures, face: rest }];
  }

  run(): BondSchedule {
    const { terms, flows, rates, writer } = this;
    writer.issue(this.carried);
    for (let at = 0; at < flows.length && this.carried.face > 0n; at += 1) this.walkPeriod(at);
    const late = terms.redemptions.find(({ on }) => on > (writer.rows.at(-1)?.due ?? terms.issued));
    if (late) refuseAboveOutstanding(terms, late, 0n);
    const received = writer.minor(this.atIssue.received);
    return {
      kind: 'bond',
      terms,
      periods: flows.map(({ period }) => period),
      rows: writer.rows,
      bases: this.bases,
      rates,
      accruedReceived: received,
      proceeds: terms.face - writer.minor(this.atIssue.discount) + received,
    };
  }

  private walkPeriod(at: number): void {
    const { terms, flows } = this;
    const { period } = flows[at] as ContractualFlow;
    const begins = Math.max(period.from, terms.issued);
    let basis = this.basis(at, begins);
    for (const redemption of terms.redemptions) {
      if (redemption.on < begins || redemption.on >= period.to) continue;
      basis = this.redeem(at, basis, redemption);
    }
    if (this.carried.face === 0n) return;
    const { amounts } = basis;
    const instalment = at === flows.length - 1 ? 0n : BigInt(dueOn(this.dues, period.to)) * this.grains;
    const before = this.carried;
    this.carried = {
      face: before.face - instalment,
      discount: before.discount - amounts.discount,
      costs: before.costs - amounts.costs,
      received: 0n,
    };
    this.dues = this.dues.filter(({ on }) => on > period.to);
    this.writer.coupon(at + 1, period.to, before, this.carried, amounts);
  }

  private basis(at: number, from: CalendarDay): AccrualBasis {
    const { period } = this.flows[at] as ContractualFlow;
    const { carried, dues } = this;
    const amounts = this.amortization.ofPeriod(at, carried, this.even);
    const basis = { period, n: at + 1, from, carried, amounts, dues };
    this.bases.push(basis);
    return basis;
  }

  /**
   * Face redeemed inside a coupon period: what has been amortized by the day is shared between the face redeemed and
   * the rest, so that it sums to what was reported before; the rest goes on as it was. Coupon accrued on the face
   * redeemed is paid with it.
   */
  private redeem(at: number, before: AccrualBasis, redemption: EarlyRedemption): AccrualBasis {
    const { terms, grains } = this;
    const { period } = before;
    const face = BigInt(redemption.face) * grains;
    refuseAboveOutstanding(terms, redemption, this.carried.face / grains);
    const part = ratio(face, this.carried.face);
    const all = face === this.carried.face;
    const left = (amount: bigint): bigint => (all ? 0n : amount - partOf(terms, amount, part));
    const whole = before.carried;
    this.carried = {
      face: whole.face - face,
      discount: left(whole.discount),
      costs: left(whole.costs),
      received: left(whole.received),
    };
    this.even = { from: at, carried: this.carried };
    this.dues = scaled(this.dues, redemption.face);
    const after = this.basis(at, redemption.on);
    const share = amortizedShare(terms, period, redemption.on);
    const amortized = (of: 'discount' | 'costs'): bigint =>
      partOf(terms, before.amounts[of], share) - partOf(terms, after.amounts[of], share);
    this.writer.redemption(redemption, whole, this.carried, {
      coupon: this.accruedOn(face, period, redemption.on),
      discount: amortized('discount'),
      costs: amortized('costs'),
    });
    return after;
  }

  /** Coupon accrued in its period on some face, grains. */
  private accruedOn(face: bigint, period: CouponPeriod, on: CalendarDay): bigint {
    if (on <= period.from) return 0n;
    const { num, den } = yearsWithin(this.terms, period, period.from, on);
    const yearly = multiplyRatios({ num: face, den: this.grains }, this.terms.couponRate);
    return toGrains(this.terms, multiplyRatios(yearly, ratio(BigInt(num), BigInt(den))));
  }
}

/** Sold at face with nothing that says otherwise: there is nothing to amortize but costs. */
function atPar({ effectiveRate, marketYield, couponRate }: BondTerms, atIssue: Carried): boolean {
  const agrees =
    effectiveRate === 'from-price' || !marketYield || compareRatios(marketYield, couponRate) === 0;
  return atIssue.discount === 0n && agrees;
}

function dueOn(dues: readonly FaceDue[], day: CalendarDay): number {
  return dues.reduce((sum, { on, face }) => sum + (on === day ? face : 0), 0);
}

/** What still falls due after part of the face was redeemed: each instalment less its share, the last the rest. */
function scaled(dues: readonly FaceDue[], redeemed: number): FaceDue[] {
  const outstanding = dues.reduce((sum, { face }) => sum + face, 0);
  let left = outstanding - redeemed;
  return dues.map(({ on, face }, at) => {
    const keeps = (BigInt(face) * BigInt(outstanding - redeemed)) / BigInt(outstanding);
    const due = at === dues.length - 1 ? left : Number(keeps);
    left -= due;
    return { on, face: due };
  });
}

/**
 * A bond's schedule: coupon, interest expense and amortization, redemptions, carrying amounts. A pure function of
 * its terms. Throws {@link TermsFault} for terms that contradict each other.
 */
export function buildBondSchedule(terms: BondTerms): BondSchedule {
  checkBondTerms(terms);
  const periods = couponPeriods(terms);
  checkInstalments(terms, periods);
  return new BondWalk(terms, contractualFlows(terms, periodsAfter(periods, terms.issued))).run();
}

import fc from 'fast-check';
import { addMonths, parseDay } from '../calendar/calendar-day.ts';
import { dayCountNames } from '../calendar/day-counts/day-counts.ts';
import { monthsBetweenPayments } from '../calendar/frequency.ts';
import { ratio } from '../money/ratio.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import {
  couponFrequencies,
  type BondTerms,
  type EarlyRedemption,
  type Instalment,
} from '../bond/terms/bond-terms.ts';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';

const earliest = parseDay('2020-01-01') as number;
const percents = (least: number, most: number): fc.Arbitrary<number> => fc.integer({ min: least, max: most });

const anyTerms: fc.Arbitrary<BondTerms> = fc
  .record({
    face: fc.integer({ min: 100_000, max: 5_000_000_000_00 }),
    anchor: fc.integer({ min: earliest, max: earliest + 2500 }),
    coupons: fc.integer({ min: 1, max: 60 }),
    every: fc.constantFrom(...couponFrequencies),
    coupon: percents(0, 1500),
    zeroCoupon: fc.constantFrom(false, false, false, true),
    dayCount: fc.constantFrom(...dayCountNames),
    keepMonthEnd: fc.boolean(),
    // Days from the first date of the cycle: an odd first period where it is stated, else a later sale.
    begins: fc.constantFrom('regular', 'regular', 'odd', 'sold-later' as const),
    shift: fc.integer({ min: 1, max: 400 }),
    price: percents(500_000, 1_500_000),
    market: percents(1, 2000),
    by: fc.constantFrom('price', 'yield', 'both' as const),
    method: fc.constantFrom('effective', 'effective', 'straight-line' as const),
    costs: fc.option(fc.record({ share: percents(1, 60), inRate: fc.boolean() }), { freq: 2 }),
    instalments: fc.array(fc.record({ after: fc.integer({ min: 1, max: 59 }), share: percents(1, 30) }), {
      maxLength: 3,
    }),
    goods: fc.constantFrom('cash', 'cash', 'goods' as const),
    interest: fc.constantFrom('cent', 'cent', 'unit', 'none' as const),
    ties: fc.constantFrom('away-from-zero', 'even' as const),
  })
  .map((drawn): BondTerms => {
    const months = monthsBetweenPayments[drawn.every] ?? 1;
    const date = (index: number): number =>
      addMonths(drawn.anchor, months * (index - drawn.coupons), drawn.keepMonthEnd);
    const odd = drawn.begins === 'odd' && drawn.coupons > 1 && !drawn.zeroCoupon;
    const room = date(1) - date(0);
    const dated = odd ? date(1) - 1 - (drawn.shift % (room + 20)) : date(0);
    const later = drawn.begins === 'sold-later' && !drawn.zeroCoupon;
    const issued = later ? dated + (drawn.shift % (date(drawn.coupons) - dated)) : dated;
    const agreed = new Map<number, number>();
    for (const { after, share } of drawn.instalments) {
      const on = date(after % drawn.coupons);
      if (on > issued && on < drawn.anchor)
        agreed.set(on, Math.max(1, Math.floor((drawn.face * share) / 100)));
    }
    const instalments = [...agreed]
      .map(([on, face], at): Instalment => ({ on, face, at }))
      .sort((a, b) => a.on - b.on);
    const straight = drawn.method === 'straight-line';
    return {
      kind: 'bond',
      currency: 'USD',
      digits: 2,
      face: drawn.face,
      issued,
      dated,
      matures: drawn.anchor,
      couponRate: ratio(drawn.zeroCoupon ? 0n : BigInt(drawn.coupon), 10_000n),
      zeroCoupon: drawn.zeroCoupon,
      every: drawn.every,
      dayCount: drawn.dayCount,
      keepMonthEnd: drawn.keepMonthEnd,
      ...(odd && { firstCoupon: date(1) }),
      ...(drawn.by !== 'yield' && { price: { ofFace: ratio(BigInt(drawn.price), 1_000_000n), decimals: 4 } }),
      ...(drawn.by === 'yield' && { marketYield: ratio(BigInt(drawn.market), 10_000n) }),
      effectiveRate: drawn.by === 'yield' ? 'yield' : 'from-price',
      method: drawn.method,
      ...(drawn.costs && {
        issueCosts: {
          amount: Math.max(1, Math.floor((drawn.face * drawn.costs.share) / 1000)),
          method: drawn.costs.inRate && !straight ? 'effective' : 'straight-line',
        },
      }),
      instalments,
      redemptions: [],
      calls: [],
      issuedFor: drawn.goods,
      events: [],
      rounding: { interest: drawn.interest, ties: drawn.ties },
    };
  });

/** Whether a schedule can be made: a price that no yield gives, or a yield that gives none, is refused. */
export function bondCanBeScheduled(terms: BondTerms): boolean {
  try {
    buildBondSchedule(terms);
    return true;
  } catch (error) {
    if (error instanceof TermsFault) return false;
    throw error;
  }
}

/** Bond terms over every convention that is computed, nothing redeemed early. For property tests. */
export const arbitraryBond = anyTerms.filter(bondCanBeScheduled);

/** The same with part or all redeemed early, on any days, and presentations stated. */
export const arbitraryBondWithEvents: fc.Arbitrary<BondTerms> = fc
  .tuple(
    anyTerms,
    fc.array(
      fc.record({
        at: fc.double({ min: 0, max: 1, noNaN: true }),
        share: fc.integer({ min: 1, max: 110 }),
        price: percents(700, 1300),
      }),
      { maxLength: 3 },
    ),
    fc.option(fc.record({ after: fc.integer({ min: 0, max: 2000 }), current: fc.boolean() }), { freq: 4 }),
  )
  .map(([terms, drawn, stated]): BondTerms => {
    const length = terms.matures - terms.issued;
    let outstanding = terms.face;
    const redemptions = [...drawn]
      .sort((a, b) => a.at - b.at)
      .map(({ at, share, price }, index): EarlyRedemption => {
        const on = terms.issued + 1 + Math.floor(at * Math.max(0, length - 2));
        const face = Math.max(1, Math.min(outstanding, Math.floor((terms.face * share) / 100)));
        outstanding -= face;
        return { on, face, price: ratio(BigInt(price), 1000n), at: index };
      });
    const on = terms.issued + (stated?.after ?? 0);
    return {
      ...terms,
      redemptions,
      ...(stated && {
        events: [
          {
            type: 'presentation',
            on,
            to: on + 400,
            as: stated.current ? 'current' : 'non-current',
            reason: 'Any',
          },
        ],
      }),
    };
  })
  .filter(bondCanBeScheduled);

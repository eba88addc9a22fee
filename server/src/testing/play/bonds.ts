import { PlainBond } from '../plain/plain-bond.ts';
import { monthsOn } from '../plain/plain-stand.ts';
import type { Draw } from './drawn.ts';
import type { Move, OpenMonth, Player } from './moves.ts';

function begin(draw: Draw, name: string, { opens }: OpenMonth, booksFrom: number): PlainBond {
  const older = draw(3) === 0;
  const issued = monthsOn(older ? booksFrom - 1 - draw(600) : Math.max(booksFrom, opens + draw(60) - 40), 0);
  const count = 4 + draw(10);
  return new PlainBond({
    name,
    issued,
    coupons: Array.from({ length: count }, (_, at) => monthsOn(issued, 6 * (at + 1))),
    // Faces and rates whose coupons are whole minor units.
    face: 1_000_000 * (1 + draw(500)),
    rate: 10 * draw(100),
    price: draw(3) === 0 ? 10_000 : 8_500 + draw(3_000),
    method: draw(2) === 0 ? 'straight-line' : 'effective',
  });
}

/** Part of a bond at face, or all of any, redeemed in the open month or just before it. */
function redeem(draw: Draw, bond: PlainBond, { opens, ends }: OpenMonth): Move<PlainBond> | undefined {
  const { issued, coupons, face, price, redeemed } = bond.terms;
  const on = opens - 31 + draw(ends - opens + 31);
  if (redeemed || on <= issued || on >= (coupons.at(-1) as number)) return undefined;
  const part = price === 10_000 && draw(2) === 0 ? (face * (1 + draw(9))) / 10 : face;
  return { does: 'put', to: bond.with({ redeemed: { on, face: part, price: 9_500 + draw(1000) } }) };
}

/** Bonds at a discount, at face or at a premium: redeemed, moved, sold at another price. */
export const bonds: Player<PlainBond> = {
  begin,
  move(draw, bond, month) {
    const { issued, coupons, redeemed, price } = bond.terms;
    switch (draw(4)) {
      case 0:
        return redeem(draw, bond, month);
      case 1: {
        if (redeemed) return { does: 'put', to: new PlainBond({ ...withoutRedemption(bond) }) };
        const by = draw(5) - 2;
        const moved = coupons.map((coupon) => monthsOn(coupon, by));
        return { does: 'put', to: bond.with({ issued: monthsOn(issued, by), coupons: moved }) };
      }
      case 2:
        if (redeemed || price === 10_000) return undefined;
        return { does: 'put', to: bond.with({ price: 8_500 + draw(3_000) }) };
      default:
        return undefined;
    }
  },
};

function withoutRedemption({ terms }: PlainBond): PlainBond['terms'] {
  const { redeemed: _gone, ...kept } = terms;
  return kept;
}

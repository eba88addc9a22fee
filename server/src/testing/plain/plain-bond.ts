import {
  halfUp,
  money,
  nothing,
  percent,
  textOf,
  type PlainInstrument,
  type PlainStand,
} from './plain-stand.ts';

/** A bond's terms and its redemption. Minor units, days since 1970. */
export interface PlainBondTerms {
  readonly name: string;
  readonly face: number;
  readonly issued: number;
  /** Coupon dates, half a year apart; the last is the maturity. */
  readonly coupons: readonly number[];
  /** Hundredths of a percent a year. */
  readonly rate: number;
  /** Hundredths of a percent of face. */
  readonly price: number;
  readonly method: 'straight-line' | 'effective';
  readonly redeemed?: { readonly on: number; readonly face: number; readonly price: number };
}

/** A bond with a coupon every half-year by 30/360, sold on its coupon date. */
export class PlainBond implements PlainInstrument {
  constructor(readonly terms: PlainBondTerms) {}

  with(more: Partial<PlainBondTerms>): PlainBond {
    return new PlainBond({ ...this.terms, ...more });
  }

  document(): object {
    const { name, face, issued, coupons, rate, price, method, redeemed } = this.terms;
    return {
      document: 'coffer.instrument/1',
      kind: 'bond',
      name,
      currency: 'EUR',
      face: money(face),
      coupon: { annual: percent(rate), every: 'half-year', dayCount: '30/360' },
      issued: textOf(issued),
      matures: textOf(coupons.at(-1) as number),
      price: money(price),
      amortization: { method },
      ...(redeemed && {
        redemptions: [{ on: textOf(redeemed.on), face: money(redeemed.face), price: money(redeemed.price) }],
      }),
    };
  }

  /**
   * The bond at the end of a day. Equal amortization each period, the last taking the rest; or by the effective
   * interest method (ASC 835-30-35-2), the rate found from the price. Inside a period coupon and amortization by its
   * days, on the face that is left; what is redeemed is paid with the coupon accrued on it.
   */
  standsOn(day: number): PlainStand {
    const { face, issued, coupons, rate, price } = this.terms;
    if (day < issued) return nothing;
    const redeemed = this.terms.redeemed && this.terms.redeemed.on <= day ? this.terms.redeemed : undefined;
    const yearly = this.yearly();
    let left = face;
    let discount = face - halfUp(face * price, 10_000);
    let cash = face - discount;
    let [expense, loss] = [0, 0];
    for (const [at, to] of coupons.entries()) {
      const from = at === 0 ? issued : (coupons[at - 1] as number);
      const days = (until: number): number => days360(from, until);
      const amortized = this.amortizedIn(at, left, discount, yearly);
      const partly = (until: number): number => rounded((amortized * days(until)) / 180);
      if (redeemed && redeemed.on > from && redeemed.on <= to && redeemed.on <= day && left === face) {
        const passed = redeemed.on === to ? amortized : partly(redeemed.on);
        const all = redeemed.face === face;
        const coupon = redeemed.on === to ? 0 : halfUp(redeemed.face * rate * days(redeemed.on), 3_600_000);
        const price = halfUp(redeemed.face * redeemed.price, 10_000);
        if (redeemed.on === to) {
          const whole = halfUp(face * rate, 20_000);
          cash -= whole;
          expense += whole;
        }
        left -= redeemed.face;
        cash -= coupon + price;
        expense += coupon + (all ? passed : 0);
        loss = price - redeemed.face + (all ? discount - passed : 0);
        if (all) return { ...nothing, cash, expense, loss };
        if (redeemed.on === to) continue;
      }
      if (to > day) {
        const accrued = halfUp(left * rate * days(day), 3_600_000);
        const passed = partly(day);
        return {
          ...nothing,
          outstanding: left,
          accrued,
          discount: discount - passed,
          cash,
          expense: expense + accrued + passed,
          loss,
        };
      }
      const coupon = halfUp(left * rate, 20_000);
      cash -= coupon;
      expense += coupon + amortized;
      discount -= amortized;
    }
    return { ...nothing, cash: cash - left, expense, loss };
  }

  private amortizedIn(at: number, face: number, discount: number, yearly: number): number {
    const { coupons, rate, price, method } = this.terms;
    if (price === 10_000) return 0;
    if (at === coupons.length - 1) return discount;
    if (method === 'straight-line') {
      const whole = this.terms.face - halfUp(this.terms.face * price, 10_000);
      return rounded(whole / coupons.length);
    }
    return rounded(((face - discount) * yearly) / 2) - halfUp(face * rate, 20_000);
  }

  /** The yearly rate, compounded half-yearly, at which the payments are worth the price: by halving the interval. */
  private yearly(): number {
    const { face, coupons, rate, price } = this.terms;
    const coupon = halfUp(face * rate, 20_000);
    const received = halfUp(face * price, 10_000);
    const worth = (yearly: number): number =>
      coupons.reduce(
        (sum, _, at) =>
          sum + (coupon + (at === coupons.length - 1 ? face : 0)) / (1 + yearly / 2) ** (at + 1),
        0,
      );
    let [low, high] = [-1, 1];
    for (let step = 0; step < 100; step += 1) {
      const middle = (low + high) / 2;
      if (worth(middle) > received) low = middle;
      else high = middle;
    }
    return low;
  }
}

const rounded = (amount: number): number => Math.sign(amount) * Math.round(Math.abs(amount));

/** Days by 30/360, bond basis (ISDA 2006 section 4.16(f)). */
function days360(from: number, to: number): number {
  const [begins, ends] = [new Date(from * 86_400_000), new Date(to * 86_400_000)];
  const first = Math.min(30, begins.getUTCDate());
  const last = ends.getUTCDate() === 31 && first === 30 ? 30 : ends.getUTCDate();
  return (
    360 * (ends.getUTCFullYear() - begins.getUTCFullYear()) +
    30 * (ends.getUTCMonth() - begins.getUTCMonth()) +
    last -
    first
  );
}

import { PlainPurse } from './plain-purse.ts';
import {
  money,
  nothing,
  paidEvents,
  percent,
  textOf,
  type PlainAmount,
  type PlainInstrument,
  type PlainPayment,
  type PlainStand,
} from './plain-stand.ts';

/** A credit line's terms and what happened to it. Minor units, days since 1970. */
export interface PlainLineTerms {
  readonly name: string;
  readonly limit: number;
  readonly start: number;
  readonly bills: readonly number[];
  /** Hundredths of a percent a year. */
  readonly rate: number;
  readonly unusedFee: number;
  /** Drawn, or repaid where negative. */
  readonly moves: readonly PlainAmount[];
  readonly paid: readonly PlainPayment[];
}

/** A credit line billed once a month: interest and the fee on what is not drawn, by actual days over 365. */
export class PlainLine implements PlainInstrument {
  constructor(readonly terms: PlainLineTerms) {}

  with(more: Partial<PlainLineTerms>): PlainLine {
    return new PlainLine({ ...this.terms, ...more });
  }

  document(): object {
    const { name, limit, start, bills, rate, unusedFee, moves, paid } = this.terms;
    return {
      document: 'coffer.instrument/1',
      kind: 'credit-line',
      name,
      currency: 'EUR',
      limit: money(limit),
      start: textOf(start),
      firstBill: textOf(bills[0] as number),
      matures: textOf(bills.at(-1) as number),
      rate: { annual: percent(rate), dayCount: 'ACT/365F' },
      ...(unusedFee > 0 && { unusedFee: percent(unusedFee) }),
      events: [
        ...moves.map(({ on, amount }) => ({
          type: amount > 0 ? 'draw' : 'repayment',
          on: textOf(on),
          amount: money(Math.abs(amount)),
        })),
        ...paidEvents(paid),
      ],
    };
  }

  /**
   * Follows the line day by day: a bill charges interest and fee since the one before, each rounded; it asks for what
   * earlier bills left unpaid too; what is paid beyond it is principal.
   */
  standsOn(day: number): PlainStand {
    const { start, bills, rate, unusedFee, limit, moves, paid } = this.terms;
    if (day < start) return nothing;
    const purse = new PlainPurse();
    const move = (at: number): void => {
      for (const { on, amount } of moves) {
        if (on !== at) continue;
        if (amount > 0) purse.draw(amount);
        else purse.repayAll(-amount);
      }
    };
    move(start);
    for (let at = start + 1; at <= day; at += 1) {
      purse.day(rate, { limit, fee: unusedFee });
      if (bills.includes(at)) {
        purse.charge();
        const recorded = paid.filter(({ due }) => due === at);
        const onDay = recorded.reduce((sum, { on, amount }) => sum + (on === at ? amount : 0), 0);
        const asked = purse.unpaid;
        if (recorded.length === 0) purse.pay(Math.max(0, asked - purse.overpaid));
        else purse.pay(onDay);
        purse.useOverpaid(Math.min(asked, purse.unpaid));
      }
      for (const { due, on, amount } of paid) {
        if (on !== at || due === at || amount === 0) continue;
        if (amount > purse.balance + purse.unpaid) purse.charge();
        purse.pay(amount);
      }
      move(at);
    }
    return purse.stands();
  }
}

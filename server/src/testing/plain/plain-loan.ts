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

/** What is agreed from a day on. */
interface Agreed {
  /** Hundredths of a percent a year. */
  readonly rate: number;
  readonly payment: number;
}

/** A loan's terms and what happened to it. Minor units, days since 1970. */
export interface PlainLoanTerms extends Agreed {
  readonly name: string;
  readonly amount: number;
  readonly start: number;
  readonly dues: readonly number[];
  readonly paid: readonly PlainPayment[];
  readonly extras: readonly PlainAmount[];
  readonly settledOn?: number;
  /** Agreed anew on a due date: from then on these dues in place of the later ones. */
  readonly renewal?: Agreed & { readonly on: number; readonly dues: readonly number[] };
}

/** When a due's row falls, and what was paid on that day. */
interface PlainRow {
  readonly due: number;
  readonly on: number;
  /** `undefined` where nothing is recorded: it is paid as agreed. */
  readonly paid: number | undefined;
  readonly paidBefore: number;
}

/** A loan at interest on actual days over 365, with one level payment a month. */
export class PlainLoan implements PlainInstrument {
  constructor(readonly terms: PlainLoanTerms) {}

  with(more: Partial<PlainLoanTerms>): PlainLoan {
    return new PlainLoan({ ...this.terms, ...more });
  }

  /** The due dates as they are agreed in the end. */
  get dues(): readonly number[] {
    const { dues, renewal } = this.terms;
    return renewal ? [...dues.filter((due) => due <= renewal.on), ...renewal.dues] : dues;
  }

  document(): object {
    const { name, amount, start, rate, payment, dues, paid, extras, settledOn, renewal } = this.terms;
    return {
      document: 'coffer.instrument/1',
      kind: 'loan',
      name,
      currency: 'EUR',
      amount: money(amount),
      start: textOf(start),
      rate: { annual: percent(rate), dayCount: 'ACT/365F' },
      payments: {
        every: 'month',
        first: textOf(dues[0] as number),
        phases: [{ type: 'level', count: dues.length, payment: money(payment) }],
      },
      events: [
        ...paidEvents(paid),
        ...extras.map((extra) => ({
          type: 'extra-principal',
          on: textOf(extra.on),
          amount: money(extra.amount),
        })),
        ...(settledOn === undefined ? [] : [{ type: 'settled', on: textOf(settledOn) }]),
        ...(renewal
          ? [
              {
                type: 'renewal',
                on: textOf(renewal.on),
                annual: percent(renewal.rate),
                count: renewal.dues.length,
                payment: money(renewal.payment),
              },
            ]
          : []),
      ],
    };
  }

  /**
   * Follows the loan day by day, by the rules of common practice and nothing of the application. Interest of each day
   * is on the balance it begins with, rounded when it is charged: with a payment on or before its due date (which
   * falls on the day of its last part), and with what is paid beyond all that is owed or after the last due date.
   * Money goes to interest that is due, then to principal, what is for older dues first; the last payment is all that is owed; what is more stands
   * apart. A due paid whole on or before the day of the payment before it asks for nothing on its day. What nothing
   * is recorded for is paid as agreed; what is paid after the day was not paid on it, and what is agreed after it does
   * not count.
   */
  standsOn(day: number): PlainStand {
    const { terms } = this;
    if (day < terms.start) return nothing;
    const rows = this.rowsKnownOn(day);
    const lastRow = rows.at(-1)?.on ?? terms.start;
    const purse = new PlainPurse();
    purse.draw(terms.amount);
    for (let at = terms.start + 1; at <= day; at += 1) {
      purse.day(this.agreedOn(at - 1).rate);
      if (terms.settledOn !== undefined && at > terms.settledOn) continue;
      for (const { due, on, amount } of terms.paid) {
        const row = rows.find((candidate) => candidate.due === due);
        if (on !== at || row?.on === at || amount === 0) continue;
        const early = at < due;
        if (early || amount > purse.balance + purse.unpaid || at > lastRow) purse.charge();
        purse.pay(amount);
      }
      for (const row of rows) if (row.on === at) this.pay(purse, row, row === rows.at(-1));
      for (const { on, amount } of terms.extras) {
        if (on !== at) continue;
        if (at > lastRow) {
          purse.charge();
          purse.pay(Math.min(amount, purse.balance + purse.unpaid));
        } else purse.repay(amount);
      }
      if (terms.settledOn !== at) continue;
      purse.charge();
      purse.pay(purse.balance + purse.unpaid);
    }
    return purse.stands();
  }

  private pay(purse: PlainPurse, { due, paid, paidBefore }: PlainRow, last: boolean): void {
    const { payment } = this.agreedOn(due - 1);
    if (purse.owesNothing) {
      if (paid) purse.pay(paid);
      return;
    }
    const paidAhead = paid === 0 && paidBefore >= payment;
    if (paidAhead && !last) return;
    purse.charge();
    const owed = purse.balance + purse.unpaid;
    purse.pay(paid ?? (last ? owed : Math.min(payment, owed)));
  }

  private agreedOn(day: number): Agreed {
    const { renewal } = this.terms;
    return renewal && day >= renewal.on ? renewal : this.terms;
  }

  private rowsKnownOn(day: number): PlainRow[] {
    const { terms } = this;
    const dues = terms.renewal && terms.renewal.on > day ? terms.dues : this.dues;
    let last = -Infinity;
    return dues.map((due) => {
      const recorded = terms.paid.filter((payment) => payment.due === due);
      const known = recorded.filter(({ on }) => on <= day);
      const before = last;
      const inTime = known.filter(({ on }) => on <= due && on > before).map(({ on }) => on);
      const date = inTime.length > 0 ? Math.max(...inTime) : due;
      last = date;
      const sum = (parts: readonly PlainPayment[]): number =>
        parts.reduce((total, { amount }) => total + amount, 0);
      return {
        due,
        on: date,
        paid: recorded.length === 0 ? undefined : sum(known.filter((part) => part.on === date)),
        paidBefore: known.some((part) => part.on > due) ? 0 : sum(known.filter((part) => part.on < date)),
      };
    });
  }
}

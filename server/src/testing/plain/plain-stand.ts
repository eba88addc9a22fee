/** Where an instrument stands at the end of a day, and what came to pass until then. Minor units. */
export interface PlainStand {
  readonly outstanding: number;
  /** Interest accrued and not yet charged. */
  readonly accrued: number;
  /** Charged and not paid. */
  readonly unpaid: number;
  /** Fee on what is not drawn, accrued and not yet charged. */
  readonly fee: number;
  readonly overpaid: number;
  /** Discount not yet amortized. */
  readonly discount: number;
  /** Received less paid. */
  readonly cash: number;
  readonly expense: number;
  /** On redemption; a loss is positive. */
  readonly loss: number;
}

/** An instrument as the model of the books knows it: nothing of it comes from the application. */
export interface PlainInstrument {
  /** The document that the application is given of it. */
  document(): object;
  /** @param day days since 1970 */
  standsOn(day: number): PlainStand;
}

/** A payment as it left the bank. */
export interface PlainPayment {
  readonly due: number;
  readonly on: number;
  readonly amount: number;
}

/** Money on a day. */
export interface PlainAmount {
  readonly on: number;
  readonly amount: number;
}

export const nothing: PlainStand = {
  outstanding: 0,
  accrued: 0,
  unpaid: 0,
  fee: 0,
  overpaid: 0,
  discount: 0,
  cash: 0,
  expense: 0,
  loss: 0,
};

/** Rounded to the minor unit, half away from zero; numerator and denominator are whole and not negative. */
export const halfUp = (numerator: number, denominator: number): number =>
  Math.floor((2 * numerator + denominator) / (2 * denominator));

export const dayOf = (text: string): number => Date.parse(`${text}T00:00:00Z`) / 86_400_000;
export const textOf = (day: number): string => new Date(day * 86_400_000).toISOString().slice(0, 10);
export const money = (minor: number): string => (minor / 100).toFixed(2);
export const percent = (hundredths: number): string => `${(hundredths / 100).toFixed(2)}%`;

/** The same day of the month some months on, the 28th at most. */
export function monthsOn(day: number, months: number): number {
  const on = new Date(day * 86_400_000);
  const ofMonth = Math.min(28, on.getUTCDate());
  return Date.UTC(on.getUTCFullYear(), on.getUTCMonth() + months, ofMonth) / 86_400_000;
}

export const paidEvents = (paid: readonly PlainPayment[]): object[] =>
  paid.map(({ due, on, amount }) => ({
    type: 'paid',
    due: textOf(due),
    on: textOf(on),
    amount: money(amount),
  }));

/** A loan as the model of the books knows it: interest on actual days over 365, one payment a month. */
export interface PlainLoan {
  readonly name: string;
  /** Minor units. */
  readonly amount: number;
  /** Hundredths of a percent a year. */
  readonly rate: number;
  /** Days since 1970. */
  readonly start: number;
  readonly dues: readonly number[];
  readonly payment: number;
  readonly paid: readonly PlainPayment[];
}

/** A payment as it left the bank, on its due date or later. */
export interface PlainPayment {
  readonly due: number;
  readonly on: number;
  readonly amount: number;
}

/** Where a loan stands at the end of a day, and what came to pass until then. Minor units. */
export interface PlainStand {
  readonly outstanding: number;
  readonly accrued: number;
  readonly unpaid: number;
  readonly overpaid: number;
  /** Received less paid. */
  readonly cash: number;
  readonly expense: number;
}

const wholeYear = 365 * 10_000;
const half = (numerator: number): number => Math.floor((2 * numerator + wholeYear) / (2 * wholeYear));

/**
 * Follows a loan day by day, by the rules of common practice and nothing of the application: interest of each day on
 * the balance it begins with, rounded when it is charged; money goes to interest that is due, then to principal; the
 * last payment is all that is owed; a late payment that is more than everything, or comes after the last due date, pays
 * the interest to its day as well;
 * what is more than that stands apart. What is not recorded by the day as paid late or short is paid as agreed; what is
 * recorded as paid after the day was not paid on it.
 */
export function standsOn(loan: PlainLoan, day: number): PlainStand {
  let [balance, unpaid, accrued, overpaid, cash, charged] = [0, 0, 0, 0, 0, 0];
  if (day < loan.start) return { outstanding: 0, accrued: 0, unpaid: 0, overpaid: 0, cash: 0, expense: 0 };
  balance = cash = loan.amount;
  const lastDue = loan.dues.at(-1) ?? loan.start;
  const pay = (amount: number): void => {
    cash -= amount;
    const interest = Math.min(amount, unpaid);
    const principal = Math.min(amount - interest, balance);
    unpaid -= interest;
    balance -= principal;
    overpaid += amount - interest - principal;
  };
  const charge = (): void => {
    unpaid += half(accrued);
    charged += half(accrued);
    accrued = 0;
  };
  for (let at = loan.start + 1; at <= day; at += 1) {
    accrued += balance * loan.rate;
    for (const { due, on, amount } of loan.paid) {
      if (on !== at || due === at || amount === 0) continue;
      if (amount > balance + unpaid || at > lastDue) charge();
      pay(amount);
    }
    const number = loan.dues.indexOf(at);
    if (number < 0) continue;
    const recorded = loan.paid.filter(({ due }) => due === at);
    const onDay = recorded.reduce((sum, { on, amount }) => sum + (on === at ? amount : 0), 0);
    if (balance + unpaid + accrued > 0) {
      charge();
      const owed = balance + unpaid;
      const agreed = number === loan.dues.length - 1 ? owed : Math.min(loan.payment, owed);
      pay(recorded.length > 0 ? onDay : agreed);
    } else if (onDay > 0) pay(onDay);
  }
  return {
    outstanding: balance,
    accrued: half(accrued),
    unpaid,
    overpaid,
    cash,
    expense: charged + half(accrued),
  };
}

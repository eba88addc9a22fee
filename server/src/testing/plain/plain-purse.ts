import { halfUp, type PlainStand } from './plain-stand.ts';

/** Interest by actual days over 365, rates in hundredths of a percent. */
const wholeYear = 365 * 10_000;

/** What is owed under an agreement, day by day. Minor units, accruals in parts of them. */
export class PlainPurse {
  balance = 0;
  unpaid = 0;
  overpaid = 0;
  private cash = 0;
  private charged = 0;
  private accrued = 0;
  private feeAccrued = 0;

  get owesNothing(): boolean {
    return this.balance + this.unpaid + this.accrued + this.feeAccrued === 0;
  }

  /** A day passes. */
  day(rate: number, unusedOf?: { readonly limit: number; readonly fee: number }): void {
    this.accrued += this.balance * rate;
    if (unusedOf) this.feeAccrued += (unusedOf.limit - this.balance) * unusedOf.fee;
  }

  draw(amount: number): void {
    this.balance += amount;
    this.cash += amount;
  }

  /** What has accrued becomes due, rounded. */
  charge(): void {
    for (const part of [this.accrued, this.feeAccrued]) {
      this.unpaid += halfUp(part, wholeYear);
      this.charged += halfUp(part, wholeYear);
    }
    this.accrued = this.feeAccrued = 0;
  }

  /** Money goes to what is due, then to principal; what is more stands apart. */
  pay(amount: number): void {
    this.cash -= amount;
    this.use(amount);
  }

  /** What stands apart settles what falls due. */
  useOverpaid(asked: number): void {
    const used = Math.min(this.overpaid, Math.max(0, asked));
    this.overpaid -= used;
    this.use(used);
  }

  /** Principal before it falls due: no more than there is. */
  repay(amount: number): void {
    const part = Math.min(amount, this.balance);
    this.balance -= part;
    this.cash -= part;
  }

  /** Principal that is paid whatever is owed: what is beyond it stands apart. */
  repayAll(amount: number): void {
    const before = this.balance;
    this.repay(amount);
    const over = amount - (before - this.balance);
    this.overpaid += over;
    this.cash -= over;
  }

  private use(amount: number): void {
    const toDue = Math.min(amount, this.unpaid);
    const principal = Math.min(amount - toDue, this.balance);
    this.unpaid -= toDue;
    this.balance -= principal;
    this.overpaid += amount - toDue - principal;
  }

  stands(): PlainStand {
    const [accrued, fee] = [halfUp(this.accrued, wholeYear), halfUp(this.feeAccrued, wholeYear)];
    return {
      outstanding: this.balance,
      accrued,
      unpaid: this.unpaid,
      fee,
      overpaid: this.overpaid,
      discount: 0,
      cash: this.cash,
      expense: this.charged + accrued + fee,
      loss: 0,
    };
  }
}

import { least } from '../../money/grains.ts';

/** What is owed as a payment comes in. Grains, none below zero. */
export interface Owed {
  /** Interest and fees that fell due before and were not paid. */
  readonly billed: bigint;
  /** Interest and fee that fall due with this payment. */
  readonly interest: bigint;
  readonly fee: bigint;
  /** Interest of the period that joins the balance unless it is paid. */
  readonly joining: bigint;
  /** Interest kept apart by agreement: due later, and paid before that only by what is beyond the payment asked. */
  readonly kept: bigint;
  readonly balance: bigint;
}

/** Where a payment goes. Grains; the parts sum to what was available. */
export interface Allocation {
  /** Interest and fee: of earlier payments and of this one. */
  readonly billed: bigint;
  /** Of the interest that would have joined the balance. */
  readonly joining: bigint;
  /** Of the interest kept apart. */
  readonly kept: bigint;
  /** Principal that was asked for, arrears included. */
  readonly principal: bigint;
  /** Principal beyond that. */
  readonly extra: bigint;
  /** What nobody is owed. */
  readonly over: bigint;
}

/**
 * Shares a payment out: interest and fee first, also where more is paid than is asked for, then principal, the part
 * asked for before the rest. A pure function. Source: common practice (interest first, as loan agreements and civil
 * codes have it); what is kept apart by agreement is not due yet, so the payment asked for never reaches it.
 *
 * @param askedPrincipal principal that the agreement asks for by now
 */
export function allocate(owed: Owed, askedPrincipal: bigint, available: bigint): Allocation {
  const due = owed.billed + owed.interest + owed.fee;
  const rest = available - due;
  // Most payments pay what is asked for and no more.
  if (rest >= 0n && rest <= askedPrincipal && rest <= owed.balance && owed.joining === 0n) {
    return { billed: due, joining: 0n, kept: 0n, principal: rest, extra: 0n, over: 0n };
  }
  let left = available;
  const take = (most: bigint): bigint => {
    const taken = least(left, most);
    left -= taken;
    return taken;
  };
  const billed = take(due);
  const joining = take(owed.joining);
  // What was not paid of it joins the balance with this payment, and may be repaid by what is over.
  const balance = owed.balance + owed.joining - joining;
  const principal = take(least(askedPrincipal, balance));
  const kept = take(owed.kept);
  const extra = take(balance - principal);
  return { billed, joining, kept, principal, extra, over: left };
}

import { atLeastZero } from '../../money/grains.ts';
import type { PaymentSetting } from '../schedule/loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { Stretch } from '../terms/stretch.ts';

/** What the agreement asks for with a payment. Grains. */
export interface Asked {
  /** Interest due, fee and scheduled principal. */
  readonly payment: bigint;
  /** Interest due with it. */
  readonly interest: bigint;
  /** Interest that joins the balance unless it is paid. */
  readonly joining: bigint;
  /** Interest that stays kept apart after it. */
  readonly kept: bigint;
}

/** What the payment of a row is worked out from. Grains. */
export interface AskedFrom {
  readonly terms: LoanTerms;
  readonly stretch: Stretch;
  /** Place in the stretch. */
  readonly at: number;
  readonly setting: PaymentSetting;
  /** Interest charged with the row. */
  readonly interest: bigint;
  readonly fee: bigint;
  /** Interest kept apart by agreement so far. */
  readonly kept: bigint;
  /** Paid for this due before: its interest and its principal. */
  readonly ahead: { readonly interest: bigint; readonly principal: bigint };
  readonly grains: bigint;
}

/** What the agreement asks for in a row, less what was paid for it ahead. A pure function of its terms. */
export function askedPayment(from: AskedFrom): Asked {
  const { stretch, at, setting, interest, kept } = from;
  const { phase } = stretch;
  if (phase.type !== 'no-payment') {
    // Written out: spreading costs more than the rest.
    const { payment, interest: due, joining } = byAgreement(from);
    return { payment, interest: due, joining, kept };
  }
  const last = at >= phase.count - 1;
  if (setting.kind === 'none') {
    if (phase.interest === 'added-each-period') return { payment: 0n, interest: 0n, joining: interest, kept };
    const together = kept + interest;
    if (!last) return { payment: 0n, interest: 0n, joining: 0n, kept: together };
    return phase.then === 'pay'
      ? { payment: together, interest: together, joining: 0n, kept: 0n }
      : { payment: 0n, interest: 0n, joining: together, kept: 0n };
  }
  // Payments were agreed after all; what was kept apart before is still added or paid with the last of them.
  const asked = byAgreement(from);
  if (!last) return { ...asked, kept };
  if (phase.then !== 'pay') return { ...asked, joining: asked.joining + kept, kept: 0n };
  return { ...asked, payment: asked.payment + kept, interest: asked.interest + kept, kept: 0n };
}

function byAgreement({
  terms,
  stretch,
  at,
  setting,
  interest,
  fee,
  ahead,
  grains,
}: AskedFrom): Omit<Asked, 'kept'> {
  const { phase } = stretch;
  if (setting.kind === 'interest') return { payment: interest + fee, interest, joining: 0n };
  if (setting.kind === 'principal') {
    const principal = atLeastZero(setting.amount - ahead.principal);
    return { payment: principal + interest, interest, joining: 0n };
  }
  const listed = setting.kind === 'listed' && phase.type === 'custom';
  const agreed = listed ? BigInt(phase.payments[at]?.amount ?? 0) * grains : setting.amount;
  const paidAhead = ahead.interest + ahead.principal;
  const payment = atLeastZero(agreed - paidAhead);
  // A payment agreed below the interest: what it does not cover joins the balance, unless interest is simple.
  if (payment >= interest || paidAhead > 0n || terms.compounding === 'simple') {
    return { payment, interest, joining: 0n };
  }
  return { payment, interest: payment, joining: interest - payment };
}

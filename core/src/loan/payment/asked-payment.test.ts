import { describe, expect, it } from 'vitest';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { PaymentSetting } from '../schedule/loan-schedule.ts';
import type { NoPaymentPhase, Phase } from '../terms/loan-terms.ts';
import { level, thousand } from '../../testing/plain-loan.ts';
import { askedPayment, type Asked, type AskedFrom } from './asked-payment.ts';

/** What is asked for in a place of the only phase of a loan, by a setting of its kind and amount. */
const asked = (
  phase: Phase,
  kind: PaymentSetting['kind'],
  more: Partial<AskedFrom> & { readonly amount?: bigint } = {},
): Asked => {
  const { terms, stretches, settings } = buildLoanSchedule(thousand([phase]));
  const [stretch, setting] = [stretches[0], settings[0]];
  if (!stretch || !setting) throw new Error('A loan has a stretch and a setting.');
  const none = { interest: 0n, principal: 0n };
  const from = { terms, stretch, at: 0, interest: 10n, fee: 0n, kept: 0n, ahead: none, grains: 1n, ...more };
  return askedPayment({ ...from, setting: { ...setting, kind, amount: more.amount ?? 100n } });
};
const waiting = (interest: NoPaymentPhase['interest'], then: NoPaymentPhase['then']): Phase => ({
  type: 'no-payment',
  count: 3,
  interest,
  then,
});

// Rules of the agreement, as loan agreements have them (common practice).
describe('the payment that an agreement asks for', () => {
  it('is the interest and the fee where only interest is paid', () => {
    const all = { payment: 13n, interest: 10n, joining: 0n, kept: 0n };
    expect(asked({ type: 'interest-only', count: 3 }, 'interest', { fee: 3n })).toEqual(all);
  });

  it('is interest besides equal parts of the principal, less the principal that was paid ahead', () => {
    const equal: Phase = { type: 'equal-principal', count: 3 };
    const payment = (principal: bigint): bigint =>
      asked(equal, 'principal', { ahead: { interest: 0n, principal } }).payment;
    expect([0n, 30n, 100n, 101n].map(payment)).toEqual([110n, 80n, 10n, 10n]);
  });

  it('is the amount agreed, less all that was paid for it ahead, interest and principal', () => {
    const payment = (interest: bigint, principal: bigint): bigint =>
      asked(level(3), 'level', { ahead: { interest, principal } }).payment;
    expect([payment(0n, 0n), payment(4n, 30n), payment(10n, 90n), payment(10n, 200n)]).toEqual([
      100n,
      66n,
      0n,
      0n,
    ]);
  });

  it('has what it does not cover of the interest join the balance, unless interest is simple', () => {
    const below = (amount: bigint, more: Partial<AskedFrom> = {}): bigint[] => {
      const { payment, interest, joining } = asked(level(3), 'agreed', { amount, ...more });
      return [payment, interest, joining];
    };
    expect(below(10n)).toEqual([10n, 10n, 0n]);
    expect(below(9n)).toEqual([9n, 9n, 1n]);
    expect(below(0n)).toEqual([0n, 0n, 10n]);
    const { terms } = buildLoanSchedule(thousand([level(3)], { compounding: 'simple' }));
    expect(below(9n, { terms })).toEqual([9n, 10n, 0n]);
    // Paid ahead, the payment is small because it was made, not because it covers too little.
    expect(below(12n, { ahead: { interest: 3n, principal: 0n } })).toEqual([9n, 10n, 0n]);
    expect(below(12n, { ahead: { interest: 0n, principal: 3n } })).toEqual([9n, 10n, 0n]);
  });

  it('is what a list has for its place, in grains, and what another setting has where one was agreed after all', () => {
    const listed: Phase = {
      type: 'custom',
      payments: [20, 30].map((amount, at) => ({ on: thousand([]).first + 31 * at, amount })),
    };
    expect(asked(listed, 'listed', { at: 1, grains: 1000n }).payment).toBe(30_000n);
    expect(asked(listed, 'listed', { at: 2 }).payment).toBe(0n);
    expect(asked(listed, 'changed', { at: 1 }).payment).toBe(100n);
    // A setting by a list says nothing of another kind of phase.
    expect(asked(level(3), 'listed').payment).toBe(100n);
  });
});

describe('while no payment is agreed', () => {
  it('interest joins the balance each period, or is kept apart until the last, and then added or paid', () => {
    const each = (interest: NoPaymentPhase['interest'], then: NoPaymentPhase['then'], at: number): Asked =>
      asked(waiting(interest, then), 'none', { at, kept: 20n });
    const nothing = { payment: 0n, interest: 0n, joining: 0n, kept: 0n };
    expect(each('added-each-period', 'pay', 0)).toEqual({ ...nothing, joining: 10n, kept: 20n });
    expect(each('added-each-period', 'pay', 2)).toEqual({ ...nothing, joining: 10n, kept: 20n });
    for (const then of ['pay', 'add-to-balance'] as const)
      expect(each('kept-apart', then, 1)).toEqual({ ...nothing, kept: 30n });
    expect(each('kept-apart', 'pay', 2)).toEqual({ ...nothing, payment: 30n, interest: 30n });
    expect(each('kept-apart', 'add-to-balance', 2)).toEqual({ ...nothing, joining: 30n });
  });

  it('and a payment is agreed after all, what was kept apart is still added or paid with the last', () => {
    const each = (then: NoPaymentPhase['then'], at: number, amount = 100n): Asked =>
      asked(waiting('kept-apart', then), 'changed', { at, kept: 20n, amount });
    for (const then of ['pay', 'add-to-balance'] as const)
      expect(each(then, 1)).toEqual({ payment: 100n, interest: 10n, joining: 0n, kept: 20n });
    expect(each('pay', 2)).toEqual({ payment: 120n, interest: 30n, joining: 0n, kept: 0n });
    expect(each('add-to-balance', 2)).toEqual({ payment: 100n, interest: 10n, joining: 20n, kept: 0n });
    expect(each('add-to-balance', 2, 4n)).toEqual({ payment: 4n, interest: 4n, joining: 26n, kept: 0n });
  });
});

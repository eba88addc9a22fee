import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { allocate, type Allocation, type Owed } from './allocate.ts';

const few = fc.bigInt({ min: 0n, max: 6n });
const anyOwed: fc.Arbitrary<Owed> = fc.record({
  billed: few,
  interest: few,
  fee: few,
  joining: few,
  kept: few,
  balance: fc.bigInt({ min: 0n, max: 20n }),
});

/** The rule said coin by coin: each coin goes to the first who is still owed one. */
function coinByCoin(owed: Owed, asked: bigint, available: bigint): Allocation {
  const to = { billed: 0n, joining: 0n, kept: 0n, principal: 0n, extra: 0n, over: 0n };
  for (let coin = 0n; coin < available; coin += 1n) {
    // Interest that is not paid joins the balance, and may be repaid with it.
    const balance = owed.balance + owed.joining - to.joining - to.principal - to.extra;
    if (to.billed < owed.billed + owed.interest + owed.fee) to.billed += 1n;
    else if (to.joining < owed.joining) to.joining += 1n;
    else if (to.principal < asked && balance > 0n) to.principal += 1n;
    else if (to.kept < owed.kept) to.kept += 1n;
    else if (balance > 0n) to.extra += 1n;
    else to.over += 1n;
  }
  return to;
}

describe('where a payment goes', () => {
  // Common practice: interest and fees, then the principal asked for, then what is kept apart, then further principal.
  it('is to the first in order who is owed, coin by coin', () => {
    fc.assert(
      fc.property(
        anyOwed,
        fc.bigInt({ min: 0n, max: 12n }),
        fc.bigInt({ min: 0n, max: 60n }),
        (owed, asked, paid) => {
          expect(allocate(owed, asked, paid)).toEqual(coinByCoin(owed, asked, paid));
        },
      ),
      { numRuns: 500 },
    );
  });

  it('is interest that would join the balance before any principal', () => {
    const owed = { billed: 1n, interest: 2n, fee: 1n, joining: 3n, kept: 4n, balance: 10n };
    const none = { joining: 0n, kept: 0n, principal: 0n, extra: 0n, over: 0n };
    expect(allocate(owed, 5n, 4n)).toEqual({ billed: 4n, ...none });
    expect(allocate(owed, 5n, 6n)).toEqual({ billed: 4n, ...none, joining: 2n });
    expect(allocate(owed, 5n, 12n)).toEqual({ billed: 4n, ...none, joining: 3n, principal: 5n });
    expect(allocate(owed, 5n, 16n)).toEqual({ billed: 4n, ...none, joining: 3n, principal: 5n, kept: 4n });
    expect(allocate(owed, 5n, 22n)).toEqual({
      billed: 4n,
      joining: 3n,
      principal: 5n,
      kept: 4n,
      extra: 5n,
      over: 1n,
    });
  });
});

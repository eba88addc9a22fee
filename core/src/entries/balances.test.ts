import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { accountRoles, type AccountRole } from './account-role.ts';
import { difference } from './balances.ts';

describe('what is posted to get from some balances to others', () => {
  it('does not depend on the order in which they were summed', () => {
    const balances = fc
      .uniqueArray(fc.tuple(fc.constantFrom(...accountRoles), fc.integer({ min: -500, max: 500 })), {
        selector: ([role]) => role,
      })
      .chain((held) => fc.tuple(fc.constant(held), fc.shuffledSubarray(held, { minLength: held.length })));
    fc.assert(
      fc.property(balances, balances, ([from, fromElse], [to, toElse]) => {
        const posted = difference(new Map(from), new Map(to));
        expect(difference(new Map(fromElse), new Map(toElse))).toEqual(posted);
        // What is posted leads there.
        const ended = new Map<AccountRole, number>(from);
        for (const [role, amount] of posted) ended.set(role, (ended.get(role) ?? 0) + amount);
        for (const role of accountRoles)
          expect(ended.get(role) ?? 0).toBe(new Map<AccountRole, number>(to).get(role) ?? 0);
      }),
    );
  });
});

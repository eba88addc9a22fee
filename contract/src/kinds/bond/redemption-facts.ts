import { formatDay, type BondSchedule } from '@coffer/core';
import type { Fact } from '../../words/fact.ts';
import { showAmount } from '../../words/show.ts';

/** What each redemption before maturity gains or loses against the carrying amount. */
export function redemptionFacts({ rows, terms }: BondSchedule): Fact[] {
  return rows
    .filter(({ kind }) => kind === 'redemption')
    .map(({ due, gain }) => [
      `${gain < 0 ? 'Loss' : 'Gain'} on ${formatDay(due)}`,
      showAmount(Math.abs(gain), terms.digits),
    ]);
}

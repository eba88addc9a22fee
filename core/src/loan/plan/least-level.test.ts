import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { leastLevel } from './least-level.ts';

describe('the least level that clears', () => {
  const amount = fc.oneof(fc.nat(20), fc.nat(10 ** 6), fc.nat(10 ** 13));

  it('is found from any guess, in the fewer questions the nearer that is, and none below zero', () => {
    fc.assert(
      fc.property(amount, amount, (least, guess) => {
        const asked: number[] = [];
        const found = leastLevel((level) => {
          asked.push(level);
          return level >= least;
        }, guess);
        expect(found).toBe(least);
        // Out from the guess by steps that double, then in again by halves.
        const apart = Math.abs(least - guess) + 1;
        expect(asked.length).toBeLessThanOrEqual(2 * Math.ceil(Math.log2(apart)) + 3);
        expect(Math.min(...asked)).toBeGreaterThanOrEqual(0);
        expect(new Set(asked).size).toBe(asked.length);
      }),
      { numRuns: 3_000 },
    );
  });

  it('is nothing where nothing needs to be paid', () => {
    expect(leastLevel(() => true, 0)).toBe(0);
    expect(leastLevel(() => true, 750)).toBe(0);
  });
});

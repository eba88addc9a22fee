import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fallingRoot, type ValueAndSlope } from './falling-root.ts';
import { firstAbove } from './first-above.ts';
import { firstWhere } from './first-where.ts';

describe('the first number for which something holds', () => {
  it('is found in as many questions as halving takes, none of them about what is known', () => {
    fc.assert(
      fc.property(fc.integer({ min: -9, max: 9 }), fc.nat(5_000), fc.nat(), (low, length, share) => {
        const high = low + 1 + length;
        const first = low + 1 + (share % (length + 1));
        const asked: number[] = [];
        const found = firstWhere(low, high, (at) => {
          asked.push(at);
          return at >= first;
        });
        expect(found).toBe(first);
        for (const at of asked) expect(at > low && at < high).toBe(true);
        expect(asked.length).toBeLessThanOrEqual(Math.ceil(Math.log2(high - low)));
      }),
    );
  });

  it('is the last where there is nothing to ask about', () => {
    const never = (): boolean => expect.unreachable();
    expect(firstWhere(-1, 0, never)).toBe(0);
    expect(firstWhere(-1, -1, never)).toBe(-1);
  });
});

describe('the first of rising numbers above one', () => {
  it('is where those begin that are greater, of as many as are asked about', () => {
    const numbers = fc.array(fc.integer({ min: -20, max: 20 }), { maxLength: 40 });
    fc.assert(
      fc.property(numbers, fc.nat(40), fc.integer({ min: -22, max: 22 }), (all, most, value) => {
        const rising = Int32Array.from(all).sort();
        const count = Math.min(most, rising.length);
        const notAbove = [...rising.slice(0, count)].filter((each) => each <= value);
        expect(firstAbove(rising, count, value)).toBe(notAbove.length);
      }),
    );
  });
});

/** What amounts are worth, each at a time of its own, at a force of interest. */
const worth =
  (flows: readonly (readonly [amount: number, time: number])[]) =>
  (force: number): ValueAndSlope => {
    const discounted = flows.map(([amount, time]) => [amount * Math.exp(-force * time), time] as const);
    const value = discounted.reduce((sum, [each]) => sum + each, 0);
    return { value, slope: discounted.reduce((sum, [each, time]) => sum - each * time, 0) };
  };
const flow = fc.tuple(fc.double({ min: 1, max: 1e9, noNaN: true }), fc.integer({ min: 1, max: 60 }));

describe('where a falling function comes to a value', () => {
  it('is found to the last digits, in few steps, wherever it is looked for from', () => {
    const place = fc.double({ min: -4.9, max: 9.9, noNaN: true });
    fc.assert(
      fc.property(fc.array(flow, { minLength: 1, maxLength: 40 }), place, place, (flows, root, start) => {
        const at = worth(flows);
        const sought = at(root).value;
        fc.pre(sought > Number.MIN_VALUE * 1e20);
        let asked = 0;
        const counted = (force: number): ValueAndSlope => {
          asked += 1;
          return at(force);
        };
        const found = fallingRoot(counted, sought, { lowest: -5, highest: 10, start });
        expect(Math.abs((found?.root ?? NaN) - root)).toBeLessThan(1e-13);
        expect(Math.abs((found?.slope ?? NaN) / at(root).slope - 1)).toBeLessThan(1e-9);
        expect(asked).toBeLessThan(90);
      }),
      { numRuns: 2_000 },
    );
  });

  // A step from 0 to where e^−x is e^2 would be one to 1 − e^2, −6.4; from 6 to where e^x is e^8 one to 5 + e^2, 12.4.
  it('is looked for between the ends only', () => {
    const asked: number[] = [];
    const seen =
      (at: (place: number) => ValueAndSlope) =>
      (place: number): ValueAndSlope => {
        asked.push(place);
        return at(place);
      };
    const ends = { lowest: -5, highest: 10 };
    const falling = worth([[1, 1]]);
    expect(fallingRoot(seen(falling), Math.exp(2), { ...ends, start: 0 })?.root).toBeCloseTo(-2, 13);
    const steeper = (x: number): ValueAndSlope => ({ value: -Math.exp(x), slope: -Math.exp(x) });
    expect(fallingRoot(seen(steeper), -Math.exp(8), { ...ends, start: 6 })?.root).toBeCloseTo(8, 13);
    for (const place of asked) expect(place >= -5 && place <= 10).toBe(true);
  });

  // 9 − x² is 5 at 2, where it falls by 4.
  it('is a place and the slope there, of a root that is worked by hand', () => {
    const square = (x: number): ValueAndSlope => ({ value: 9 - x * x, slope: -2 * x });
    expect(fallingRoot(square, 5, { lowest: 0, highest: 10, start: 1 })).toEqual({ root: 2, slope: -4 });
  });

  it('is nowhere at the ends or beyond them, nor where there is no number', () => {
    const line = (x: number): ValueAndSlope => ({ value: -x, slope: -1 });
    const within = { lowest: 0, highest: 10, start: 5 };
    expect(fallingRoot(line, -9.5, within)?.root).toBe(9.5);
    for (const sought of [1, 0, -10, -11, NaN]) expect(fallingRoot(line, sought, within)).toBeUndefined();
  });
});

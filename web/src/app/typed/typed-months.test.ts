import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMonths, typedMonths } from './typed-months';

const months = (text: string): number[] | undefined => {
  const read = readMonths(text);
  return read && [...read].sort((a, b) => a - b);
};

describe('months that are typed', () => {
  it.each([
    ['may to sep', [5, 6, 7, 8, 9]],
    ['May – September', [5, 6, 7, 8, 9]],
    ['nov till feb', [1, 2, 11, 12]],
    ['mar, jun; sep and dec', [3, 6, 9, 12]],
    ['jan.-mar., oct', [1, 2, 3, 10]],
    ['august', [8]],
  ])('%s', (typed, expected) => {
    expect(months(typed)).toEqual(expected);
  });

  it.each(['', 'summer', 'junk', 'ma', 'may to', '5 to 9', 'may, , sep', 'q2'])(
    '“%s” names none',
    (typed) => {
      expect(readMonths(typed)).toBeUndefined();
    },
  );

  it('are read as they are written, whichever they are', () => {
    const any = fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { minLength: 1 });
    fc.assert(
      fc.property(any, (some) => {
        expect(months(typedMonths(new Set(some)))).toEqual([...some].sort((a, b) => a - b));
      }),
    );
  });
});

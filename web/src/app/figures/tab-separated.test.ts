import { describe, expect, it } from 'vitest';
import { asTabSeparated } from './tab-separated';

describe('copied rows', () => {
  it('are tab-separated, figures plain, so that they can be reckoned with', () => {
    const copied = asTabSeparated([
      ['Due', 'Interest', 'Extra'],
      ['15 Nov 2026', '1,104.18', '–'],
      ['a\tname', '−5.00', ''],
    ]);
    expect(copied).toBe('Due\tInterest\tExtra\n15 Nov 2026\t1104.18\t0\na name\t-5.00\t');
  });
});

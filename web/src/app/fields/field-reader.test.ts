import { describe, expect, it } from 'vitest';
import { FieldReader } from './field-reader';

const faultOf = (read: (reader: FieldReader) => unknown): string | undefined => {
  const reader = new FieldReader();
  read(reader);
  return reader.faults[0]?.message;
};

describe('what is typed wrong', () => {
  it('is told apart: below zero, too large, and not understood', () => {
    expect(faultOf((reader) => reader.amount('a', '-50,000'))).toMatch(/^-50,000 may not be negative/);
    expect(faultOf((reader) => reader.amount('a', '−1.2m'))).toMatch(/^−1\.2m may not be negative/);
    expect(faultOf((reader) => reader.rate('a', '-5%'))).toMatch(/^-5% may not be negative/);
    expect(faultOf((reader) => reader.amount('a', '1'.repeat(16)))).toMatch(/more than Coffer keeps exactly/);
    expect(faultOf((reader) => reader.amount('a', 'minus five'))).toMatch(/^“minus five” is not understood/);
    expect(faultOf((reader) => reader.amount('a', '9'.repeat(15)))).toBeUndefined();
  });
});

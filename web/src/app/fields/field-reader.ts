import { showDay, showDecimal, showRate } from '@coffer/contract';
import { formatDay } from '@coffer/core';
import type { Fault } from '@coffer/contract';
import { readDay } from '../typed/typed-day';
import { readNumber, readPercent } from '../typed/typed-number';

/** Digits before the point that an amount has at most, as in a document. */
const mostWhole = 15;

/** Reads typed fields one by one and notes what cannot be read, by the document's keys. */
export class FieldReader {
  readonly faults: Fault[] = [];
  /** Keys of fields that are needed and still empty. */
  readonly missing: string[] = [];

  /** Every fault by its field; what is needed and empty says that. */
  byKey(): Readonly<Record<string, string>> {
    const needed = this.missing.map((key) => [key, 'This is needed.'] as const);
    return Object.fromEntries([...needed, ...this.faults.map(({ key, message }) => [key, message] as const)]);
  }

  private read(
    key: string,
    typed: string,
    to: (text: string) => string | undefined,
    expected: string,
  ): string | undefined {
    if (typed.trim() === '') {
      this.missing.push(key);
      return undefined;
    }
    const read = to(typed);
    if (read !== undefined) return read;
    const positive = typed.trim().replace(/^[-−–]\s*/, '');
    const negative = positive !== typed.trim() && to(positive) !== undefined;
    this.fault(
      key,
      negative
        ? `${typed.trim()} may not be negative; type ${expected}.`
        : `“${typed.trim()}” is not understood; type ${expected}.`,
    );
    return undefined;
  }

  fault(key: string, message: string): void {
    this.faults.push({ key, message });
  }

  /** Words as they are typed. */
  text(key: string, typed: string): string | undefined {
    return this.read(key, typed, (text) => text.trim(), 'a few words');
  }

  amount(key: string, typed: string): string | undefined {
    const amount = this.read(
      key,
      typed,
      readNumber,
      `an amount such as ${showDecimal('640000.00')} or ${showDecimal('1.2')}m`,
    );
    const [whole = ''] = (amount ?? '').split('.');
    if (whole.length <= mostWhole) return amount;
    this.fault(
      key,
      `${typed.trim()} is more than Coffer keeps exactly: ${mostWhole} digits before the point.`,
    );
    return undefined;
  }

  rate(key: string, typed: string): string | undefined {
    const percent = this.read(key, typed, readPercent, `a percentage such as ${showRate('6.1')} or 6 1/8`);
    return percent === undefined ? undefined : `${percent}%`;
  }

  /** By how much an amount rises each year: a percentage with its sign, or an amount. */
  rise(key: string, typed: string): string | undefined {
    const to = (text: string): string | undefined => {
      if (!text.trim().endsWith('%')) return readNumber(text);
      const percent = readPercent(text);
      return percent === undefined ? undefined : `${percent}%`;
    };
    return this.read(key, typed, to, 'a percentage such as 3% or an amount such as 100');
  }

  /** A rate that may be below zero. */
  signedRate(key: string, typed: string): string | undefined {
    const negative = /^[-−]/.test(typed.trim());
    const rate = this.rate(key, negative ? typed.trim().slice(1) : typed);
    return negative && rate !== undefined ? `-${rate}` : rate;
  }

  /** A clean price in percent of face. */
  price(key: string, typed: string): string | undefined {
    const price = this.read(
      key,
      typed,
      readPercent,
      `a price in percent of face such as ${showRate('96.75')}`,
    );
    if (price === undefined || (Number(price) > 0 && Number(price) <= 1000)) return price;
    this.fault(key, `Found ${showRate(price)}; a price must be above 0 and at most 1000 percent of face.`);
    return undefined;
  }

  day(key: string, typed: string): string | undefined {
    const to = (text: string): string | undefined => {
      const day = readDay(text);
      return day === undefined ? undefined : formatDay(day);
    };
    return this.read(key, typed, to, `a date that exists, such as ${showDay('2026-06-15')}`);
  }

  /** Days one after another, separated by commas, semicolons or lines; in order, each once. */
  days(key: string, typed: string): string[] | undefined {
    const read = typed
      .split(/[,;\n]/)
      .filter((each) => each.trim() !== '')
      .map((each) => this.day(key, each));
    const known = read.filter((each) => each !== undefined);
    return known.length < read.length ? undefined : [...new Set(known)].sort();
  }

  count(key: string, typed: string): number | undefined {
    const count = this.read(
      key,
      typed,
      (text) => (/^\d{1,6}$/.test(text.trim()) ? text.trim() : undefined),
      'a whole number',
    );
    return count === undefined ? undefined : Number(count);
  }

  /** The same for a field that may stay empty. */
  optional<T>(typed: string, read: () => T | undefined): T | undefined {
    return typed.trim() === '' ? undefined : read();
  }

  /** The same for a field that may hold `?`, to have it solved. */
  solvable<T>(typed: string, read: () => T | undefined): T | '?' | undefined {
    return typed.trim() === '?' ? '?' : read();
  }
}

/** An object without the keys that are undefined. */
export function present(entries: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(entries).filter(([, value]) => value !== undefined));
}

import { buildSchedule, parseDay, type LoanTerms } from '@coffer/core';
import { describe, expect, it } from 'vitest';
import { KeptVersions } from './kept-versions.ts';

const day = (text: string): number => parseDay(text) as number;
const terms: LoanTerms = {
  kind: 'loan',
  currency: 'EUR',
  digits: 2,
  amount: 1_000_000,
  start: day('2026-01-15'),
  annualRate: { num: 6n, den: 100n },
  rateSteps: [],
  compounding: 'each-payment',
  dayCount: 'even-periods',
  every: 'month',
  first: day('2026-02-15'),
  due: 'end',
  keepMonthEnd: false,
  phases: [{ type: 'level', count: 10, amortizeOver: 10 }],
  atEnd: 'pay',
  rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
  events: [],
};

describe('what versions make', () => {
  it('is made once while there is room, and what was not asked for longest goes first', () => {
    const kept = new KeptVersions<{ schedule: ReturnType<typeof buildSchedule> }>(25);
    const made: string[] = [];
    const ask = (id: string, version = 1, document = ''): void => {
      kept.of({ id, version, document }, () => {
        made.push(`${id}${version}`);
        return { schedule: buildSchedule(terms) };
      });
    };
    // Ten rows each: two have room.
    for (const id of ['a', 'b', 'a', 'c', 'a', 'b']) ask(id);
    expect(made).toEqual(['a1', 'b1', 'c1', 'b1']);
    ask('a', 2);
    expect(made.at(-1)).toBe('a2');
    // Written, taken back with its transaction, and written otherwise: what the first made is worth nothing.
    ask('a', 2, 'other');
    ask('a', 2, 'other');
    expect(made.slice(-2)).toEqual(['a2', 'a2']);
    expect(made).toHaveLength(6);
  });

  it('is let go of an instrument that is changed again and again, and stays of all others', () => {
    const kept = new KeptVersions<{ schedule: ReturnType<typeof buildSchedule> }>(1_000_000);
    let made = 0;
    const ask = (id: string, version: number): void => {
      kept.of({ id, version, document: '' }, () => {
        made += 1;
        return { schedule: buildSchedule(terms) };
      });
    };
    ask('other', 1);
    // The version that a closed month came from is looked at beside the newest each time.
    for (let version = 1; version <= 50; version += 1) {
      ask('one', version);
      ask('one', 1);
    }
    expect(made).toBe(51);
    for (const version of [50, 49, 48, 1]) ask('one', version);
    ask('other', 1);
    expect(made).toBe(51);
    ask('one', 40);
    expect(made).toBe(52);
  });
});

import { readdirSync, readFileSync } from 'node:fs';
import { balancesOf, calendarDay, entries, position, proofsOf } from '@coffer/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readInstrument } from '@coffer/contract';

type Json = string | number | boolean | null | Json[] | { [key: string]: Json };

const folder = new URL('../../demo/instruments/', import.meta.url);
const documents = readdirSync(folder).map(
  (file) => JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as Json,
);

/** Where something stands in a document. */
function placesOf(value: Json, at: readonly string[] = []): string[][] {
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) => [[...at, key], ...placesOf(inner, [...at, key])]);
}

function valueAt(document: Json, place: readonly string[]): Json {
  return place.reduce((value, key) => (value as Record<string, Json>)[key] as Json, document);
}

/** The document with something put in a place, or taken out of it. */
function altered(document: Json, place: readonly string[], value: Json | undefined): Json {
  const copy = structuredClone(document);
  const holder = valueAt(copy, place.slice(0, -1));
  const key = place.at(-1) as string;
  if (value !== undefined) (holder as Record<string, Json>)[key] = value;
  else if (Array.isArray(holder)) holder.splice(Number(key), 1);
  else Reflect.deleteProperty(holder as object, key);
  return copy;
}

/** Everything that stands in any document, under its key. */
const everywhere = documents.flatMap((document) =>
  placesOf(document).map((place) => ({ key: place.at(-1), value: valueAt(document, place) })),
);

const nonsense: readonly Json[] = [null, '', '?', '-1', 'NaN', [], {}, 0, -1, 1.5, true, '2026-02-30', '1e9'];
const likely: readonly Json[] = ['0.00', '12.34', '0%', '45%', '2026-01-31', '2028-02-29', 1, 7, 300];

/** What a place may come to hold: nonsense, something likely, what stands elsewhere, or nothing. */
const anyAlteration = fc.constantFrom(...documents).chain((document) =>
  fc.constantFrom(...placesOf(document)).chain((place) => {
    const elsewhere = fc
      .constantFrom(...everywhere.filter(({ key }) => key === place.at(-1)))
      .map(({ value }) => value);
    const value = fc.oneof(
      fc.constantFrom(...nonsense),
      fc.constantFrom(...likely),
      elsewhere,
      fc.constant(undefined),
    );
    return value.map((put) => ({ document, place, put }));
  }),
);

/** Roles that a life does not leave at zero: what was paid, bought, spent and earned. */
const lasting = ['cash', 'asset', 'construction-in-progress', 'fees', 'redemption-gain-loss'];

describe('a document in which one thing was altered', () => {
  it('is refused with its reasons, or makes a schedule that is proven and books that balance', () => {
    fc.assert(
      fc.property(anyAlteration, ({ document, place, put }) => {
        const reading = readInstrument(altered(document, place, put));
        if (!reading.ok) {
          expect(reading.faults.length).toBeGreaterThan(0);
          for (const { message } of reading.faults) expect(message).toMatch(/^[\p{Lu}\d“].{8,400}[.”]$/su);
          return;
        }
        const { schedule } = reading.instrument;
        expect(proofsOf(schedule).filter(({ holds }) => !holds)).toEqual([]);
        const { outstanding, carrying, current, nonCurrent } = position(schedule, calendarDay(2026, 10, 31));
        expect(outstanding).toBeGreaterThanOrEqual(0);
        expect(current + nonCurrent).toBe(carrying);
        const whole = entries(
          schedule,
          calendarDay(1990, 1, 1),
          calendarDay(4000, 12, 31),
          'none',
          'reversed',
        );
        for (const { lines } of whole) {
          expect(lines.reduce((sum, { debit, credit }) => sum + debit - credit, 0)).toBe(0);
        }
        const last = schedule.kind !== 'bond' ? (schedule.closing[schedule.length - 1] ?? 0) : 0;
        const unpaid = schedule.kind !== 'bond' ? (schedule.unpaid[schedule.length - 1] ?? 0) : 0;
        if (last + unpaid > 0) return;
        for (const [role, balance] of balancesOf(whole)) {
          // What has not come back of an overpayment stays.
          const left = role === 'overpayment' ? position(schedule, calendarDay(4000, 12, 31)).overpaid : 0;
          if (!lasting.includes(role) && !/^interest-|expense|income/.test(role))
            expect(balance, role).toBe(left);
        }
      }),
      { numRuns: 600 },
    );
  });
});

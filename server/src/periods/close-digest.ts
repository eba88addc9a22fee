import { createHash } from 'node:crypto';
import * as v from 'valibot';
import type { Entry } from '@coffer/core';
import type { MonthChange } from '@coffer/contract';
import type { Accounts } from '../accounts/accounts.ts';
import type { MonthMade } from './month-made.ts';

/** What a close comes to, part by part: by it what changed is named. */
const parts = v.strictObject({
  /** By instrument: its name, its version, and the hash of what the month makes of it. */
  instruments: v.record(v.string(), v.tuple([v.string(), v.number(), v.string()])),
  /** What holds for all of them, by what it is called: its hash. */
  whole: v.record(v.string(), v.string()),
});
export type CloseParts = v.InferOutput<typeof parts>;

/** A close as it was seen. */
export interface CloseDigest {
  /** SHA-256 in hexadecimal. */
  readonly digest: string;
  readonly parts: CloseParts;
}

/** Letters of a hash that are kept of a part: enough to tell it from what it was. */
const kept = 16;

/**
 * What a close comes to: figures, entries with the accounts and the cost centres that they will be posted with, what is
 * not recorded and what cannot be worked out. Two closes are the same where their digests are.
 */
export function closeDigest(made: Omit<MonthMade, keyof CloseDigest>): CloseDigest {
  const { period, choices, work, funds, unworkable, accounts, brought } = made;
  const instruments: CloseParts['instruments'] = {};
  for (const { row, inPeriod, opening, unrecorded, attention } of work) {
    const own = [row, entriesOf(accounts, row.id, inPeriod, opening), unrecorded, attention];
    instruments[row.id] = [row.name, row.version, hashed(own)];
  }
  for (const { fund, inPeriod, opening } of funds) {
    const own = [fund, entriesOf(accounts, fund.id, inPeriod, opening)];
    instruments[fund.id] = [fund.name, fund.version, hashed(own)];
  }
  const whole: CloseParts['whole'] = {
    'What becomes of accruals': hashed(choices),
    'What cannot be worked out': hashed(unworkable),
    'What was brought in': hashed(brought),
  };
  const told = Object.entries(instruments).map(([id, [, version, hash]]) => [id, version, hash]);
  return {
    digest: hashed([period.ends_on, Object.values(whole), told.sort()]),
    parts: {
      instruments: Object.fromEntries(
        Object.entries(instruments).map(([id, [name, version, hash]]) => [
          id,
          [name, version, hash.slice(0, kept)],
        ]),
      ),
      whole,
    },
  };
}

/** Reads parts as they were kept. */
export function readParts(kept: unknown): CloseParts {
  return v.parse(parts, kept);
}

/** What of a close is not as it was. */
export function changedParts(then: CloseParts, now: CloseParts): MonthChange[] {
  const found: MonthChange[] = [];
  const ids = new Set([...Object.keys(then.instruments), ...Object.keys(now.instruments)]);
  for (const instrumentId of ids) {
    const [was, is] = [then.instruments[instrumentId], now.instruments[instrumentId]];
    const name = (is ?? was)?.[0] ?? instrumentId;
    const say = (what: string): void => void found.push({ instrumentId, name, what });
    if (!was) say('has come into the month');
    else if (!is) say('is no longer in the month');
    else if (was[1] !== is[1]) say(`is at version ${is[1]}, and was at ${was[1]}`);
    else if (was[2] !== is[2]) say('comes out otherwise: its accounts, its books or what was chosen');
  }
  for (const [name, hash] of Object.entries(now.whole)) {
    if (then.whole[name] !== hash) found.push({ instrumentId: null, name, what: 'is no longer the same' });
  }
  return found.sort((one, other) => one.name.localeCompare(other.name));
}

/** Entries as they will be posted. */
function entriesOf(
  accounts: Accounts,
  instrumentId: string,
  inPeriod: readonly Entry[],
  opening: Entry | undefined,
): unknown {
  const centre = accounts.costCentre(instrumentId);
  return [...inPeriod, ...(opening ? [opening] : [])].map((entry) => ({
    ...entry,
    centre,
    lines: entry.lines.map((line) => ({
      ...line,
      code: line.code ?? accounts.of(instrumentId, line.account)?.code,
    })),
  }));
}

function hashed(value: unknown): string {
  return createHash('sha256').update(JSON.stringify(value)).digest('hex');
}
